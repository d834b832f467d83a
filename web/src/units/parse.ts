import {
  fromBase,
  type Kind,
  number,
  pressureText,
  type System,
  SYSTEMS,
  toBase,
  type Unit,
  UNIT_LABEL,
  volumeDecimals,
} from './units';

/** What was typed, and the unit it was typed in: kept, so that switching units back restores it to the letter. */
export interface Typed {
  text: string;
  unit: Unit;
}

/** Either a value in litres, °C, kPa or km, or what to say: which value, what is allowed, what to do. Empty text is neither. */
export type Parsed =
  | { ok: true; base: number; unit: Unit }
  | { ok: false; empty: true }
  | { ok: false; empty: false; which: string; allowed: string; todo: string };

const WRITTEN: Record<Kind, Record<string, Unit>> = {
  volume: {
    l: 'l',
    ltr: 'l',
    litre: 'l',
    litres: 'l',
    liter: 'l',
    liters: 'l',
    qt: 'us_qt',
    ml: 'ml',
    millilitre: 'ml',
    millilitres: 'ml',
    'us fl oz': 'us_fl_oz',
    'imp fl oz': 'imp_fl_oz',
    'us qt': 'us_qt',
    'us gal': 'us_gal',
    'imp gal': 'imp_gal',
  },
  temperature: { c: 'degC', '°c': 'degC', degc: 'degC', f: 'degF', '°f': 'degF', degf: 'degF' },
  pressure: { kpa: 'kpa', psi: 'psi', bar: 'bar', inhg: 'inhg', 'in hg': 'inhg', '"hg': 'inhg' },
  distance: { km: 'km', mi: 'mi', mile: 'mi', miles: 'mi' },
  brix: { brix: 'brix', '°brix': 'brix', bx: 'brix' },
  index: { nd: 'nd' },
  gravity: { sg: 'sg' },
  percent: { '%': 'percent' },
  steps: { steps: 'steps', step: 'steps', balls: 'steps', discs: 'steps' },
  weight: { kg: 'kg', kilo: 'kg', kilos: 'kg', lb: 'lb', lbs: 'lb', pound: 'lb', pounds: 'lb' },
};

const ALLOWED: Record<Kind, string> = {
  volume: 'L, ml, US fl oz, US qt, US gal, imp fl oz, imp gal',
  temperature: '°C, °F',
  pressure: 'kPa, bar, psi, inHg',
  distance: 'km, mi',
  weight: 'kg, lb',
  brix: 'Brix',
  index: 'a refractive index, such as 1.3831',
  gravity: 'a specific gravity, such as 1.065',
  percent: '%',
  steps: 'a whole number of steps',
};

const refuse = (which: string, allowed: string, todo: string): Parsed => ({
  ok: false,
  empty: false,
  which,
  allowed,
  todo,
});

function unitOf(
  word: string,
  kind: Kind,
  system: System,
  typedUnit: Unit,
): Unit | 'unknown' | 'two gallons' | 'two ounces' {
  if (word === '') return typedUnit;
  const known = WRITTEN[kind][word];
  if (known) return known;
  if (kind === 'volume' && ['gal', 'gallon', 'gallons'].includes(word)) {
    if (system === 'us') return 'us_gal';
    return system === 'imperial' ? 'imp_gal' : 'two gallons';
  }
  if (kind === 'volume' && word === 'fl oz') {
    if (system === 'us') return 'us_fl_oz';
    return system === 'imperial' ? 'imp_fl_oz' : 'two ounces';
  }
  return 'unknown';
}

/** Digits as a number; "1,250" could be either and is asked about, never guessed; "0,250" is a quarter. */
function valueOf(digits: string, text: string): number | Parsed {
  if (/^[+-]?[1-9]\d{0,2}(,\d{3})+$/.test(digits)) {
    const small = digits.replace(',', '.');
    const large = digits.replace(/,/g, '');
    return refuse(`“${text}”`, `${small} or ${large}`, 'Write the one you mean, without a comma.');
  }
  const value = Number(digits.replace(',', '.'));
  if (!Number.isFinite(value)) return refuse(`“${text}”`, 'one number with one decimal sign', 'Type it again.');
  return value;
}

/** A bare number, in whatever unit stands beside it. */
export function parseNumber(text: string): { ok: true; value: number } | Extract<Parsed, { ok: false }> {
  const digits = text
    .trim()
    .replace(/\u2212|\u2013/g, '-')
    .replace(/\s/g, '');
  if (digits === '') return { ok: false, empty: true };
  if (!/^[+-]?[\d.,]*\d[.,]?$/.test(digits)) {
    return {
      ok: false,
      empty: false,
      which: `“${text}”`,
      allowed: 'a number, such as 5 or 2,5',
      todo: 'Type digits only.',
    };
  }
  const value = valueOf(digits, text);
  return typeof value === 'number' ? { ok: true, value } : (value as Extract<Parsed, { ok: false }>);
}

/**
 * Read what a person typed. A comma is a decimal sign; "1,250" could be either and is asked about, never guessed.
 * low: the least that is allowed (litres, °C ...); less is refused, never taken for it.
 */
export function parseTyped(typed: Typed, kind: Kind, system: System, low?: number): Parsed {
  const text = typed.text.trim().replace(/\u2212|\u2013/g, '-');
  if (text === '') return { ok: false, empty: true };
  const match = /^([+-]?[\d.,\s']*\d[.,]?)\s*([^\d.,]*)$/.exec(text);
  if (!match) {
    return refuse(`“${typed.text}”`, 'a number, such as 24.5 or 24,5', 'Type digits only.');
  }
  const digits = (match[1] ?? '').replace(/\s/g, '');
  const unit = unitOf((match[2] ?? '').trim().toLowerCase(), kind, system, typed.unit);
  if (unit === 'two gallons') {
    return refuse(
      `“${typed.text}”`,
      'US gallon (3.785 L) or imperial gallon (4.546 L)',
      'Write “us gal” or “imp gal”.',
    );
  }
  if (unit === 'two ounces') {
    return refuse(
      `“${typed.text}”`,
      'US fluid ounce (29.6 ml) or imperial fluid ounce (28.4 ml)',
      'Write “us fl oz” or “imp fl oz”.',
    );
  }
  if (unit === 'unknown') {
    return refuse(`the unit in “${typed.text}”`, ALLOWED[kind], 'Write one of these, or leave it out.');
  }
  const value = valueOf(digits, typed.text);
  if (typeof value !== 'number') return value;
  const base = toBase(value, unit);
  if (low !== undefined && base < low) {
    const least = number(fromBase(low, unit), low === 0 ? 0 : DECIMALS[kind](unit));
    return refuse(`“${typed.text}”`, `${least} ${UNIT_LABEL[unit]} or more`, 'Type it again.');
  }
  return { ok: true, base, unit };
}

/** The unit a kind is shown in. */
export const unitFor = (kind: Kind, system: System): Unit => SYSTEMS[system][kind];

const DECIMALS: Record<Kind, (unit: Unit) => number> = {
  volume: volumeDecimals,
  temperature: () => 1,
  pressure: (unit) => (unit === 'psi' ? 1 : 0),
  distance: () => 0,
  weight: () => 2,
  brix: () => 1,
  index: () => 4,
  gravity: () => 3,
  percent: () => 0,
  steps: () => 0,
};

/** A value as if it had been typed in this system. */
export function typedFrom(base: number, kind: Kind, system: System, decimals?: number): Typed {
  const unit = unitFor(kind, system);
  const places = decimals ?? DECIMALS[kind](unit);
  const text = number(fromBase(base, unit), places);
  return { text: text.includes('.') ? text.replace(/\.?0+$/, '') : text, unit };
}

/**
 * What a field shows. Typed in the unit on show: the very text. In another unit: converted, while the text is kept
 * behind it, so that switching back brings it back.
 */
export function textShown(typed: Typed, kind: Kind, system: System): string {
  if (typed.unit === unitFor(kind, system)) return typed.text;
  const parsed = parseTyped(typed, kind, systemOf(typed.unit, kind, system));
  return parsed.ok ? typedFrom(parsed.base, kind, system).text : typed.text;
}

function systemOf(unit: Unit, kind: Kind, now: System): System {
  const found = (Object.keys(SYSTEMS) as System[]).find((system) => SYSTEMS[system][kind] === unit);
  return found ?? now;
}

/** What a text with a unit of its own is taken as, in the unit on show: "104 F" is "40.0 °C". Null where it has none. */
export function takenAs(typed: Typed, kind: Kind, system: System): string | null {
  const parsed = parseTyped(typed, kind, system);
  if (!parsed.ok || parsed.unit === typed.unit) return null;
  if (kind === 'pressure') return pressureText(parsed.base, system); // as it is said everywhere else
  const unit = unitFor(kind, system);
  const small = kind === 'volume' && Math.abs(parsed.base) < 1;
  return `${number(fromBase(parsed.base, unit), small ? 3 : DECIMALS[kind](unit))} ${UNIT_LABEL[unit]}`;
}

export const unitLabel = (kind: Kind, system: System): string => UNIT_LABEL[unitFor(kind, system)];
