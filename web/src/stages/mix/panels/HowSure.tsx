import type { Schemas } from '../../../api/client';
import { DoubtShare } from '../../../controls/DoubtShare';
import { Check } from '../../../controls/Check';
import { fromBase, number, SYSTEMS, volumeDecimals } from '../../../units/units';
import { useUnits } from '../../../units/UnitsContext';
import { MIX_INPUT, MIX_INPUT_MEASURED } from '../../../language/names';
import type { MixController } from '../useMixController';

/** Where the doubt comes from, largest first, and what measuring would gain. */
export function HowSure({ c, mix }: { c: MixController; mix: Schemas['MixOut'] }) {
  const { temperature } = useUnits();
  // what hardly matters is left out, unless it is all there is
  const inputs = mix.inputs.filter((row, i) => i === 0 || row.share_percent >= 1);
  const target = c.target.ok ? temperature(c.target.base, 0) : 'the target';
  return (
    <div className="howsure">
      <ul>
        {inputs.map((row) => (
          <Row key={row.name} row={row} />
        ))}
        {inputs.length === 0 && <li>Only the handbooks’ curve is uncertain here.</li>}
      </ul>
      <Check
        label={`Guarantee ${target}`}
        detail="the warm end of the interval reaches it too"
        checked={c.draft.beSure}
        onChange={(beSure) => c.change({ beSure })}
      />
    </div>
  );
}

function Row({ row }: { row: Schemas['InputShare'] }) {
  const { system, temperature, coldEnd } = useUnits();
  const unit = SYSTEMS[system].volume;
  const size = row.name.endsWith('_l')
    ? `±${number(fromBase(row.half ?? 0, unit), volumeDecimals(unit))} ${unit === 'l' ? 'L' : unit.replace('_', ' ')}`
    : `±${number(row.half ?? 0, 1)} %`;
  const { freeze_c_low: low, freeze_c_high: high } = row;
  return (
    <li>
      <DoubtShare percent={row.share_percent} />
      <span>
        <b>
          {MIX_INPUT[row.name] ?? row.name} {size}
        </b>
        : {number(row.share_percent, 0)} % of the uncertainty.
        {typeof low === 'number' && typeof high === 'number' && (
          <>
            {' '}
            If {MIX_INPUT_MEASURED[row.name] ?? 'measured'}: {coldEnd(low)} to {temperature(high, 0)}.
          </>
        )}
      </span>
    </li>
  );
}
