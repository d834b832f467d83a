import type { Schemas } from '../../api/client';
import type { Fact } from '../../bench/useRecorder';
import { numberOf } from '../../controls/NumberField';
import { parseTyped, type Typed, typedFrom } from '../../units/parse';
import type { System } from '../../units/units';

/** What a person is told of the filling, as it stands on the sheet. */
export interface InsideDraft {
  base: Schemas['Base'] | 'unknown';
  family: Schemas['Family'] | 'unknown';
  toppedUp: Schemas['ToppedUp'] | '';
  changedOn: string;
  /** The meters at the last change. */
  changedKm: Typed;
  changedHours: string;
  km: Typed;
  hours: string;
  replaced: boolean;
}

/** What stands on the sheet before anybody touched it: what is believed of the loop. */
export function insideFrom(state: Schemas['LoopState'], system: System): InsideDraft {
  const { reported } = state.inspection;
  return {
    base: state.found.base ?? 'unknown',
    family: reported?.family ?? state.found.family ?? 'unknown',
    toppedUp: reported?.topped_up ?? '',
    changedOn: reported?.changed_on ?? '',
    changedKm:
      reported?.changed_km == null ? { text: '', unit: 'km' } : typedFrom(reported.changed_km, 'distance', system, 0),
    changedHours: reported?.changed_hours == null ? '' : String(reported.changed_hours),
    km: { text: '', unit: 'km' },
    hours: '',
    replaced: false,
  };
}

const known = <T extends string>(value: T | 'unknown'): T | null => (value === 'unknown' ? null : value);

/** The filling in the entry's words. */
export function toldFact(draft: InsideDraft, system: System): Fact {
  const km = parseTyped(draft.changedKm, 'distance', system);
  return {
    kind: 'contents_reported',
    facts: {
      base: known(draft.base),
      family: draft.base === 'none' ? 'glycol_free' : known(draft.family),
      topped_up: draft.toppedUp || 'unknown',
      changed_on: draft.changedOn || null,
      changed_km: km.ok ? km.base : null,
      changed_hours: numberOf(draft.changedHours),
    },
  };
}

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
  const then = parseTyped(draft.changedKm, 'distance', system);
  if ((!then.ok && !then.empty) || (draft.changedHours.trim() !== '' && numberOf(draft.changedHours) === null))
    return true;
  return (!km.ok && !km.empty) || (draft.hours.trim() !== '' && numberOf(draft.hours) === null);
}
