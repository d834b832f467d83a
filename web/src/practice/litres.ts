import { parseTyped, type Typed } from '../units/parse';
import type { System } from '../units/units';

const LEAST_L = 0.02;

/** The litres that were typed, in the units on show; null where nothing can be poured by it. */
export function litresTyped(typed: Typed, system: System): number | null {
  const parsed = parseTyped(typed, 'volume', system);
  return parsed.ok && parsed.base >= LEAST_L ? parsed.base : null;
}
