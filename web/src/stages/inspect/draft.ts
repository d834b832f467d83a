import type { Schemas } from '../../api/client';
import type { Fact } from '../../bench/useRecorder';
import { numberOf, wrongNumber } from '../../controls/NumberField';
import { kindOfTyped } from '../../controls/reading/scale';
import { parseTyped, type Typed } from '../../units/parse';
import type { Kind, System } from '../../units/units';

type Check = Schemas['Check'];
type CheckRow = Schemas['CheckRow'];

export interface CheckDraft {
  outcome: string | null;
  /** Of a conductivity: the meter converts it to 25 °C itself, or not; null while nobody said. */
  compensated?: boolean | null;
  figures: Record<string, Typed>;
}

/** What is looked at and not recorded yet, and the decision that is being made. */
export interface TestDraft {
  panel: 'outside' | 'sample' | 'checks' | 'decide';
  spot: Schemas['Spot'] | '';
  looks: Schemas['Look'][];
  sediment: string;
  checks: Partial<Record<Check, CheckDraft>>;
  instrumentId: number | null;
  value: Typed;
  sample: Typed;
  job_type: Schemas['JobType'] | null;
  reason: string;
  leftOut: string;
  /** A dose: of what, how much, out of which container; and how it was run after. */
  agentId: number | null;
  doseMl: string;
  canId: string;
  heater: boolean;
  opened: 'open' | 'yes' | 'no';
  minutes: string;
  aired: boolean;
}

export const EMPTY: TestDraft = {
  panel: 'outside',
  spot: '',
  looks: [],
  sediment: '',
  checks: {},
  instrumentId: null,
  value: { text: '', unit: 'degC' },
  sample: { text: '', unit: 'degC' },
  job_type: null,
  reason: '',
  leftOut: '',
  agentId: null,
  doseMl: '',
  canId: '',
  heater: false,
  opened: 'open',
  minutes: '',
  aired: false,
};

/** What is cleared once it is recorded: only what still stands as it was pressed. */
export function cleared(now: TestDraft, pressed: TestDraft): Partial<TestDraft> {
  const checks = Object.fromEntries(
    Object.entries(now.checks).filter(([check, typed]) => typed !== pressed.checks[check as Check]),
  );
  return {
    checks,
    ...(now.looks === pressed.looks ? { looks: [] } : {}),
    ...(now.sediment === pressed.sediment ? { sediment: '' } : {}),
    ...(now.value === pressed.value ? { value: EMPTY.value, sample: EMPTY.sample } : {}),
  };
}

const kindOf = (figure: Schemas['Figure']): Kind | null => ((figure.kind ?? '') === '' ? null : (figure.kind as Kind));

/** One figure as typed, in the unit the core takes; null where nothing is typed, a sentence where it cannot be. */
function figureValue(figure: Schemas['Figure'], typed: Typed | undefined, system: System): number | null | string {
  if (!typed || typed.text.trim() === '') return null;
  const kind = kindOf(figure);
  if (kind) {
    const parsed = parseTyped(typed, kind, system);
    return parsed.ok ? parsed.base : 'unreadable';
  }
  return wrongNumber(typed.text, figure.unit, figure.low, figure.high) ?? numberOf(typed.text);
}

/** How much is missing is asked of a low level only. */
export const figuresAsked = (row: CheckRow, outcome: string | null): Schemas['Figure'][] =>
  row.check === 'level' && outcome !== 'low' && outcome !== 'keeps_falling' ? [] : (row.figures ?? []);

/** The card's values of each figure that is one of its bands. */
const cardOf = (figures: Record<string, number>, bands: Record<string, number[]>): Record<string, number[]> =>
  Object.fromEntries(
    Object.entries(bands)
      .map(([key, values]) => [key, [...new Set(values)].sort((a, b) => a - b)] as const)
      .filter(([key, values]) => key in figures && values.includes(figures[key] as number)),
  );

export interface Pending {
  facts: Fact[];
  /** Why it cannot be recorded yet; null where it can. */
  waits: string | null;
}

/** The facts that stand on the sheet, ready to be recorded together. */
export function pendingOf(
  draft: TestDraft,
  rows: CheckRow[],
  system: System,
  bands: Record<string, number[]> = {},
): Pending {
  const facts: Fact[] = [];
  let waits: string | null = null;
  const sediment = numberOf(draft.sediment);
  if (wrongNumber(draft.sediment, 'mm', 0, 200)) waits = 'Fix the sediment';
  else if (draft.looks.length > 0 || sediment !== null) {
    if (draft.spot === '') waits = 'Where was the sample taken?';
    else
      facts.push({ kind: 'sampled', facts: { spot: draft.spot, looks: draft.looks, sediment_mm: sediment, note: '' } });
  }
  for (const row of rows) {
    const typed = draft.checks[row.check];
    if (!typed) continue;
    const figures: Record<string, number> = {};
    for (const figure of figuresAsked(row, typed.outcome)) {
      const value = figureValue(figure, typed.figures[figure.key], system);
      if (typeof value === 'string') waits = `${row.name}: correct ${figure.name}`;
      else if (value !== null) figures[figure.key] = value;
    }
    if (typed.outcome === null && Object.keys(figures).length === 0) continue;
    const missing = (row.figures ?? []).find((figure) => (figure.required ?? true) && !(figure.key in figures));
    if (missing && !waits) waits = `${row.name}: ${missing.name} is missing`;
    const compensated = row.check === 'conductivity' ? (typed.compensated ?? null) : null;
    if (row.check === 'conductivity' && compensated === null && !waits) waits = 'Does the meter convert to 25 °C?';
    const card = row.check === 'inhibitor' ? cardOf(figures, bands) : {};
    facts.push({
      kind: 'tested',
      facts: { check: row.check, outcome: typed.outcome, figures, note: '', compensated, card },
    });
  }
  const [value, sample] = [
    parseTyped(draft.value, kindOfTyped(draft.value), system),
    parseTyped(draft.sample, 'temperature', system),
  ];
  if (!value.ok && !value.empty) waits = 'Fix the reading';
  else if (value.ok && (!sample.ok || draft.instrumentId === null)) waits = 'Which instrument, how warm is the sample?';
  else if (value.ok && sample.ok)
    facts.push({
      kind: 'read',
      facts: {
        value: value.base,
        place: 'as_found',
        instrument_id: draft.instrumentId,
        sample_c: sample.base,
        after_hot_run: false,
      },
    });
  return { facts, waits };
}
