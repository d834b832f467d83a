import type { Schemas } from '../api/client';
import { numberOf, wrongNumber } from '../controls/NumberField';
import { parseTyped, type Typed, typedFrom } from '../units/parse';
import type { Kind, System } from '../units/units';
import { orSentence, Unreadable } from '../units/unreadable';
import { type BleedForm, bleedFromForm, bleedToForm } from './bleedForm';
import { type LayoutForm, layoutFromForm, layoutToForm } from './layoutForm';

type Spec = Schemas['LoopSpec'];
const NOTHING: Typed = { text: '', unit: 'l' };

/** A loop as it stands in the editor; everything as typed. */
export interface LoopForm {
  name: string;
  capacity: Typed;
  source: Schemas['CapacitySource'];
  coldest: Typed;
  cap: Typed;
  tank: Schemas['TankKind'];
  levelRule: Schemas['LevelRule'];
  belowLip: string;
  tankPerMm: string;
  thermostat: Typed;
  preheater: boolean;
  preheaterPump: boolean;
  filter: Schemas['CoolantFilter'];
  conductivity: string;
  months: string;
  km: Typed;
  hours: string;
  families: Schemas['Family'][];
  standards: string;
  statedIn: string;
  materials: Schemas['Material'][];
  glycolForbidden: boolean;
  lowConductivity: boolean;
  /** What a low-conductivity loop cools: its limit follows. */
  use: Schemas['LoopUse'] | '';
  highVoltage: boolean | null;
  base: Schemas['Base'] | 'unknown';
  family: Schemas['Family'] | 'unknown';
  strength: string;
  layout: LayoutForm;
  bleed: BleedForm | null;
}

const typed = (value: number | null | undefined, kind: Kind, system: System, decimals?: number): Typed =>
  value == null ? NOTHING : typedFrom(value, kind, system, decimals);
const plain = (value: number | null | undefined): string => (value == null ? '' : String(value));

export function specToForm(spec: Spec, system: System): LoopForm {
  const { equipment } = spec;
  return {
    name: spec.name,
    capacity: typed(spec.capacity_l as number, 'volume', system, 2),
    source: spec.capacity_source,
    coldest: typed(spec.coldest_c, 'temperature', system, 0),
    cap: typed(spec.cap_gauge_kpa, 'pressure', system),
    tank: equipment.tank ?? 'degas',
    levelRule: equipment.level_rule ?? 'between_marks',
    belowLip: plain(equipment.level_below_lip_mm),
    tankPerMm: plain(equipment.tank_l_per_mm),
    thermostat: typed(equipment.thermostat_opens_c, 'temperature', system, 0),
    preheater: equipment.preheater ?? false,
    preheaterPump: equipment.preheater_pump ?? false,
    filter: equipment.coolant_filter ?? 'none',
    conductivity: plain(equipment.conductivity_limit_us_cm),
    months: plain(equipment.interval?.months),
    km: typed(equipment.interval?.distance_km, 'distance', system),
    hours: plain(equipment.interval?.hours),
    families: spec.maker_families ?? [],
    standards: (spec.maker_standards ?? []).join(', '),
    statedIn: spec.maker_stated_in ?? '',
    materials: spec.materials ?? [],
    glycolForbidden: spec.glycol_forbidden ?? false,
    lowConductivity: spec.low_conductivity ?? false,
    use: spec.use ?? '',
    highVoltage: spec.high_voltage === undefined ? false : spec.high_voltage,
    base: spec.believed_base ?? 'unknown',
    family: spec.believed_family ?? 'unknown',
    strength: plain(spec.believed_strength_percent),
    layout: layoutToForm(spec.layout),
    bleed: equipment.bleed ? bleedToForm(equipment.bleed) : null,
  };
}

function quantity(given: Typed, kind: Kind, system: System, what: string): number | null {
  const parsed = parseTyped(given, kind, system);
  if (parsed.ok) return parsed.base;
  if (parsed.empty) return null;
  throw new Unreadable(`${what}: cannot read ${parsed.which}. Allowed: ${parsed.allowed}.`);
}

function bare(given: string, unit: string, what: string): number | null {
  const wrong = wrongNumber(given, unit);
  if (wrong) throw new Unreadable(`${what}: ${wrong}`);
  return numberOf(given);
}

/** What is typed as a loop, or the first sentence about what cannot be read. */
export function specFromForm(form: LoopForm, system: System): Spec | string {
  return orSentence((): Spec | string => {
    const layout = layoutFromForm(form.layout);
    if (typeof layout === 'string') return layout;
    const capacity = quantity(form.capacity, 'volume', system, 'Capacity');
    if (capacity === null) return 'Capacity is missing: litres up to the cold mark.';
    return {
      name: form.name.trim() || 'Engine loop',
      capacity_l: capacity,
      capacity_source: form.source,
      layout,
      coldest_c: quantity(form.coldest, 'temperature', system, 'Coldest'),
      cap_gauge_kpa: quantity(form.cap, 'pressure', system, 'Cap'),
      equipment: {
        tank: form.tank,
        level_rule: form.levelRule,
        level_below_lip_mm: form.levelRule === 'below_lip' ? bare(form.belowLip, 'mm', 'Below the lip') : null,
        tank_l_per_mm: form.tank === 'none' ? null : bare(form.tankPerMm, 'L/mm', 'Tank'),
        thermostat_opens_c: quantity(form.thermostat, 'temperature', system, 'Thermostat'),
        preheater: form.preheater,
        preheater_pump: form.preheater && form.preheaterPump,
        coolant_filter: form.filter,
        conductivity_limit_us_cm: form.lowConductivity ? bare(form.conductivity, 'µS/cm', 'Conductivity') : null,
        bleed: form.bleed ? bleedFromForm(form.bleed) : null,
        interval: {
          months: bare(form.months, 'months', 'Interval'),
          distance_km: quantity(form.km, 'distance', system, 'Interval'),
          hours: bare(form.hours, 'h', 'Interval'),
        },
      },
      maker_families: form.families,
      maker_standards: form.standards
        .split(',')
        .map((one) => one.trim())
        .filter(Boolean),
      maker_stated_in: form.statedIn.trim(),
      materials: form.materials,
      glycol_forbidden: form.glycolForbidden,
      low_conductivity: form.lowConductivity,
      use: form.lowConductivity && form.use !== '' ? form.use : null,
      high_voltage: form.highVoltage,
      believed_base: form.base === 'unknown' ? null : form.base,
      believed_family: form.family === 'unknown' ? null : form.family,
      believed_strength_percent: bare(form.strength, '% by volume', 'Strength'),
    };
  });
}
