import type { Schemas } from '../api/client';
import type { Fact } from '../bench/useRecorder';
import { topUpFact } from '../stages/fill/topUp';
import { numberOf } from '../controls/NumberField';
import { parseTyped, type Typed } from '../units/parse';
import type { System } from '../units/units';

/** What is typed of one look between services. */
export interface LookDraft {
  level: Schemas['Level'] | 'open';
  /** Of a low level: how much is missing, by litres or by millimetres. */
  missing: Typed;
  missingMm: string;
  topped: Typed;
  what: 'same' | 'demineralised' | 'tap' | '';
  /** Where the level stood once it was topped up. */
  after: 'at_mark' | 'low' | '';
  lostWhen: Schemas['LostWhen'] | '';
  spilled: Typed;
  km: Typed;
  hours: string;
  picked: number | null;
  value: Typed;
  sample: Typed;
}

const NONE: Typed = { text: '', unit: 'l' };
export const EMPTY_LOOK: LookDraft = {
  level: 'open',
  missing: NONE,
  missingMm: '',
  topped: NONE,
  what: '',
  after: '',
  lostWhen: '',
  spilled: NONE,
  km: { text: '', unit: 'km' },
  hours: '',
  picked: null,
  value: { text: '', unit: 'degC' },
  sample: { text: '', unit: 'degC' },
};

/** Litres typed, null where nothing was; 'bad' where it cannot be read. */
const litresOf = (typed: Typed, system: System): number | null | 'bad' => {
  const parsed = parseTyped(typed, 'volume', system, 0);
  return parsed.ok ? parsed.base : parsed.empty ? null : 'bad';
};

/** What the level, the litres and the meters make, in their order; and what is still missing or cannot be read. */
export function accountFacts(
  draft: LookDraft,
  state: Schemas['LoopState'],
  system: System,
): { before: Fact[]; after: Fact[]; litres: number; waits: string | null } {
  const before: Fact[] = [];
  const after: Fact[] = [];
  const low = draft.level === 'low';
  const missing = low ? litresOf(draft.missing, system) : null;
  const mm = low ? numberOf(draft.missingMm) : null;
  const topped = litresOf(draft.topped, system);
  const spilled = litresOf(draft.spilled, system);
  const km = parseTyped(draft.km, 'distance', system);
  const hours = numberOf(draft.hours);
  const litres = typeof topped === 'number' ? topped : 0;
  const unread =
    [missing, topped, spilled].includes('bad') ||
    (low && draft.missingMm.trim() !== '' && mm === null) ||
    (!km.ok && !km.empty) ||
    (draft.hours.trim() !== '' && hours === null);
  if (typeof spilled === 'number' && spilled > 0)
    before.push({ kind: 'spilled', facts: { spilled_l: spilled, note: '' } });
  if (km.ok || hours !== null)
    before.push({ kind: 'metered', facts: { distance_km: km.ok ? km.base : null, hours, replaced: false } });
  if (draft.level !== 'open')
    before.push({
      kind: 'level_seen',
      facts: {
        level: draft.level,
        note: '',
        missing_l: typeof missing === 'number' ? missing : null,
        missing_mm: mm,
        lost_when: draft.lostWhen || null,
      },
    });
  if (litres > 0) {
    const share = draft.what === 'same' ? (state.top_up_share ?? 0) : 0;
    const water = draft.what === 'same' ? 'demineralised' : draft.what || null;
    after.push(topUpFact(litres, share, state.plan?.product ?? null, false, water, draft.after === 'at_mark'));
  }
  const waits = unread
    ? 'Fix the marked fields'
    : litres > 0 && draft.what === ''
      ? 'Topped up with what?'
      : litres > 0 && draft.after === ''
        ? 'Is it at the mark now?'
        : null;
  return { before, after, litres, waits };
}
