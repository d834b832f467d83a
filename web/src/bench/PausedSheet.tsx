import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { sessionOptions } from '../api/queries';
import { GoPlate } from '../parts/GoPlate';
import { useUnits } from '../units/UnitsContext';
import { coolingText, limitText, overLimit } from '../waiting/clock';
import { useServerNow } from '../waiting/useServerNow';
import { sayIn } from '../words/say';
import { timeOf } from '../words/time';
import type { StageProps } from './BenchPage';
import { stateMarks } from './marks';
import { StageFrame } from './StageFrame';
import { useDepot } from './useDepot';

/** A job that was put aside: what it holds, why, since when, and the one key that takes it up. */
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
          act={mine ? 'Take it up again' : 'Take it over'}
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
          Put aside by {paused.by}, {timeOf(paused.at, zone)}.{paused.note && <b> {paused.note}</b>}
        </p>
        {over && (
          <p className="hot" role="alert">
            <b>{limitText(over, now)}</b>
          </p>
        )}
        {cooling && <p className="ink2">It {coolingText(cooling, now)}.</p>}
        <p className="ink2">Whoever takes it up feels hose and cap before opening it, whatever was felt before.</p>
        <Link className="key small linkkey" to={`/loops/${bench.loop.id}/labels`}>
          Tag to hang on it
        </Link>
      </div>
    </StageFrame>
  );
}
