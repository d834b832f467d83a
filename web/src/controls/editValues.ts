import type { Schemas } from '../api/client';
import { parseNumber, parseTyped, type Typed, typedFrom } from '../units/parse';
import type { Kind, System } from '../units/units';

export type Field = Schemas['EditField'];
export type Value = string | boolean | string[] | Typed | null;

const QUANTITIES: readonly string[] = ['volume', 'temperature', 'pressure', 'weight', 'distance'];

/** The kind of a quantity that has units; null for all else. */
export const quantityOf = (field: Field): Kind | null =>
  QUANTITIES.includes(field.kind) ? (field.kind as Kind) : null;

const DECIMALS = 3;

/** A field as it is first shown: what the entry says now. */
export function shownValue(field: Field, system: System): Value {
  const kind = quantityOf(field);
  if (kind) return typeof field.value === 'number' ? typedFrom(field.value, kind, system) : { text: '', unit: 'l' };
  if (field.kind === 'number')
    return typeof field.value === 'number' ? String(Number(field.value.toFixed(DECIMALS))) : '';
  if (field.kind === 'choices') return Array.isArray(field.value) ? field.value : [];
  return field.value as Value;
}

/** What is sent for a field; undefined where what is typed cannot be read. */
export function sentValue(
  field: Field,
  value: Value,
  system: System,
): number | string | boolean | string[] | null | undefined {
  const kind = quantityOf(field);
  if (kind) {
    const typed = parseTyped(value as Typed, kind, system);
    return typed.ok ? typed.base : typed.empty && field.optional ? null : undefined;
  }
  if (field.kind === 'number') {
    const typed = parseNumber(String(value ?? ''));
    return typed.ok ? typed.value : typed.empty && field.optional ? null : undefined;
  }
  if (field.kind === 'date') return value === '' ? null : (value as string | null);
  return value as string | boolean | string[] | null;
}

const same = (a: unknown, b: unknown) => JSON.stringify(a) === JSON.stringify(b);

/** The fields that were typed differently; null while one of them cannot be read. */
export function changesOf(
  fields: readonly Field[],
  values: Record<string, Value>,
  system: System,
): Schemas['FieldValue'][] | null {
  const changes: Schemas['FieldValue'][] = [];
  for (const field of fields) {
    const value = values[field.path];
    if (value === undefined || same(value, shownValue(field, system))) continue;
    const sent = sentValue(field, value, system);
    if (sent === undefined) return null;
    if (!same(sent, field.value)) changes.push({ path: field.path, value: sent });
  }
  return changes;
}
