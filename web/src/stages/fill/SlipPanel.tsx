import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import type { Recorder } from '../../bench/useRecorder';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';

interface Props {
  state: Schemas['LoopState'];
  recorder: Recorder;
}

/** A pour that was not the plan: what happened, where it ends, and the litres that still get there. */
export function SlipPanel({ state, recorder }: Props) {
  const { system, temperature } = useUnits();
  const slip = state.fill?.slip;
  const plan = state.plan;
  if (!slip || !plan) return null;
  const again = slip.replan;
  const take = () =>
    again &&
    recorder.record([
      {
        kind: 'planned',
        facts: {
          product_id: Number(plan.product.id),
          coldest_c: plan.coldest_c,
          margin_k: plan.margin_k,
          target_freeze_c: again.feasible ? plan.target_freeze_c : again.freeze_c,
          concentrate_l: again.product_l,
          water_l: again.water_l,
          dilute: plan.dilute,
          reason: plan.reason,
        },
      },
    ]);
  return (
    <section className="slip" aria-label="Not as planned" data-testid="slip">
      <div>
        <p>
          <b>{sayIn(slip.said, system)}</b>
          {slip.unless && ` ${sayIn(slip.unless, system)}`}
        </p>
        {again && <p data-testid="replan">{sayIn(again.said, system)}</p>}
      </div>
      {again && (again.feasible || again.freeze_c !== null) && (
        <ButtonBase className="key" onClick={take} aria-disabled={recorder.busy}>
          {again.feasible ? 'Use the new plan' : `Accept ${temperature(again.freeze_c ?? 0, 0)}`}
        </ButtonBase>
      )}
    </section>
  );
}
