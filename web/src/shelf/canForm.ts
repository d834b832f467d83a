import { v4 as uuid } from 'uuid';
import type { Schemas } from '../api/client';
import { numberOf, wrongNumber } from '../controls/NumberField';
import { parseTyped, type Typed, typedFrom } from '../units/parse';
import type { System } from '../units/units';
import { orSentence, Unreadable } from '../units/unreadable';

/** A container as it is typed. */
export interface CanForm {
  canId: number | null;
  id: string;
  seen: string | null;
  number: string;
  kind: Schemas['CanKind'];
  /** The line of Products that is in it, by its number. */
  held: string;
  lot: string;
  size: Typed;
  left: Typed;
  strength: string;
  openedOn: string;
  since: string;
  place: string;
  emptied: boolean;
}

const NONE: Typed = { text: '', unit: 'l' };

export const emptyCan = (): CanForm => ({
  canId: null,
  id: uuid(),
  seen: null,
  number: '',
  kind: 'coolant',
  held: '',
  lot: '',
  size: NONE,
  left: NONE,
  strength: '',
  openedOn: '',
  since: '',
  place: '',
  emptied: false,
});

export const canToForm = (can: Schemas['CanOut'], system: System): CanForm => ({
  canId: can.id,
  id: uuid(),
  seen: can.edited_at,
  number: can.number,
  kind: can.kind,
  held: String(can.product_id ?? can.agent_id ?? can.water_id ?? ''),
  lot: can.lot,
  size: typedFrom(can.size_l, 'volume', system, 1),
  left: NONE,
  strength: can.strength_percent === null ? '' : String(can.strength_percent),
  openedOn: can.opened_on ?? '',
  since: can.since ?? '',
  place: can.place,
  emptied: can.emptied,
});

/** What is typed as a container, or the first sentence about what cannot be read. */
export function canFromForm(form: CanForm, system: System): Schemas['CanIn'] | string {
  return orSentence((): Schemas['CanIn'] | string => {
    const size = parseTyped(form.size, 'volume', system);
    const left = parseTyped(form.left, 'volume', system);
    if (form.held === '' && form.kind !== 'recovered') return 'What is in it?';
    if (!size.ok) return size.empty ? 'How much does it hold when full?' : `Size: cannot read ${size.which}.`;
    if (!left.ok && !left.empty) return `Left in it: cannot read ${left.which}.`;
    const wrong = wrongNumber(form.strength, '%', 0, 100);
    if (wrong) throw new Unreadable(`Strength: ${wrong}`);
    const held = form.held === '' ? null : Number(form.held);
    const recovered = form.kind === 'recovered';
    return {
      id: form.id,
      seen: form.seen,
      number: form.number.trim() || null,
      kind: form.kind,
      product_id: form.kind === 'coolant' || recovered ? held : null,
      agent_id: form.kind === 'agent' ? held : null,
      water_id: form.kind === 'water' ? held : null,
      loop_id: null,
      lot: form.lot.trim(),
      size_l: size.base,
      left_l: left.ok ? left.base : null,
      strength_percent: numberOf(form.strength),
      opened_on: form.openedOn || null,
      since: recovered ? form.since || null : null,
      place: form.place.trim(),
      emptied: form.emptied,
    };
  });
}
