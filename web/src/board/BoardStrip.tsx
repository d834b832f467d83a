import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { MiniFrost } from '../figures/MiniFrost';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../words/say';
import { waited } from '../words/time';
import { STAGE } from '../words/trade';

interface Props {
  strip: Schemas['Strip'];
  now: Date;
}

/** One loop in work: which machine needs hands, why, and what to do. The whole strip is the target. */
export function BoardStrip({ strip, now }: Props) {
  const { system, volume } = useUnits();
  const { state, machine } = strip;
  const claim = state.claim;
  const atRisk = state.frost_risk;
  const stage = state.stages.find((row) => row.status === 'now');
  return (
    <Link
      className={`bstrip${atRisk ? ' risk' : ''}`}
      to={`/loops/${strip.loop_id}`}
      aria-label={`${machine.fleet_number}, ${machine.kind}, ${strip.loop_name}: ${state.next_action?.act.sentence ?? ''}`}
    >
      <span className={`nowplate${atRisk ? ' hotplate' : ''}`}>
        <span>
          <b>NOW</b>
          {atRisk ? 'keep it in' : waited(state.changed_at ?? now.toISOString(), now.toISOString())}
        </span>
      </span>
      <span className="pl">
        <span className="plate">
          <span>{machine.fleet_number}</span>
        </span>
      </span>
      <span className="u">
        <b>{machine.kind}</b>
        <span>
          {strip.loops_on_machine > 1
            ? `loop ${strip.loop_position} of ${strip.loops_on_machine}, ${strip.loop_name}`
            : machine.description}
          , {volume(strip.capacity_l)}
        </span>
      </span>
      <span className="sg">
        <b>{stage ? STAGE[stage.stage] : ''}</b>
        <span>{stage?.result ? sayIn(stage.result, system) : ''}</span>
        <span className="pips" aria-hidden="true">
          {state.stages.map((row) => (
            <i key={row.stage} className={row.status} />
          ))}
        </span>
      </span>
      <span className="nx">
        <b>{state.next_action && sayIn(state.next_action.act, system)}</b>
        <span>{state.next_action && sayIn(state.next_action.then, system)}</span>
      </span>
      <span className="fr">
        <MiniFrost claim={claim} target={state.plan?.target_freeze_c ?? null} />
      </span>
      <span className="on">
        <span className="ini" title={strip.by.name}>
          {strip.by.initials}
        </span>
      </span>
    </Link>
  );
}
