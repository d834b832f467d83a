import type { Schemas } from '../../api/client';
import { parseTyped, type Typed } from '../../units/parse';
import type { Kind, System } from '../../units/units';

export type Mode = 'weighed' | 'marks' | 'contents_reported';

/** One container: what it was caught from, and either its weights or its mark. */
export interface CaughtDraft {
  where: string;
  gross: Typed;
  tare: Typed;
  marks: Typed;
}

export interface DrainDraft {
  mode: Mode;
  caught: CaughtDraft[];
  at: Typed;
  spilled: Typed;
  total: Typed;
  measured: Schemas['Measured'] | '';
  capOn: boolean;
}

export const EMPTY_L: Typed = { text: '', unit: 'l' };
const EMPTY_KG: Typed = { text: '', unit: 'kg' };

export const caughtFrom = (where: string, tare: Typed = EMPTY_KG): CaughtDraft => ({
  where,
  gross: EMPTY_KG,
  tare,
  marks: EMPTY_L,
});

export const startDrain = (drain: Schemas['DrainPlan']): DrainDraft => ({
  mode: 'weighed',
  caught: drain.points.map((point) => caughtFrom(point.where)),
  at: { text: '', unit: 'degC' },
  spilled: EMPTY_L,
  total: EMPTY_L,
  measured: '',
  capOn: false,
});

type Facts = Extract<Schemas['EntriesIn']['entries'][number], { kind: 'drained' }>['facts'];

export interface Asked {
  facts: Facts | null;
  /** Something typed cannot be read, or is half given. */
  bad: boolean;
  /** What is still to be said of what is typed. */
  asks?: string;
}

/** The facts of what is typed; null facts where nothing is given yet. */
export function askDrain(draft: DrainDraft, system: System): Asked {
  const read = (typed: Typed, kind: Kind) => parseTyped(typed, kind, system);
  const cap = { ran_with_cap_on: draft.capOn };
  if (draft.mode === 'contents_reported') {
    const parsed = read(draft.total, 'volume');
    if (!parsed.ok) return { facts: null, bad: !parsed.empty };
    if (draft.measured === '') return { facts: null, bad: false, asks: 'How were the litres measured?' };
    return {
      facts: { drained_l: parsed.base, measured: draft.measured, by_vessel: {}, caught: [], ...cap },
      bad: false,
    };
  }
  const [at, spilled] = [read(draft.at, 'temperature'), read(draft.spilled, 'volume')];
  let bad = (!at.ok && !at.empty) || (!spilled.ok && !spilled.empty);
  const caught: Schemas['CaughtIn'][] = [];
  for (const row of draft.caught) {
    const base = { where: row.where, tare_kg: 0, spilled_l: 0 };
    if (draft.mode === 'weighed') {
      const [gross, tare] = [read(row.gross, 'weight'), read(row.tare, 'weight')];
      bad ||= (!gross.ok && !gross.empty) || (!tare.ok && !tare.empty);
      if (gross.ok) caught.push({ ...base, gross_kg: gross.base, tare_kg: tare.ok ? tare.base : 0 });
    } else {
      const marks = read(row.marks, 'volume');
      bad ||= !marks.ok && !marks.empty;
      if (marks.ok && at.ok) caught.push({ ...base, marks_l: marks.base, at_c: at.base });
      else if (marks.ok) return { facts: null, bad, asks: 'How warm is the fluid?' };
    }
  }
  const [first] = caught;
  if (first && spilled.ok) first.spilled_l = spilled.base;
  if (bad || !first) return { facts: null, bad };
  return { facts: { drained_l: null, measured: draft.mode, by_vessel: {}, caught, ...cap }, bad };
}
