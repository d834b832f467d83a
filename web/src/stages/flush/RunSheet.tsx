import ButtonBase from '@mui/material/ButtonBase';
import { Link } from 'react-router';
import type { Schemas } from '../../api/client';
import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { type RunDraft, RunFields } from '../../bench/RunFields';
import { readyFor } from '../../bench/readyFor';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { GoPlate } from '../../controls/GoPlate';
import { numberOf } from '../../controls/NumberField';
import { clockText, lengthText, limitText, overLimit, until } from '../../clocks/clock';
import { useServerNow } from '../../clocks/useServerNow';
import { Cautions } from '../../bench/Cautions';
import { RoundsTable } from './RoundsTable';
import '../../bench/holdclock.css';

interface Props extends StageProps {
  onCold: () => void;
}

/** A round is in it and is to be run: its clock, what to watch for, and the one key that says the engine is off. */
export function RunSheet({ bench, recorder, onCold }: Props) {
  const { state, policy } = bench;
  const now = useServerNow(bench.server_time);
  const round = state.flush?.rounds.at(-1);
  const { draft, change, settle } = useDraft<RunDraft>(
    bench,
    'flush',
    { heater: false, opened: 'open', minutes: '', aired: false },
    `run ${round?.entry_id}`,
  );
  const cleaner = state.timers.find((timer) => timer.kind === 'cleaner');
  const warm = state.timers.find((timer) => timer.kind === 'warm_up');
  const over = cleaner ? overLimit(cleaner, now) : null;
  const clock = cleaner ?? warm;
  const minutes = draft.minutes.trim() === '' ? ranMinutes(warm, now) : numberOf(draft.minutes);
  const untold = draft.opened === 'open' ? 'Check both hoses and the heater air' : null;
  const waits = over !== null ? null : (untold ?? (minutes === null ? 'How long did it run?' : null));
  const off = () =>
    recorder.record(
      [
        {
          kind: 'engine_run',
          facts: {
            by: 'engine',
            minutes: minutes === null ? null : Math.min(1440, Number(minutes.toFixed(1))),
            opened: draft.opened === 'open' ? null : draft.opened === 'yes',
            heater_full: draft.heater,
            neck_open: false,
          },
        },
      ],
      settle,
    );
  const asked = state.gate.asked_run ?? [];
  const aired = asked.length === 0 || draft.aired;
  const start = () => {
    if (!aired) return;
    recorder.record([
      ...(asked.length > 0 ? [readyFor(asked)] : []),
      { kind: 'clock_started', facts: { clock: 'warm_up', minutes: policy.warm_up_min ?? 25 } },
    ]);
  };
  const begun = warm !== undefined || draft.opened !== 'open' || draft.minutes !== '' || over !== null;
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={stateMarks(state, state.plan?.coldest_c ?? null)}
      shares
      refusal={recorder.refusal}
      go={
        begun ? (
          <GoPlate
            act={over === null ? 'Engine off: record the run' : 'Engine off now'}
            then="cool, check it is safe, drain"
            waits={waits}
            busy={recorder.busy}
            onPress={off}
          />
        ) : (
          <GoPlate
            act="Engine on: start the clock"
            then="heater on full, both hoses hot"
            waits={aired ? null : 'Tick: exhaust ventilated'}
            busy={recorder.busy}
            onPress={start}
          />
        )
      }
    >
      <Cautions bench={bench} at={cleaner ? 'cleaner_run' : 'run'} />
      <div className={`hold${over === null ? '' : ' over'}`}>
        <div>
          <h1 className="title">
            Round {round?.number}
            {cleaner ? `, ${state.flush?.cleaner?.name ?? 'cleaner'} is in` : ': run it hot'}
          </h1>
          {clock ? (
            <HoldClock timer={clock} now={now} over={over} />
          ) : (
            <p className="noclock">The clock is not running.</p>
          )}
          {over !== null && cleaner && (
            <p className="hot" role="alert">
              <b>{capital(limitText(cleaner, now))}.</b> Engine off, check it is safe to open, drain.
            </p>
          )}
        </div>
        <RunFields
          asked={asked}
          draft={draft}
          what="round"
          clockMinutes={warm ? ranMinutes(warm, now) : null}
          onChange={change}
        />
      </div>
      <p className="ink2">
        Then engine off, let it cool, check it is safe to open. Elapsed time is not enough.
        {draft.opened === 'no' && ' If the thermostat stays shut, the block is not flushed.'}
      </p>
      <div className="row">
        {!warm && (
          <ButtonBase className="key small" onClick={start} aria-disabled={recorder.busy || !aired}>
            Start warm-up clock, {policy.warm_up_min ?? 25} min
          </ButtonBase>
        )}
        <ButtonBase className="key small" onClick={onCold}>
          Not run: drain cold
        </ButtonBase>
        <Link className="key small linkkey" to={`/loops/${bench.loop.id}/labels`}>
          Print a tag
        </Link>
      </div>
      {state.flush && <RoundsTable flush={state.flush} ahead={[]} vessels={state.vessels} />}
    </StageFrame>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

const ranMinutes = (warm: Schemas['TimerState'] | undefined, now: number): number | null =>
  warm ? Math.max(0, (now - Date.parse(warm.started_at)) / 60_000) : null;

/** A measured hold: minutes and seconds left, or by how much it is over. */
function HoldClock({ timer, now, over }: { timer: Schemas['TimerState']; now: number; over: number | null }) {
  const left = over === null ? until(timer.ends_at, now) : -over;
  const text = left > 0 ? clockText(left) : `+${clockText(-left)}`;
  const whole = Date.parse(timer.ends_at ?? timer.started_at) - Date.parse(timer.started_at);
  const part = whole > 0 ? Math.min(1, (now - Date.parse(timer.started_at)) / whole) : 1;
  return (
    <>
      <p
        className={`holdclock num${text.length > 6 ? ' long' : ''}`}
        role="timer"
        aria-label={left > 0 ? `${clockText(left)} left` : 'over'}
      >
        {text}
      </p>
      <div className="holdtrack" aria-hidden="true">
        <i style={{ width: `${100 * part}%` }} />
      </div>
      <p className="ink2">
        {over !== null ? 'over the limit; run time was' : left > 0 ? 'left of' : 'over the time of'} {lengthText(whole)}
        {timer.limit_at &&
          `; drain within ${lengthText(Date.parse(timer.limit_at) - Date.parse(timer.started_at))} at the latest`}
      </p>
    </>
  );
}
