import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../api/client';
import type { StageProps } from './stage';
import { clockText, TIMER, until } from '../clocks/clock';
import { useServerNow } from '../clocks/useServerNow';
import './clockKey.css';

interface Props extends StageProps {
  clock: Schemas['Clock'];
  minutes: number;
}

/** Starts one clock, and while it runs shows it and stops it. */
export function ClockKey({ bench, recorder, clock, minutes }: Props) {
  const now = useServerNow(bench.server_time);
  const timer = bench.state.timers.find((row) => row.kind === clock);
  if (!timer)
    return (
      <ButtonBase
        className="key small"
        aria-disabled={recorder.busy}
        onClick={() => recorder.record([{ kind: 'clock_started', facts: { clock, minutes } }])}
      >
        Start clock: {TIMER[clock]}, {minutes} min
      </ButtonBase>
    );
  const left = until(timer.ends_at, now);
  return (
    <span className="clockkey">
      <b className="num" role="timer">
        {left > 0 ? clockText(left) : `over by ${clockText(-left)}`}
      </b>
      {TIMER[clock]}
      <ButtonBase
        className="key small"
        aria-disabled={recorder.busy}
        onClick={() => recorder.record([{ kind: 'clock_stopped', facts: { entry_id: timer.entry_id } }])}
      >
        Done
      </ButtonBase>
    </span>
  );
}
