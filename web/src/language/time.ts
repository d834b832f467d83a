/** Times are the depot's, whatever clock the tablet has. */
const format = (iso: string, zone: string | undefined, options: Intl.DateTimeFormatOptions): string =>
  new Intl.DateTimeFormat('en-GB', { ...options, timeZone: zone ?? 'UTC' }).format(new Date(iso));

export const clockOf = (iso: string, zone?: string): string =>
  format(iso, zone, { hour: '2-digit', minute: '2-digit' });

export const dayOf = (iso: string, zone?: string): string =>
  format(iso, zone, { weekday: 'short', day: 'numeric', month: 'short' });

/** A plain date, as "28 Mar 2027". */
export const dateOf = (iso: string): string =>
  new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric', timeZone: 'UTC' }).format(
    new Date(`${iso.slice(0, 10)}T12:00:00Z`),
  );

/** The clock today, day and clock otherwise. */
export function timeOf(iso: string, zone?: string, now: Date = new Date()): string {
  const sameDay = dayOf(iso, zone) === dayOf(now.toISOString(), zone);
  return sameDay ? clockOf(iso, zone) : `${dayOf(iso, zone)} ${clockOf(iso, zone)}`;
}

/** How long something has waited, in a word or two. */
export function waited(fromIso: string, nowIso: string): string {
  const minutes = Math.max(0, Math.floor((Date.parse(nowIso) - Date.parse(fromIso)) / 60_000));
  if (minutes < 1) return 'just now';
  if (minutes < 100) return `waits ${minutes} min`;
  const hours = Math.round(minutes / 60);
  return hours < 36 ? `waits ${hours} h` : `waits ${Math.round(hours / 24)} days`;
}
