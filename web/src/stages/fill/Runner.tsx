import ButtonBase from '@mui/material/ButtonBase';
import { useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { benchOptions } from '../../api/queries';
import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { GoPlate } from '../../controls/GoPlate';
import { clockText, until } from '../../clocks/clock';
import { useServerNow } from '../../clocks/useServerNow';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { OpenStage } from '../open/OpenStage';
import { SignsSheet } from './SignsSheet';
import { TopUpKeys } from './TopUpKeys';
import '../../bench/holdclock.css';

const LATE_MS = 250; // the server's clock decides; asked a moment after the step's end

/** Ask again once the step's time is over: the next step follows from the clock. */
function useStepEnd(loopId: number, endsAt: string | null | undefined, now: number): void {
  const client = useQueryClient();
  const left = until(endsAt, now);
  const soon = left < 30_000;
  useEffect(() => {
    if (!endsAt || !soon) return undefined;
    const timer = setTimeout(
      () => void client.invalidateQueries(benchOptions(loopId)),
      Math.max(0, Math.min(left, 30_000)) + LATE_MS,
    );
    return () => clearTimeout(timer);
    // a new end, or the last half minute, sets the timer; every tick must not
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [client, loopId, endsAt, soon]);
}

/** A bleed under way, to be read from two metres: what now, how long still, and the keys that hands in gloves hit. */
export function Runner({ bench, recorder }: StageProps) {
  const { system } = useUnits();
  const now = useServerNow(bench.server_time);
  const [view, show] = useState<'run' | 'signs' | 'feel' | 'wrong'>('run');
  const { state } = bench;
  const bleed = state.fill?.bleed;
  const run = bleed?.run;
  useStepEnd(bench.loop.id, run?.ends_at, now);
  if (!bleed || !run) return null;
  if (view === 'signs') return <SignsSheet bench={bench} recorder={recorder} onBack={() => show('run')} />;
  if (view === 'feel') return <OpenStage bench={bench} recorder={recorder} purpose="cap" />;
  const step = bleed.steps[run.step];
  const next = bleed.steps[run.step + 1];
  const left = run.held ? (run.left_s ?? 0) * 1000 : until(run.ends_at, now);
  const timed = run.left_s !== null || run.ends_at !== null;
  const blocked = run.gate && !state.gate.open;
  const last = !next;
  const goOn = () => recorder.record([{ kind: 'bleed_stepped', facts: { step: run.step + 1 } }]);
  const hold = () =>
    recorder.record([run.held ? { kind: 'bleed_goes_on', facts: {} } : { kind: 'bleed_held', facts: {} }]);
  const end = (outcome: 'overheating' | 'no_heat' | 'stopped') =>
    recorder.record([{ kind: 'bleed_ended', facts: { outcome, signs: [] } }]);
  const topUps = state.fill?.top_ups;
  const go = blocked ? (
    <GoPlate act="Engine off: check it is safe" then="it may be opened" onPress={() => show('feel')} />
  ) : last ? (
    <GoPlate act="Two signs: the air is out" then="let it cool, then read" onPress={() => show('signs')} />
  ) : (
    <GoPlate
      act={timed && left > 0 ? 'Skip remaining time' : 'Next step'}
      then={`step ${run.step + 2} of ${bleed.steps.length}`}
      busy={recorder.busy}
      onPress={goOn}
    />
  );
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={{ ...stateMarks(state, state.plan?.coldest_c ?? null), target: state.plan?.target_freeze_c ?? null }}
      refusal={recorder.refusal}
      go={go}
    >
      <div className="runner" data-testid="runner">
        <p className="runcount">
          Step {run.step + 1} of {bleed.steps.length}, {bleed.recipe.name.toLowerCase()}
        </p>
        <h1 className="runact">
          {blocked ? 'Engine off. It ran hot with the cap on: check it is safe to open' : step?.act}
        </h1>
        <p className="runwords">
          {step?.words.map((word) => (
            <span key={word}>{word}</span>
          ))}
        </p>
        <div className="runclock">
          {timed ? (
            <p className={`holdclock num${run.held ? ' held' : ''}`} role="timer">
              {clockText(Math.max(0, left))}
            </p>
          ) : (
            <p className="rununtil">until you press Next step</p>
          )}
          <ButtonBase className="key holdkey" onClick={hold} aria-disabled={recorder.busy}>
            {run.held ? 'Continue' : 'Pause'}
          </ButtonBase>
        </div>
        {next && (
          <p className="ink2">
            Then: {next.act}
            {next.opens && ' (opens the loop)'}
          </p>
        )}
      </div>
      {state.gate.ran_shut ? (
        <p className="ink2 shutwords" data-testid="no-top-up">
          Cap is on and it is hot: do not open or top up until it has cooled and is safe to open.
        </p>
      ) : (
        <TopUpKeys bench={bench} recorder={recorder} />
      )}
      {topUps && (
        <p data-testid="top-ups" className={topUps.verdict === 'wrong' ? 'hot' : ''}>
          {sayIn(topUps.said, system)}
        </p>
      )}
      {view === 'wrong' ? (
        <div className="row branches">
          <ButtonBase className="key" onClick={() => end('overheating')}>
            Overheating: engine off
          </ButtonBase>
          <ButtonBase className="key" onClick={() => end('no_heat')}>
            Engine hot, heater cold
          </ButtonBase>
          <ButtonBase className="key" onClick={() => end('stopped')}>
            Stop for another reason
          </ButtonBase>
          <ButtonBase className="key" onClick={() => show('run')}>
            Nothing wrong: continue
          </ButtonBase>
        </div>
      ) : (
        <div className="row branches">
          <ButtonBase className="key" onClick={() => show('wrong')}>
            Something is wrong
          </ButtonBase>
          {!last && (
            <ButtonBase className="key" onClick={() => show('signs')}>
              Already two signs
            </ButtonBase>
          )}
        </div>
      )}
    </StageFrame>
  );
}
