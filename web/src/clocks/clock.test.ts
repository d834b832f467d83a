import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { aboutText, clockText, coolingText, lengthText, limitText, nextRing, overLimit } from './clock';

const START = Date.parse('2026-11-26T10:00:00Z');
const at = (minutes: number) => new Date(START + minutes * 60_000).toISOString();
const timer = (part: Partial<Schemas['TimerState']>): Schemas['TimerState'] => ({
  entry_id: 'e',
  kind: 'cleaner',
  started_at: at(0),
  by: 'IH',
  points: 0,
  learned: false,
  ...part,
});

describe('times', () => {
  it.each([
    [0, '00:00'],
    [138_000, '02:18'],
    [599_600, '10:00'],
    [3_600_000, '1:00:00'],
    [11_045_000, '3:04:05'],
    [-5_000, '00:00'],
  ])('a measured time of %i ms is %s', (ms, said) => expect(clockText(ms)).toBe(said));

  it.each([
    [45, '45 min'],
    [240, '4 h'],
    [245, '4 h 05'],
    [-3, '0 min'],
  ])('%i minutes are %s', (minutes, said) => expect(lengthText(minutes * 60_000)).toBe(said));

  it.each([
    [2, 'a few min'],
    [28, '30 min'],
    [57, '1 h'],
    [75, '1¼ h'],
    [118, '2 h'],
    [225, '3¾ h'],
  ])('an estimate of %i minutes is said as %s, never as a clock', (minutes, said) =>
    expect(aboutText(minutes * 60_000)).toBe(said),
  );
});

describe('cooling', () => {
  const cooling = timer({ kind: 'cooling', likely_at: at(120), low_at: at(75), high_at: at(180) });

  it.each([
    [0, 'cools about 2 h, somewhere from 1¼ h to 3 h'],
    [100, 'cools about 20 min, somewhere from now to 1¼ h'],
    [121, 'may be cold by now: check it is safe'],
    [181, 'should be cold by now: check it is safe'],
  ])('after %i minutes: %s', (minutes, said) => expect(coolingText(cooling, START + minutes * 60_000)).toBe(said));
});

describe('a limit', () => {
  const cleaner = timer({ ends_at: at(180), limit_at: at(240) });

  it('is passed by so much, and says what to do', () => {
    expect(overLimit(cleaner, START + 239 * 60_000)).toBeNull();
    expect(overLimit(cleaner, START + 245 * 60_000)).toBe(5 * 60_000);
    expect(limitText(cleaner, START + 245 * 60_000)).toBe('cleaner in for 4 h 05, limit 4 h: drain now');
    expect(overLimit(timer({ ends_at: at(1) }), START + 99 * 60_000)).toBeNull();
  });

  it('rings at its end, at its limit, and when something may be cold', () => {
    const cooling = timer({ kind: 'cooling', likely_at: at(200) });
    expect(nextRing([cleaner, cooling], START)).toBe(Date.parse(at(180)));
    expect(nextRing([cleaner, cooling], Date.parse(at(180)))).toBe(Date.parse(at(200)));
    expect(nextRing([cleaner, cooling], Date.parse(at(210)))).toBe(Date.parse(at(240)));
    expect(nextRing([], START)).toBe(Infinity);
  });
});
