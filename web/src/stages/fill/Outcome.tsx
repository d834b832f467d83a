import type { Schemas } from '../../api/client';
import { IntervalMark } from '../../controls/icons';
import { safeText, showTemperature } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';

interface Props {
  state: Schemas['LoopState'];
  plan: Schemas['PlanState'] | null;
  temperature: (celsius: number, decimals?: number) => string;
  /** The slip stands over the sheet already. */
  recorded?: boolean;
}

/** Where this pour takes the loop, once mixed. */
export function Outcome({ state, plan, temperature, recorded = false }: Props) {
  const { system } = useUnits();
  const at = state.predicted_freeze_c;
  const likely = state.predicted_likely_c;
  if (at === null || !likely) return null;
  const target = plan?.target_freeze_c ?? null;
  const off = target === null ? 0 : at - target;
  const restFits = state.poured.rest_fits ?? false;
  const ends = restFits ? (state.fill?.ends_freeze_c ?? null) : null;
  const slip = state.fill?.slip;
  const shown = showTemperature(at, system);
  return (
    <div className="answers">
      <div className="answer">
        <span className="big num" data-testid="predicted">
          {shown.value}
        </span>
        <span className="pm">
          <span />
          <span className="unit">{shown.unit}</span>
        </span>
        <span className="cap">once mixed, predicted</span>
      </div>
      <div style={{ minWidth: 0, maxWidth: 320, fontSize: 18 }}>
        <p>
          <span style={{ float: 'left', paddingRight: 8 }}>
            <IntervalMark />
          </span>
          Likely {temperature(likely.low, 0)} to {temperature(likely.high, 0)}
          {state.predicted_safe_c !== null && `; protects to about ${safeText(state.predicted_safe_c, system)}`}.
        </p>
        {ends !== null && state.fill && state.fill.pours.length > 0 && Math.abs(ends - at) > 0.3 && (
          <p>With the rest of the plan: {temperature(ends)}.</p>
        )}
        {slip && !recorded && (
          <p className="hot" data-testid="slip-ahead">
            {sayIn(slip.said, system)}
          </p>
        )}
        {target !== null && ends === null && Math.abs(off) > 1 && (
          <p className="hot" style={{ fontWeight: 700 }}>
            {off > 0 ? 'Weaker' : 'Stronger'} than planned ({temperature(target, 0)}).
          </p>
        )}
      </div>
    </div>
  );
}
