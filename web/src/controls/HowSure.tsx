import type { Schemas } from '../api/client';
import { DoubtShare } from './DoubtShare';
import { useUnits } from '../units/UnitsContext';
import { fromBase, number, safeText, SYSTEMS, volumeDecimals } from '../units/units';
import { sayIn } from '../language/say';
import './howSure.css';

type Row = Schemas['HowSure'];

const UNTABULATED_C = -50;

interface Props {
  state: Schemas['LoopState'];
  of: Row['of'][];
}

/** How sure a figure is, and what the doubt comes from: folded to one line, opened by a press. */
export function HowSure({ state, of }: Props) {
  const rows = of.flatMap((one) => state.how_sure.filter((row) => row.of === one));
  return (
    <>
      {rows.map((row) => (
        <Told key={row.of} row={row} safeC={safeOf(state, row.of)} />
      ))}
    </>
  );
}

const CALLED: Record<Row['of'], string> = {
  inside: 'Still inside',
  old: 'Old coolant after refill',
  predicted: 'Predicted',
  read: 'Readings and litres together',
};

/** The warm end with the handbooks' difference in it, of what the row is about. */
const safeOf = (state: Schemas['LoopState'], of: Row['of']): number | null => {
  if (of === 'read') return state.proof?.safe_to_c ?? null;
  return of === 'predicted' ? (state.predicted_safe_c ?? null) : null;
};

function Told({ row, safeC }: { row: Row; safeC: number | null }) {
  const { system, temperature, coldEnd, volume, kelvin } = useUnits();
  const unit = SYSTEMS[system].volume;
  const between = (likely: Row['likely']): string => {
    if (row.of === 'inside') return `${volume(likely.low)} to ${volume(likely.high)}`;
    if (row.of === 'old') return `${number(likely.low, 1)} to ${number(likely.high, 1)} %`;
    return `${likely.low <= UNTABULATED_C ? coldEnd(likely.low) : temperature(likely.low)} to ${temperature(likely.high)}`;
  };
  const half = (value: number): string => {
    if (row.of === 'inside') return `${number(fromBase(value, unit), volumeDecimals(unit))}`;
    if (row.of === 'old') return `${number(value, 1)} %`;
    return kelvin(value);
  };
  const largest = row.parts.slice(0, 2).map((part) => part.name);
  return (
    <details className="sure" data-testid={`sure-${row.of}`}>
      <summary>
        <span>
          <b>How sure?</b> {CALLED[row.of]} {between(row.likely)}
          {largest.length > 0 && <>, mostly by {largest.join(' and ')}</>}.
        </span>
      </summary>
      <ul>
        {row.parts.map((part) => (
          <li key={part.source}>
            <DoubtShare percent={part.share_percent} />
            <span>
              <b>{part.name}</b>: ±{half(part.half)}, {number(part.share_percent, 0)} % of the uncertainty.
            </span>
          </li>
        ))}
        {safeC !== null && safeC - row.likely.high > 0.3 && (
          <li>
            <span>
              <b>Handbooks</b>: two tables differ; by the warmer one it protects to {safeText(safeC, system)}.
            </span>
          </li>
        )}
        {row.gains.map((gain) => (
          <li key={gain.said.code} className="gain">
            <span>
              <b>{sayIn(gain.said, system)}</b>: then {between(gain.likely)}.
            </span>
          </li>
        ))}
      </ul>
    </details>
  );
}
