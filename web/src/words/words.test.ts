import { afterEach, describe, expect, it } from 'vitest';
import { Refusal } from '../api/client';
import { distanceText, keepShown, pressureText, temperatureText, volumeText } from '../units/units';
import { entryWords } from './entries';
import { type Message, sayIn } from './say';
import { dayOf, timeOf, waited } from './time';
import { chemistry, FAMILY, PROOF, STAGE } from './trade';
import { plain } from '../testing';

const saying = (template: string, values: Message['values']): Message => ({ code: 'x', sentence: '', template, values });

describe('sentences of the core', () => {
  const proof = saying('Reads {freeze_c}, {gap_k} {side} than the target {target_c:0}. {in_l} in, {old_percent} old.', {
    freeze_c: -44.62,
    gap_k: 0.38,
    side: 'warmer',
    target_c: -45,
    in_l: 24.5,
    old_percent: 5.5,
  });

  it('says the same in metric as the server', () => {
    expect(plain(sayIn(proof, 'metric'))).toBe(
      'Reads \u221244.6 °C, 0.4 K warmer than the target \u221245 °C. 24.5 L in, 5.5 % old.',
    );
  });

  it('follows the units on show', () => {
    expect(plain(sayIn(proof, 'us'))).toBe(
      'Reads \u221248.3 °F, 0.7 °F warmer than the target \u221249 °F. 25.9 US qt in, 5.5 % old.',
    );
  });

  it('leaves a value it was not given empty rather than inventing one', () => {
    expect(sayIn(saying('at {freeze_c}', {}), 'metric')).toBe('at ');
  });
});

describe('ledger lines', () => {
  const units = {
    volume: (litres: number) => volumeText(litres, 'metric'),
    temperature: (celsius: number, decimals?: number) => temperatureText(celsius, 'metric', decimals),
    distance: (km: number) => distanceText(km, 'metric'),
    pressure: (kpa: number) => pressureText(kpa, 'metric'),
  };
  const words = (kind: string, facts: Record<string, unknown>) => entryWords({ kind, facts }, units);

  it.each([
    ['job_opened', { route: 'change_out' }, 'Came in: change out'],
    ['planned', { product: { name: 'Winterline O' }, concentrate_l: null }, 'Going in: Winterline O'],
    [
      'planned',
      { product: { name: 'Winterline O' }, concentrate_l: 18.3, water_l: 6.6, target_freeze_c: -45 },
      'Mix accepted: 18.3 L Winterline O + 6.6 L water, to \u221245 °C',
    ],
    ['drained', { drained_l: 24.5, measured: 'weighed' }, '24.5 L out, weighed'],
    ['drained', { drained_l: 24.5, measured: 'marks' }, '24.5 L out, jug marks'],
    [
      'poured',
      { product: { name: 'Winterline O' }, product_l: 18.3, water_l: 6.6, water: 'tap', at_mark: true },
      'Poured 18.3 L Winterline O + 6.6 L tap water, at the mark',
    ],
    [
      'poured',
      { product: null, product_l: 0, water_l: 0.4, water: 'demineralised' },
      'Poured 0.4 L demineralised water',
    ],
    ['read', { value: -46.6, place: 'finished', instrument: { name: 'Glass 3' } }, 'Read \u221246.6 °C on Glass 3'],
    ['read', { value: -19, place: 'as_found', instrument: null }, 'As found \u221219.0 °C, told'],
    ['signed_off', { proof: 'too_weak', reason: 'race tonight' }, 'Signed off: too weak (race tonight)'],
    ['voided', { entry_id: 'x' }, 'Took an entry back'],
    [
      'told',
      { base: 'ethylene', family: 'iat', topped_up: 'water' },
      'Inside, as told: silicate type, ethylene glycol; topped up with water',
    ],
    [
      'told',
      { base: null, family: null, topped_up: 'unknown' },
      'Inside, as told: family unknown, base unknown; topped up with nobody knows',
    ],
    ['metered', { distance_km: 128400, hours: 5210, replaced: false }, 'Meters: 128\u2009400 km, 5210 h'],
    [
      'sampled',
      { spot: 'neck', looks: ['orange_rust', 'fine_sand'], sediment_mm: 4 },
      'Sample, neck: orange rust, fine sand, 4 mm sediment',
    ],
    [
      'vacuum_pulled',
      { vacuum_kpa: 72, held: { minutes: 10, drop_kpa: 0.5 } },
      'Vacuum 72 kPa below ambient, 0.5 kPa lost in 10 min',
    ],
    ['tested', { check: 'combustion_gas', outcome: 'negative', figures: {} }, 'Combustion gas: negative'],
    [
      'tested',
      { check: 'inhibitor', outcome: null, figures: { ph: 7, nitrite_mg_l: 420 } },
      'Inhibitor: pH 7, nitrite 420 mg/l',
    ],
    ['skipped', { checks: ['hoses', 'cap'], reason: 'no time' }, 'Not looked at: hoses, cap (no time)'],
    ['routed', { route: 'clean', advised: 'clean', reason: '' }, 'Decided: clean'],
    [
      'routed',
      { route: 'renew', advised: 'change_out', reason: 'leaves at noon' },
      'Decided: renew, against the advice (change out): leaves at noon',
    ],
    ['something_new', {}, 'something_new'],
  ])('%s', (kind, facts, said) => {
    expect(plain(words(kind, facts))).toBe(said);
  });
});

describe('a refusal', () => {
  afterEach(() => localStorage.clear());

  it('speaks the units on show, and as the server wrote it in the server’s own', () => {
    const said = saying('{out_l} out of {inside_l} inside cannot be.', { out_l: 70, inside_l: 58 });
    const refusal = new Refusal(400, 'drained_l', 'more_than_inside', '70.0 L out of 58.0 L inside cannot be.', said);
    expect(refusal.message).toBe('70.0 L out of 58.0 L inside cannot be.');
    keepShown('us');
    expect(plain(refusal.message)).toBe('74.0 US qt out of 61.3 US qt inside cannot be.');
    expect(new Refusal(409, '', 'conflict', 'Look again.').message).toBe('Look again.');
  });
});

describe('chemistry in words', () => {
  it('names family and base, never a colour', () => {
    expect(chemistry('oat', 'ethylene')).toBe('Organic acid, ethylene glycol');
    expect(chemistry('glycol_free', 'none')).toBe('Glycol-free');
    expect(chemistry(null, null)).toBe('unknown');
    expect(chemistry(null, 'propylene')).toBe('unknown type, propylene glycol');
    const all = [...Object.values(FAMILY), ...Object.values(PROOF), ...Object.values(STAGE)].join(' ');
    expect(all).not.toMatch(/\b(green|red|blue|orange|pink|violet|yellow)\b/i);
  });
});

describe('time', () => {
  it('is the depot’s, whatever clock the tablet has', () => {
    const at = '2026-11-24T13:00:00Z';
    expect(timeOf(at, 'Europe/Oslo', new Date('2026-11-24T15:00:00Z'))).toBe('14:00');
    expect(timeOf(at, 'Europe/Oslo', new Date('2026-11-26T15:00:00Z'))).toBe('Tue 24 Nov 14:00');
    expect(dayOf('2026-11-24T23:30:00Z', 'Europe/Oslo')).toMatch(/25/);
  });

  it.each([
    [0, 'just now'],
    [5, 'waits 5 min'],
    [150, 'waits 3 h'],
    [60 * 24 * 3, 'waits 3 days'],
    [-5, 'just now'],
  ])('after %s minutes: %s', (minutes, said) => {
    const from = Date.parse('2026-11-24T10:00:00Z');
    expect(waited(new Date(from).toISOString(), new Date(from + minutes * 60_000).toISOString())).toBe(said);
  });
});
