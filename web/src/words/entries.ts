import type { Schemas } from '../api/client';
import { MEASURED, PROOF, ROUTE } from './trade';

interface Units {
  volume: (litres: number) => string;
  temperature: (celsius: number, decimals?: number) => string;
}

type Facts = Record<string, unknown>;

const num = (value: unknown): number => (typeof value === 'number' ? value : 0);
const word = (value: unknown): string => (typeof value === 'string' ? value : '');
const name = (value: unknown): string => word((value as Facts | null)?.name);

const WORDS: Record<string, (facts: Facts, units: Units) => string> = {
  job_opened: (f) => `Came in: ${(ROUTE as Record<string, string>)[word(f.route)]?.toLowerCase() ?? 'a job'}`,
  planned: (f, u) =>
    typeof f.concentrate_l === 'number'
      ? `Mix accepted: ${u.volume(f.concentrate_l)} ${name(f.product)} + ${u.volume(num(f.water_l))} water` +
        (typeof f.target_freeze_c === 'number' ? `, to ${u.temperature(f.target_freeze_c, 0)}` : '')
      : `Going in: ${name(f.product)}`,
  drained: (f, u) =>
    `${u.volume(num(f.drained_l))} out, ${(MEASURED as Record<string, string>)[word(f.measured)] ?? ''}` +
    (num(f.rinses) > 0 ? `, rinsed ${num(f.rinses)} ×` : ''),
  poured: (f, u) =>
    `Poured ${[
      num(f.product_l) > 0 ? `${u.volume(num(f.product_l))} ${name(f.product)}` : '',
      num(f.water_l) > 0 ? `${u.volume(num(f.water_l))} ${word(f.water)} water` : '',
    ]
      .filter(Boolean)
      .join(' + ')}${f.at_mark === true ? ', at the mark' : ''}`,
  read: (f, u) =>
    `${f.place === 'as_found' ? 'As found' : 'Read'} ${u.temperature(num(f.value))}` +
    (f.instrument ? ` on ${name(f.instrument)}` : ', told'),
  signed_off: (f) =>
    `Signed off: ${(PROOF[word(f.proof)] ?? word(f.proof)).toLowerCase()}${f.reason ? ` (${word(f.reason)})` : ''}`,
  voided: () => 'Took an entry back',
};

/** One ledger line in words. */
export function entryWords(entry: Pick<Schemas['EntryOut'], 'kind' | 'facts'>, units: Units): string {
  return WORDS[entry.kind]?.(entry.facts, units) ?? entry.kind;
}
