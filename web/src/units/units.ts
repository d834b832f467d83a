import { convert } from 'convert';

/** How a person reads quantities. Inside: litres at 20 °C, degrees Celsius, kilopascals, kilometres, kilograms. */
export type System = 'metric' | 'us' | 'imperial';
/** The last five are the same in every system: what is engraved on an instrument. */
export type Kind =
  'volume' | 'temperature' | 'pressure' | 'distance' | 'weight' | 'brix' | 'index' | 'gravity' | 'percent' | 'steps';
export type Unit =
  | 'l'
  | 'ml'
  | 'us_qt'
  | 'us_gal'
  | 'imp_gal'
  | 'us_fl_oz'
  | 'imp_fl_oz'
  | 'degC'
  | 'degF'
  | 'kpa'
  | 'psi'
  | 'bar'
  | 'inhg'
  | 'km'
  | 'mi'
  | 'kg'
  | 'lb'
  | Engraved;
export type Engraved = 'brix' | 'nd' | 'sg' | 'percent' | 'steps';

const ENGRAVED = { brix: 'brix', index: 'nd', gravity: 'sg', percent: 'percent', steps: 'steps' } as const;

export const SYSTEMS: Record<System, { label: string } & Record<Kind, Unit>> = {
  metric: {
    label: 'L °C',
    volume: 'l',
    temperature: 'degC',
    pressure: 'kpa',
    distance: 'km',
    weight: 'kg',
    ...ENGRAVED,
  },
  us: { label: 'US', volume: 'us_qt', temperature: 'degF', pressure: 'psi', distance: 'mi', weight: 'lb', ...ENGRAVED },
  imperial: {
    label: 'imp',
    volume: 'imp_gal',
    temperature: 'degC',
    pressure: 'psi',
    distance: 'mi',
    weight: 'kg',
    ...ENGRAVED,
  },
};

const KEY = 'temper.units'; // kept in the browser: a preference, nothing private

/** The units on show, as this browser last chose them. */
export function shownSystem(): System {
  const kept = localStorage.getItem(KEY);
  return kept && kept in SYSTEMS ? (kept as System) : 'metric';
}

/** Whether somebody has chosen units on this device. */
export const hasShown = (): boolean => localStorage.getItem(KEY) !== null;

export const keepShown = (system: System): void => localStorage.setItem(KEY, system);

export const UNIT_LABEL: Record<Unit, string> = {
  l: 'L',
  ml: 'ml',
  us_fl_oz: 'US fl oz',
  imp_fl_oz: 'imp fl oz',
  us_qt: 'US qt',
  us_gal: 'US gal',
  imp_gal: 'imp gal',
  degC: '°C',
  degF: '°F',
  kpa: 'kPa',
  psi: 'psi',
  bar: 'bar',
  inhg: 'inHg',
  km: 'km',
  mi: 'mi',
  kg: 'kg',
  lb: 'lb',
  brix: 'Brix',
  nd: 'nD',
  sg: 'sg',
  percent: '%',
  steps: 'steps',
};

/** A column of mercury of one inch at 0 °C. Source: NIST SP 811. */
const INHG_KPA = 3.38639;

/** How many litres, kilopascals or kilometres one of them is. */
const BASE_IN: Partial<Record<Unit, number>> = {
  l: 1,
  us_qt: convert(1, 'US liquid quart').to('liter'),
  us_gal: convert(1, 'US liquid gallon').to('liter'),
  imp_gal: convert(1, 'imperial gallon').to('liter'),
  ml: 0.001,
  us_fl_oz: convert(1, 'US fluid ounce').to('liter'),
  imp_fl_oz: convert(1, 'imperial fluid ounce').to('liter'),
  kpa: 1,
  bar: 100,
  inhg: INHG_KPA,
  psi: convert(1, 'psi').to('kilopascal'),
  km: 1,
  mi: convert(1, 'mile').to('kilometer'),
  kg: 1,
  lb: convert(1, 'pound').to('kilogram'),
  brix: 1,
  nd: 1,
  sg: 1,
  percent: 1,
  steps: 1,
};

/** To litres, degrees Celsius, kilopascals, kilometres. */
export function toBase(value: number, unit: Unit): number {
  const times = BASE_IN[unit];
  if (times !== undefined) return value * times;
  return unit === 'degF' ? convert(value, 'fahrenheit').to('celsius') : value;
}

/** From litres, degrees Celsius, kilopascals, kilometres. */
export function fromBase(base: number, unit: Unit): number {
  const times = BASE_IN[unit];
  if (times !== undefined) return base / times;
  return unit === 'degF' ? convert(base, 'celsius').to('fahrenheit') : base;
}

/** A difference of temperature has no offset: 5 K are 9 °F. */
export const fromKelvin = (k: number, unit: Unit): number => (unit === 'degF' ? k * 1.8 : k);

const MINUS = '\u2212';

/** A number with a true minus sign and no minus on a rounded zero. */
export function number(value: number, decimals: number): string {
  const text = value.toFixed(decimals);
  return (Number(text) === 0 ? text.replace('-', '') : text).replace('-', MINUS);
}

/** Imperial gallons are large: one more decimal says as much as litres do. */
export const volumeDecimals = (unit: Unit): number => (unit === 'imp_gal' || unit === 'us_gal' ? 2 : 1);

export interface Shown {
  value: string;
  unit: string;
}

/** decimals: as many at least, for what is less than a decilitre. */
export function showVolume(litres: number, system: System, decimals = 0): Shown {
  const unit = SYSTEMS[system].volume;
  return { value: number(fromBase(litres, unit), Math.max(decimals, volumeDecimals(unit))), unit: UNIT_LABEL[unit] };
}

export function showTemperature(celsius: number, system: System, decimals = 1): Shown {
  const unit = SYSTEMS[system].temperature;
  return { value: number(fromBase(celsius, unit), decimals), unit: UNIT_LABEL[unit] };
}

const FIXED = '\u00a0';

/** A figure and its unit as one: no line ends between them. */
export const joined = ({ value, unit }: Shown): string => `${value}${FIXED}${unit.replace(' ', FIXED)}`;

export const volumeText = (litres: number, system: System, decimals = 0): string =>
  joined(showVolume(litres, system, decimals));

const UNTABULATED_C = -50;

/** The cold end of an interval; past what anybody tabulates it is only a bound. */
export const coldEndText = (celsius: number, system: System): string =>
  `${celsius <= UNTABULATED_C ? 'below ' : ''}${temperatureText(Math.max(celsius, UNTABULATED_C), system, 0)}`;

/** A container's size: no decimal that says nothing. */
export function sizeText(litres: number, system: System): string {
  const { value, unit } = showVolume(litres, system);
  return joined({ value: value.replace(/\.0+$/, ''), unit });
}

export const temperatureText = (celsius: number, system: System, decimals = 1): string =>
  joined(showTemperature(celsius, system, decimals));

/** A hundredth of a degree is nothing that anybody can measure: what is solved for lands so near its target. */
const WITHIN = 0.01;

/** How far something protects: never rounded to the cold side. */
export function safeText(celsius: number, system: System, decimals = 0): string {
  const unit = SYSTEMS[system].temperature;
  const warm = Math.ceil((fromBase(celsius, unit) - WITHIN) * 10 ** decimals) / 10 ** decimals;
  return joined({ value: number(warm, decimals), unit: UNIT_LABEL[unit] });
}

export const kelvinText = (k: number, system: System): string => {
  const unit = SYSTEMS[system].temperature;
  return joined({ value: number(fromKelvin(k, unit), 1), unit: unit === 'degF' ? '°F' : '°C' });
};

const textOf = (base: number, kind: Kind, system: System, decimals: number): string => {
  const unit = SYSTEMS[system][kind];
  return joined({ value: number(fromBase(base, unit), decimals), unit: UNIT_LABEL[unit] });
};

/** Distance, with thin spaces between thousands. */
export const distanceText = (km: number, system: System): string =>
  textOf(km, 'distance', system, 0).replace(/\B(?=(\d{3})+(?!\d))/g, '\u2009');

/** Gauge pressure; a small drop keeps its decimal. */
export const pressureText = (kpa: number, system: System): string =>
  textOf(kpa, 'pressure', system, system === 'metric' && Number.isInteger(Math.round(kpa * 10) / 10) ? 0 : 1);

/** Altitude. */
export const heightText = (metres: number, system: System): string =>
  system === 'us'
    ? joined({ value: number(convert(metres, 'meter').to('foot'), 0), unit: 'ft' })
    : joined({ value: number(metres, 0), unit: 'm' });
