import { Link } from 'react-router';
import { lengthText, aboutText, clockText, overLimit, TIMER, until } from './clock';
import { type Running, useTimers } from './useTimers';
import './clocks.css';

const MOST = 2;

/**
 * What runs in the bay, on every bench: passed limits, then this job's own; another's only where there is neither, so
 * that the chemistry beside it stays readable. A passed limit cannot be put away.
 */
export function TimerChips({ loopId }: { loopId?: number }) {
  const { running, now } = useTimers();
  const over = running.filter((row) => overLimit(row.timer, now) !== null);
  const own = running.filter((row) => row.loopId === loopId && !over.includes(row));
  const others = running.filter((row) => !over.includes(row) && !own.includes(row));
  const shown = over.length + own.length > 0 ? [...over, ...own].slice(0, MOST) : others.slice(0, 1);
  if (shown.length === 0) return null;
  return (
    <div className="chipsline" role="group" aria-label="Running clocks">
      {shown.map((row) => (
        <Chip key={`${row.loopId} ${row.timer.kind}`} row={row} now={now} own={row.loopId === loopId} />
      ))}
      {running.length > shown.length && (
        <Link className="morechips" to="/">
          {running.length - shown.length} more
        </Link>
      )}
    </div>
  );
}

function Chip({ row, now, own }: { row: Running; now: number; own: boolean }) {
  const { timer } = row;
  const over = overLimit(timer, now);
  const left = until(timer.ends_at ?? timer.likely_at, now);
  const words = !timer.ends_at;
  const state = over !== null ? 'over' : words ? 'words' : left <= 0 ? 'rung' : 'counts';
  const head = `${row.fleetNumber} ${TIMER[timer.kind]}`;
  const value =
    over !== null
      ? `${lengthText(over)} over`
      : words
        ? left > 0
          ? `about ${aboutText(left)}`
          : 'check it'
        : left > 0
          ? clockText(left)
          : `NOW ${clockText(-left)}`;
  return (
    <Link className={`timerchip ${state}${own ? ' own' : ''}`} to={`/loops/${row.loopId}`}>
      <span>{head}</span>
      <b className={words ? '' : 'num'} role={words ? undefined : 'timer'}>
        {value}
      </b>
    </Link>
  );
}
