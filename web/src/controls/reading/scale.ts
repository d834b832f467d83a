import type { Schemas } from '../../api/client';
import { type Parsed, parseTyped, type Typed, typedFrom } from '../../units/parse';
import { fromBase, joined, type Kind, number, type System, SYSTEMS, UNIT_LABEL } from '../../units/units';

export type Scale = Schemas['Scale'];
export type Instrument = Schemas['InstrumentOut'];
export type ScaleRow = Schemas['ScaleOut'];

const KIND: Record<Scale, Kind> = {
  freeze_ethylene: 'temperature',
  freeze_propylene: 'temperature',
  brix: 'brix',
  refractive_index: 'index',
  specific_gravity: 'gravity',
  strength_ethylene: 'percent',
  strength_propylene: 'percent',
};

/** What is typed for it: degrees, Brix, an index, or the steps that show. */
export const kindFor = (instrument: Pick<Instrument, 'kind' | 'scale'> | null): Kind =>
  instrument?.kind === 'steps' ? 'steps' : instrument?.scale ? KIND[instrument.scale] : 'temperature';

const KIND_OF_UNIT: Partial<Record<Typed['unit'], Kind>> = {
  brix: 'brix',
  nd: 'index',
  sg: 'gravity',
  percent: 'percent',
  steps: 'steps',
};

/** What kind of value was typed, by the unit it was typed in: where the instrument is not at hand. */
export const kindOfTyped = (typed: Typed): Kind => KIND_OF_UNIT[typed.unit] ?? 'temperature';

/** Colder is a smaller number only where the scale is in degrees. */
export const inDegrees = (scale: Scale): boolean => KIND[scale] === 'temperature';

/** Decimals that one division needs. */
export const decimalsFor = (division: number): number =>
  Math.min(5, Math.max(0, Math.ceil(-Math.log10(division) - 1e-9)));

/** One division of it, and how many decimals that takes, in the unit it is typed in. */
export const divisionOf = (instrument: Instrument | null): { step: number; decimals: number } => {
  if (!instrument || instrument.kind === 'steps') return { step: 1, decimals: 0 };
  return { step: instrument.resolution, decimals: decimalsFor(instrument.resolution) };
};

/** A value of a scale with its unit. */
export function scaleText(scale: Scale, value: number, system: System, decimals?: number): string {
  const unit = SYSTEMS[system][KIND[scale]];
  const places =
    decimals ?? (inDegrees(scale) ? 1 : { brix: 1, index: 4, gravity: 3, percent: 0 }[KIND[scale] as 'brix']);
  return joined({ value: number(fromBase(value, unit), places), unit: UNIT_LABEL[unit] });
}

/** What was seen in a reading that is in the ledger. */
export const seenText = (row: { scale: Scale | null; value: number; steps?: unknown }, system: System): string => {
  if (row.steps) return `${row.value} ${row.value === 1 ? 'step' : 'steps'}`;
  return row.scale ? scaleText(row.scale, row.value, system) : String(row.value);
};

/** A reading that is being typed. */
export interface ReadDraft {
  instrumentId: number | null;
  value: Typed;
  sample: Typed;
}

export const emptyValue: Typed = { text: '', unit: 'degC' };

/** What was typed on an instrument, in its scale's own unit. */
export const parsedOn = (instrument: Instrument | null, typed: Typed, system: System): Parsed =>
  parseTyped(typed, kindFor(instrument), system);

/** A value on the instrument's scale as if it had been typed. */
export const typedOn = (instrument: Instrument, value: number, system: System): Typed =>
  typedFrom(value, kindFor(instrument), system, divisionOf(instrument).decimals);

/** Those that read a strength and are in use. */
export const strengthReaders = (instruments: Instrument[]): Instrument[] =>
  instruments.filter((row) => row.scale !== null && !row.retired);

/** The one used last, else the one for this glycol, else the first; a step tester last of all. */
export function firstFor(instruments: Instrument[], base: string | null, last?: string | null): Instrument | null {
  const rows = strengthReaders(instruments);
  return (
    rows.find((row) => row.name === last) ??
    rows.find((row) => row.scale === `freeze_${base ?? 'ethylene'}` && row.kind !== 'steps') ??
    rows.find((row) => row.kind !== 'steps') ??
    rows[0] ??
    null
  );
}

/** Words for an instrument whose zero has to be checked before it is trusted; null where it is good. */
export function zeroWants(instrument: Instrument): string | null {
  if (!instrument.state) return null;
  if (instrument.state.zero === null) return 'zero never checked';
  if (!instrument.state.good) return 'zero off';
  return instrument.state.overdue ? 'zero due' : null;
}
