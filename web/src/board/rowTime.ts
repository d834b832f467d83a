import type { Schemas } from '../api/client';
import { aboutText, clockText, lengthText, TIMER, until } from '../clocks/clock';

export interface RowTime {
  head: string;
  text: string;
}

const DAY = 24 * 3_600_000;

/** How long ago in a word or two: 43 min, 5 h, 3 days. */
export function ago(iso: string, now: number): string {
  const ms = Math.max(0, now - Date.parse(iso));
  if (ms < 60_000) return 'now';
  if (ms < 2 * 3_600_000) return `${Math.floor(ms / 60_000)} min`;
  return ms < 1.5 * DAY ? `${Math.round(ms / 3_600_000)} h` : `${Math.round(ms / DAY)} days`;
}

/** The first column of a row: a time, and what it is. An estimate has a tilde, and is never a clock. */
export function rowTime(strip: Schemas['Strip'], now: number, cold: (celsius: number) => string): RowTime {
  const { row, wait } = strip;
  const since = wait.since ?? row.changed_at;
  const late = since ? lengthText(Math.max(0, now - Date.parse(since))) : '';
  if (wait.kind === 'limit') return { head: `+${late}`, text: 'over limit' };
  if (wait.kind === 'hands' && wait.timer && wait.timer !== 'cooling')
    return { head: `+${late}`, text: `${TIMER[wait.timer]} over` };
  if (strip.frost_low_c !== null) return { head: 'tonight', text: cold(strip.frost_low_c) };
  const left = until(wait.until, now);
  if (wait.kind === 'counting' && wait.timer)
    return left > 0 ? { head: clockText(left), text: TIMER[wait.timer] } : { head: 'over', text: TIMER[wait.timer] };
  if (wait.kind === 'cooling' && left > 0) return { head: `~${aboutText(left)}`, text: 'to cool' };
  if (wait.kind === 'paused') return { head: since ? ago(since, now) : '', text: 'paused' };
  return { head: since ? ago(since, now) : 'now', text: wait.timer === 'cooling' ? 'may be cold' : 'waiting' };
}
