import { clockOffset, keepClockOffset } from './store';
import { tell } from './state';

const JUMP_MS = 90_000;
let steady: { wall: number; mono: number } | null = null;

/** The offset of a time zone at a moment, as in +01:00. */
export function offsetOf(zone: string, at: Date): string {
  const parts = new Intl.DateTimeFormat('en-US', { timeZone: zone, timeZoneName: 'longOffset' }).formatToParts(at);
  const name = parts.find((part) => part.type === 'timeZoneName')?.value ?? 'GMT';
  return name === 'GMT' ? '+00:00' : name.replace('GMT', '');
}

/** A moment written with the offset of a zone, as the core reads it. */
export function written(at: Date, zone: string): string {
  const offset = offsetOf(zone, at);
  const sign = offset.startsWith('-') ? -1 : 1;
  const [hours = 0, minutes = 0] = offset.slice(1).split(':').map(Number);
  const local = new Date(at.getTime() + sign * (hours * 60 + minutes) * 60_000);
  return local.toISOString().replace('Z', offset);
}

/** The server's time by this device's clock and the offset last seen, in the depot's zone. */
export async function nowInZone(zone: string): Promise<string> {
  noticeJump();
  return written(new Date(Date.now() + (await clockOffset())), zone);
}

/** Keep how far the server's clock is ahead, from an answer of now. */
export async function noteServerTime(serverTime: string): Promise<void> {
  await keepClockOffset(new Date(serverTime).getTime() - Date.now());
  steady = { wall: Date.now(), mono: performance.now() };
  tell({ clockJumped: false });
}

/** A clock that was set while nothing answered: wall time and running time went apart. */
export function noticeJump(): void {
  const wall = Date.now();
  const mono = performance.now();
  if (steady && Math.abs(wall - steady.wall - (mono - steady.mono)) > JUMP_MS) tell({ clockJumped: true });
  steady ??= { wall, mono };
}
