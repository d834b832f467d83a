import type { Schemas } from '../../api/client';
import type { Fact } from '../../bench/useRecorder';
import { numberOf } from '../../parts/NumberField';
import { parseTyped, type Typed } from '../../units/parse';
import type { System } from '../../units/units';

/** What a person is told of the filling, as it stands on the sheet. */
export interface InsideDraft {
  base: Schemas['Base'] | 'unknown';
  family: Schemas['Family'] | 'unknown';
  toppedUp: Schemas['ToppedUp'];
  changedOn: string;
  km: Typed;
  hours: string;
  replaced: boolean;
}

/** What stands on the sheet before anybody touched it: what is believed of the loop. */
export function insideFrom(state: Schemas['LoopState']): InsideDraft {
  const { told } = state.inspection;
  return {
    base: state.found.base ?? 'unknown',
    family: told?.family ?? state.found.family ?? 'unknown',
    toppedUp: told?.topped_up ?? 'nothing',
    changedOn: told?.changed_on ?? '',
    km: { text: '', unit: 'km' },
    hours: '',
    replaced: false,
  };
}

const known = <T extends string>(value: T | 'unknown'): T | null => (value === 'unknown' ? null : value);

/** The filling in the entry's words. */
export const toldFact = (draft: InsideDraft): Fact => ({
  kind: 'told',
  facts: {
    base: known(draft.base),
    family: draft.base === 'none' ? 'glycol_free' : known(draft.family),
    topped_up: draft.toppedUp,
    changed_on: draft.changedOn || null,
  },
});

/** The meters, or null where none was typed. */
export function meteredFact(draft: InsideDraft, system: System): Fact | null {
  const km = parseTyped(draft.km, 'distance', system);
  const hours = numberOf(draft.hours);
  if (!km.ok && hours === null) return null;
  return {
    kind: 'metered',
    facts: { distance_km: km.ok ? km.base : null, hours, replaced: draft.replaced },
  };
}

/** True where something typed cannot be read. */
export function insideWrong(draft: InsideDraft, system: System): boolean {
  const km = parseTyped(draft.km, 'distance', system);
  return (!km.ok && !km.empty) || (draft.hours.trim() !== '' && numberOf(draft.hours) === null);
}
