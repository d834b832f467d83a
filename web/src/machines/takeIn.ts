import type { Schemas } from '../api/client';
import type { Typed } from '../units/parse';
import type { HighVoltage } from './HighVoltage';
import { NO_OWNER, ownerIn, type OwnerTyped } from './OwnerFields';

export type Way = 'kind' | 'build' | 'like';

/** A machine as it is taken in: everything typed. */
export interface TakeIn {
  way: Way;
  number: string;
  description: string;
  owner: OwnerTyped;
  /** A kind's key; of the other two ways the kind in words. */
  kind: string;
  kindWords: string;
  layout: string;
  like: number | null;
  capacity: Typed;
  /** kind: nobody knows, the range of its kind counts; empty: not answered. */
  source: 'measured' | 'manual' | 'remembered' | 'kind' | '';
  highVoltage: HighVoltage;
  materials: Schemas['Material'][];
  families: Schemas['Family'][];
  statedIn: string;
  base: Schemas['Base'] | 'unknown';
  family: Schemas['Family'] | 'unknown';
}

export const EMPTY: TakeIn = {
  way: 'kind',
  number: '',
  description: '',
  owner: NO_OWNER,
  kind: '',
  kindWords: '',
  layout: 'degas_tank',
  like: null,
  capacity: { text: '', unit: 'l' },
  source: '',
  highVoltage: undefined,
  materials: [],
  families: [],
  statedIn: '',
  base: 'unknown',
  family: 'unknown',
};

/** The first thing that is missing, as the go plate says it, with the field that asks for it; null: it can be taken in. */
export function missing(form: TakeIn, capacityRead: boolean): [string, string] | null {
  if (form.number.trim() === '') return ['Which number or plate?', 'input[name=number]'];
  if (form.way === 'kind' && form.kind === '') return ['What kind of machine?', '.kinds button'];
  if (form.way !== 'kind' && form.kindWords.trim() === '') return ['What kind of machine?', 'input[name=kind]'];
  if (form.way === 'like') return form.like === null ? ['Like which machine?', 'input[name=like]'] : null;
  if (form.source === '') return ['Where is the capacity from?', '.capacityfrom button'];
  if (form.source !== 'kind' && !capacityRead) return ['How many litres does it hold?', 'input[name=capacity]'];
  if (form.highVoltage === undefined) return ['High voltage on this machine?', '.highvoltage button'];
  return null;
}

/** What is said of the coolant inside; left out where nobody knows. */
function believed(form: TakeIn): Pick<Schemas['KindIn'], 'believed_base' | 'believed_family'> {
  return {
    ...(form.base === 'unknown' ? {} : { believed_base: form.base }),
    ...(form.base === 'none' ? { believed_family: 'glycol_free' as const } : {}),
    ...(form.family === 'unknown' || form.base === 'none' ? {} : { believed_family: form.family }),
  };
}

/** The request; capacityL: what was read of the typed litres, null where nobody knows. */
export function machineIn(form: TakeIn, id: string, kindName: string, capacityL: number | null): Schemas['MachineIn'] {
  const machine = {
    id,
    fleet_number: form.number,
    kind: form.way === 'kind' ? kindName : form.kindWords,
    description: form.description,
    owner: ownerIn(form.owner),
  };
  if (form.way === 'like') return { ...machine, copy_of: form.like };
  const electronics = form.layout === 'power_electronics';
  if (form.way === 'kind')
    return {
      ...machine,
      of_kind: {
        key: form.kind,
        capacity_l: form.source === 'kind' ? null : capacityL,
        capacity_source: form.source === '' ? 'kind' : form.source,
        high_voltage: form.highVoltage ?? null,
        ...believed(form),
      },
    };
  return {
    ...machine,
    loop: {
      layout: form.layout,
      capacity_l: capacityL ?? 0,
      capacity_source: form.source === '' || form.source === 'kind' ? 'remembered' : form.source,
      materials: form.materials,
      maker_families: form.families,
      maker_stated_in: form.families.length > 0 ? form.statedIn : '',
      low_conductivity: electronics,
      use: electronics ? 'power_electronics' : null,
      high_voltage: form.highVoltage ?? null,
      ...believed(form),
    },
  };
}
