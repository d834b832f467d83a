import type { Schemas } from '../api/client';
import { NAMES } from '../api/names.gen';

/** What runs, on the bench or on a row of the board. */
export type Timer = Schemas['RowTimer'];

export const TIMER: Record<Schemas['TimerKind'], string> = NAMES.timer;

const MINUTE = 60_000;
const pad = (value: number) => String(value).padStart(2, '0');

/** A measured time: 02:18, or 3:02:18 from an hour on. */
export function clockText(ms: number): string {
  const seconds = Math.max(0, Math.round(ms / 1000));
  const [hours, minutes] = [Math.floor(seconds / 3600), Math.floor((seconds % 3600) / 60)];
  return hours > 0 ? `${hours}:${pad(minutes)}:${pad(seconds % 60)}` : `${pad(minutes)}:${pad(seconds % 60)}`;
}

/** A length in words: 45 min, 4 h, 4 h 05. */
export function lengthText(ms: number): string {
  const minutes = Math.max(0, Math.round(ms / MINUTE));
  const [hours, rest] = [Math.floor(minutes / 60), minutes % 60];
  if (hours === 0) return `${minutes} min`;
  return rest === 0 ? `${hours} h` : `${hours} h ${pad(rest)}`;
}

const QUARTERS = ['', '¼', '½', '¾'];

/** An estimate in words, rounded as far as it is known: 10 min, 30 min, 1¼ h, 2 h. Never a clock. */
export function aboutText(ms: number): string {
  const minutes = ms / MINUTE;
  if (minutes < 4) return 'a few min';
  if (minutes < 55) return `${Math.max(5, Math.round(minutes / 5) * 5)} min`;
  const quarters = Math.round(minutes / 15);
  const [hours, rest] = [Math.floor(quarters / 4), QUARTERS[quarters % 4] ?? ''];
  return `${hours}${rest} h`;
}

export const until = (iso: string | null | undefined, now: number): number => (iso ? Date.parse(iso) - now : Infinity);

/** What a cooling loop says: about how long, and between which two. */
export function coolingText(timer: Timer, now: number): string {
  const [likely, low, high] = [timer.likely_at, timer.low_at, timer.high_at].map((at) => until(at, now)) as [
    number,
    number,
    number,
  ];
  if (high <= 0) return 'should be cold by now: check it is safe';
  if (likely <= 0) return 'may be cold by now: check it is safe';
  return `cools about ${aboutText(likely)}, somewhere from ${low <= 4 * MINUTE ? 'now' : aboutText(low)} to ${aboutText(high)}`;
}

/** Milliseconds since a limit was passed; null before, or where there is none. */
export function overLimit(timer: Timer, now: number): number | null {
  const left = until(timer.limit_at, now);
  return left <= 0 ? -left : null;
}

/** "cleaner in for 4 h 05, limit 4 h: drain now" */
export function limitText(timer: Timer, now: number): string {
  const inside = now - Date.parse(timer.started_at);
  const limit = Date.parse(timer.limit_at ?? timer.started_at) - Date.parse(timer.started_at);
  return `cleaner in for ${lengthText(inside)}, limit ${lengthText(limit)}: drain now`;
}

/** When something rings next, after a moment; Infinity where nothing will. */
export function nextRing(timers: readonly Timer[], after: number): number {
  const moments = timers.flatMap((timer) => [timer.ends_at, timer.limit_at, timer.likely_at]);
  return Math.min(...moments.map((at) => (at ? Date.parse(at) : Infinity)).filter((at) => at > after), Infinity);
}
