/** Plain days as 2026-11-30, without any clock. */
const at = (day: string) => new Date(`${day}T12:00:00Z`);

export const plusDays = (day: string, days: number): string =>
  new Date(at(day).getTime() + days * 86_400_000).toISOString().slice(0, 10);

export const daysOfWeek = (monday: string): string[] => Array.from({ length: 7 }, (_, n) => plusDays(monday, n));

const format = (day: string, options: Intl.DateTimeFormatOptions): string =>
  new Intl.DateTimeFormat('en-GB', { ...options, timeZone: 'UTC' }).format(at(day));

/** "Mon 30 Nov" */
export const dayWords = (day: string): string => format(day, { weekday: 'short', day: 'numeric', month: 'short' });

/** "Nov 2026" */
export const monthWords = (day: string): string => format(day, { month: 'short', year: 'numeric' });
