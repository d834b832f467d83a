import { afterEach, describe, expect, it } from 'vitest';
import { Refusal } from '../api/client';
import { keepShown } from '../units/units';
import { type Message, sayIn } from './say';
import { dayOf, timeOf, waited } from './time';
import { chemistry, FAMILY, PROOF, STAGE } from './names';
import { plain } from '../testing';

const saying = (template: string, values: Message['values']): Message => ({
  code: 'x',
  sentence: '',
  template,
  values,
});

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
      'Reads \u221244.6 °C, 0.4 °C warmer than the target \u221245 °C. 24.5 L in, 5.5 % old.',
    );
  });

  it('follows the units on show', () => {
    expect(plain(sayIn(proof, 'us'))).toBe(
      'Reads \u221248.3 °F, 0.7 °F warmer than the target \u221249 °F. 25.9 US qt in, 5.5 % old.',
    );
  });

  it('says less than a decilitre where the core asks for it', () => {
    const loss = saying('{rate_l:2} a week ±{half_l:2} of {in_l}', { rate_l: 0.029, half_l: 0.016, in_l: 0.5 });
    expect(plain(sayIn(loss, 'metric'))).toBe('0.03 L a week ±0.02 L of 0.5 L');
    expect(plain(sayIn(loss, 'us'))).toBe('0.03 US qt a week ±0.02 US qt of 0.5 US qt');
  });

  it('leaves a value it was not given empty rather than inventing one', () => {
    expect(sayIn(saying('at {freeze_c}', {}), 'metric')).toBe('at ');
  });
});

describe('an entry of the record', () => {
  it('is told by the core, in the units on show', () => {
    const told = saying('Meters: {at0_km:0}, {what}', { at0_km: 128400, what: 'meter replaced' });
    expect(plain(sayIn(told, 'us'))).toBe('Meters: 79\u2009784 mi, meter replaced');
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
    expect(new Refusal(409, '', 'conflict', 'Reload.').message).toBe('Reload.');
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
