import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { sessionOptions } from '../api/queries';
import { GoPlate } from '../controls/GoPlate';
import { useUnits } from '../units/UnitsContext';
import { coolingText, limitText, overLimit } from '../clocks/clock';
import { useServerNow } from '../clocks/useServerNow';
import { sayIn } from '../language/say';
import { timeOf } from '../language/time';
import type { StageProps } from './stage';
import { stateMarks } from './marks';
import { ParkedNow } from './ParkedNow';
import { StageFrame } from './StageFrame';
import { useDepot } from '../api/useDepot';
import './pause.css';

/** A paused job: what is inside, why, since when, and the one key that resumes it. */
export function PausedSheet({ bench, recorder }: StageProps) {
  const { system } = useUnits();
  const zone = useDepot()?.time_zone;
  const me = useQuery(sessionOptions).data?.person;
  const now = useServerNow(bench.server_time);
  const { state } = bench;
  const { paused } = state;
  if (!paused) return null;
  const over = state.timers.find((timer) => overLimit(timer, now) !== null);
  const cooling = state.timers.find((timer) => timer.kind === 'cooling');
  const mine = me !== undefined && bench.by?.id === me?.id;
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={stateMarks(state, state.plan?.coldest_c ?? null)}
      shares={state.flush !== null}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={mine ? 'Resume job' : 'Resume job'}
          then="check again that it is safe to open"
          busy={recorder.busy}
          onPress={() => recorder.record([{ kind: 'resumed', facts: {} }])}
        />
      }
    >
      <div className="aside" data-testid="aside">
        <i className="tape" aria-hidden="true" />
        <h1 className="title">{sayIn(state.standing, system)}</h1>
        <p>
          Paused by {paused.by}, {timeOf(paused.at, zone)}.{paused.note && <b> {paused.note}</b>}
        </p>
        {over && (
          <p className="hot" role="alert">
            <b>{limitText(over, now)}</b>
          </p>
        )}
        {cooling && <p className="ink2">Machine {coolingText(cooling, now)}.</p>}
        <p className="ink2">Whoever resumes makes the safe-to-open check again before opening it.</p>
        <ParkedNow bench={bench} />
        <Link className="key small linkkey" to={`/loops/${bench.loop.id}/labels`}>
          Print a tag
        </Link>
      </div>
    </StageFrame>
  );
}
