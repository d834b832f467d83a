import type { components } from '../api/schema.gen';
import {
  distanceText,
  kelvinText,
  number,
  pressureText,
  safeText,
  type System,
  temperatureText,
  volumeText,
} from '../units/units';

export type Message = components['schemas']['Message'];

/** A sentence of the core with its figures in the units on show; placeholders carry their unit in their name. */
export function sayIn(saying: Pick<Message, 'template' | 'values'>, system: System): string {
  return saying.template.replace(/\{(\w+)(?::(\d))?\}/g, (_all, name: string, format?: string) => {
    const value = saying.values[name];
    if (typeof value !== 'number') return String(value ?? '');
    const decimals = format === undefined ? 1 : Number(format);
    if (name.startsWith('safe')) return safeText(value, system, decimals);
    if (name.endsWith('_c')) return temperatureText(value, system, decimals);
    if (name.endsWith('_l')) return volumeText(value, system, format === undefined ? 0 : decimals);
    if (name.endsWith('_k')) return kelvinText(value, system);
    if (name.endsWith('_kpa')) return pressureText(value, system);
    if (name.endsWith('_km')) return distanceText(value, system);
    if (name.endsWith('_percent')) return `${number(value, decimals)}\u00a0%`;
    return number(value, decimals);
  });
}

/** A reason or a refusal in the units on show: as the server wrote it where these are its own. */
export const inUnits = (row: { message: string; said?: Message | null }, system: System): string =>
  row.said && system !== 'metric' ? sayIn(row.said, system) : row.message;
