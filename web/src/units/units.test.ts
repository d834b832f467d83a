import { describe, expect, it } from 'vitest';
import { parseNumber, parseTyped, takenAs, textShown, type Typed, typedFrom } from './parse';
import { plain } from '../testing';
import {
  fromBase,
  fromKelvin,
  kelvinText,
  number,
  showVolume,
  temperatureText,
  toBase,
  type Unit,
  volumeText,
} from './units';

describe('conversion', () => {
  // NIST SP 811: US gallon 3.785 412 l, US liquid quart 0.946 352 9 l; UK Weights and Measures Act: 4.546 09 l
  it.each<[Unit, number]>([
    ['l', 1],
    ['us_qt', 0.9463529],
    ['us_gal', 3.785412],
    ['imp_gal', 4.54609],
  ])('one %s in litres', (unit, litres) => {
    expect(toBase(1, unit)).toBeCloseTo(litres, 6);
    expect(fromBase(litres, unit)).toBeCloseTo(1, 6);
  });

  // definition: °C = (°F − 32) / 1.8
  it.each([
    [-34, -36.667],
    [32, 0],
    [-40, -40],
    [212, 100],
  ])('%s °F is %s °C', (fahrenheit, celsius) => {
    expect(toBase(fahrenheit, 'degF')).toBeCloseTo(celsius, 3);
    expect(fromBase(celsius, 'degF')).toBeCloseTo(fahrenheit, 2);
  });

  it('converts differences without offset', () => {
    expect(fromKelvin(5, 'degF')).toBe(9);
    expect(plain(kelvinText(5, 'us'))).toBe('9.0 °F');
    expect(plain(kelvinText(0.4, 'metric'))).toBe('0.4 °C');
  });

  it('tells four litres from a gallon', () => {
    // common practice, no source: 4 l are 1.057 US gal
    expect(fromBase(4, 'us_gal')).toBeCloseTo(1.057, 3);
  });
});

describe('display', () => {
  it('uses a true minus and no minus on a rounded zero', () => {
    expect(number(-45, 0)).toBe('\u221245');
    expect(number(-0.04, 1)).toBe('0.0');
  });

  it('gives each system its own unit and decimals', () => {
    expect(plain(volumeText(32, 'metric'))).toBe('32.0 L');
    expect(plain(volumeText(32, 'us'))).toBe('33.8 US qt');
    expect(plain(volumeText(32, 'imperial'))).toBe('7.04 imp gal');
    expect(showVolume(0.946352946, 'us').value).toBe('1.0');
    expect(plain(temperatureText(-45, 'us', 0))).toBe('\u221249 °F');
    expect(plain(temperatureText(-44.62, 'imperial'))).toBe('\u221244.6 °C');
  });
});

describe('parsing what was typed', () => {
  const litres = (text: string, system: 'metric' | 'us' | 'imperial' = 'metric', unit: Unit = 'l') =>
    parseTyped({ text, unit }, 'volume', system);

  it.each([
    ['24.5', 24.5],
    ['24,5', 24.5],
    [' 24,5 L ', 24.5],
    ['24.5l', 24.5],
    ['7', 7],
    ['0,25', 0.25],
    ['6 us gal', 22.712],
    ['6 imp gal', 27.277],
    ['10 qt', 9.4635],
  ])('reads %s', (text, value) => {
    const parsed = litres(text);
    expect(parsed.ok && parsed.base).toBeCloseTo(value, 3);
  });

  it.each([
    ['1,250', '1.250 or 1250'],
    ['12,500', '12.500 or 12500'],
    ['1,250,000', '1.250,000 or 1250000'],
  ])('asks about %s instead of guessing', (text, allowed) => {
    const parsed = litres(text);
    expect(parsed.ok).toBe(false);
    expect(!parsed.ok && !parsed.empty && parsed.allowed).toBe(allowed);
  });

  it.each([
    ['forty', 'a number'],
    ['4 buckets', 'L, ml, US fl oz, US qt, US gal, imp fl oz, imp gal'],
    ['12.3.4', 'one number'],
    ['--3', 'a number'],
    ['3 °C', 'L, ml, US fl oz'],
  ])('refuses %s and says what is allowed', (text, allowed) => {
    const parsed = litres(text);
    expect(!parsed.ok && !parsed.empty && parsed.allowed).toContain(allowed);
    expect(!parsed.ok && !parsed.empty && parsed.todo.length).toBeGreaterThan(5);
  });

  it('knows two gallons and asks which one, unless the system on show says it', () => {
    const asked = litres('6.5 gal');
    expect(!asked.ok && !asked.empty && asked.todo).toBe('Write “us gal” or “imp gal”.');
    const us = litres('6.5 gal', 'us', 'us_qt');
    expect(us.ok && us.base).toBeCloseTo(24.605, 3);
    const imperial = litres('6.5 gal', 'imperial', 'imp_gal');
    expect(imperial.ok && imperial.base).toBeCloseTo(29.55, 2);
  });

  it('takes nothing for nothing', () => {
    expect(litres('   ')).toEqual({ ok: false, empty: true });
  });

  it.each([
    ['-45', -45],
    ['\u221245', -45],
    ['\u201345', -45],
    ['-49 F', -45],
    ['-37 °C', -37],
  ])('reads the temperature %s', (text, celsius) => {
    const parsed = parseTyped({ text, unit: 'degC' }, 'temperature', 'metric');
    expect(parsed.ok && parsed.base).toBeCloseTo(celsius, 6);
  });
});

describe('switching units', () => {
  const typed: Typed = { text: '24,50', unit: 'l' };

  it('keeps the very text behind what is shown', () => {
    expect(textShown(typed, 'volume', 'metric')).toBe('24,50');
    expect(textShown(typed, 'volume', 'us')).toBe('25.9');
    expect(textShown(typed, 'volume', 'imperial')).toBe('5.39');
    expect(textShown(typed, 'volume', 'metric')).toBe('24,50');
  });

  it('leaves what it cannot read as it is', () => {
    expect(textShown({ text: 'forty', unit: 'l' }, 'volume', 'us')).toBe('forty');
    expect(textShown({ text: '', unit: 'l' }, 'volume', 'us')).toBe('');
  });

  it('prefills without trailing zeros', () => {
    expect(typedFrom(24.5, 'volume', 'metric')).toEqual({ text: '24.5', unit: 'l' });
    expect(typedFrom(18, 'volume', 'metric').text).toBe('18');
    expect(typedFrom(-45, 'temperature', 'us', 0)).toEqual({ text: '\u221249', unit: 'degF' });
    expect(typedFrom(100, 'volume', 'metric').text).toBe('100');
  });
});

describe('the least that is allowed', () => {
  it('is refused below, in the unit it was typed in, and never taken for it', () => {
    expect(parseTyped({ text: '-0,4', unit: 'l' }, 'volume', 'metric', 0)).toMatchObject({
      ok: false,
      allowed: '0 L or more',
    });
    expect(parseTyped({ text: '-1', unit: 'us_qt' }, 'volume', 'us', 0)).toMatchObject({ allowed: '0 US qt or more' });
    expect(parseTyped({ text: '0', unit: 'l' }, 'volume', 'metric', 0)).toMatchObject({ ok: true, base: 0 });
  });
});

describe('a bare number', () => {
  it('takes comma and point, and asks about what could be either', () => {
    expect(parseNumber('6,5')).toEqual({ ok: true, value: 6.5 });
    expect(parseNumber(' −2.5 ')).toEqual({ ok: true, value: -2.5 });
    expect(parseNumber('')).toEqual({ ok: false, empty: true });
    expect(parseNumber('1,250')).toMatchObject({ ok: false, allowed: '1.250 or 1250' });
    expect(parseNumber('5 K')).toMatchObject({ ok: false, todo: 'Type digits only.' });
  });
});

describe('as the gauges and jugs say it', () => {
  it.each([
    ['25 inHg', 'pressure', 84.66], // NIST SP 811: one inch of mercury is 3.38639 kPa
    ['0,5 bar', 'pressure', 50],
    ['15 psi', 'pressure', 103.42],
    ['250 ml', 'volume', 0.25],
    ['8 us fl oz', 'volume', 0.2366],
    ['8 imp fl oz', 'volume', 0.2273],
  ] as const)('%s', (text, kind, base) => {
    const parsed = parseTyped({ text, unit: kind === 'pressure' ? 'kpa' : 'l' }, kind, 'metric');
    expect(parsed.ok && parsed.base).toBeCloseTo(base, 2);
  });

  it('asks which ounce, unless the units on show say it', () => {
    const typed = { text: '8 fl oz', unit: 'l' } as const;
    expect(parseTyped(typed, 'volume', 'metric').ok).toBe(false);
    expect(parseTyped(typed, 'volume', 'us')).toMatchObject({ ok: true, unit: 'us_fl_oz' });
    expect(parseTyped(typed, 'volume', 'imperial')).toMatchObject({ ok: true, unit: 'imp_fl_oz' });
  });

  it('takes 0,250 for a quarter: nothing else makes sense', () => {
    expect(parseTyped({ text: '0,250', unit: 'l' }, 'volume', 'metric')).toMatchObject({ ok: true, base: 0.25 });
    expect(parseNumber('0,250')).toEqual({ ok: true, value: 0.25 });
    expect(takenAs({ text: '250 ml', unit: 'l' }, 'volume', 'metric')).toBe('0.250 L');
  });
});

describe('a unit that was typed', () => {
  it('is answered in the unit on show, and only where it is another', () => {
    expect(takenAs({ text: '104 F', unit: 'degC' }, 'temperature', 'metric')).toBe('40.0 °C');
    expect(plain(takenAs({ text: '10.5 psi', unit: 'kpa' }, 'pressure', 'metric'))).toBe('72.4 kPa'); // x 6.8948
    expect(takenAs({ text: '6 us gal', unit: 'l' }, 'volume', 'metric')).toBe('22.7 L'); // 6 x 3.785 L
    expect(takenAs({ text: '40 C', unit: 'degC' }, 'temperature', 'metric')).toBeNull();
    expect(takenAs({ text: '40', unit: 'degC' }, 'temperature', 'metric')).toBeNull();
    expect(takenAs({ text: '15 buckets', unit: 'l' }, 'volume', 'metric')).toBeNull();
  });
});
