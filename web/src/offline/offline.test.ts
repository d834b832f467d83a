import 'fake-indexeddb/auto';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { noteServerTime, noticeJump, nowInZone, offsetOf, written } from './clock';
import { pick, picked } from './kit';
import { choose } from './sender';
import { bayNow, tell } from './state';
import {
  change,
  clockOffset,
  forgetAll,
  keep,
  keepKit,
  keptKit,
  lock,
  locked,
  recordedHere,
  sent,
  waiting,
} from './store';

const row = (path: string, body: unknown) => ({
  method: 'POST',
  path,
  loops: [7],
  body,
  at: '2026-11-30T16:00:00+01:00',
  person: 1,
  state: 'waits' as const,
});

beforeEach(forgetAll);

describe('the clock', () => {
  // summer and winter of three zones; checked against the IANA database by way of the platform's own Intl
  it.each([
    ['Europe/Oslo', '2026-07-01T10:00:00Z', '+02:00', '2026-07-01T12:00:00.000+02:00'],
    ['Europe/Oslo', '2026-11-30T10:00:00Z', '+01:00', '2026-11-30T11:00:00.000+01:00'],
    ['America/St_Johns', '2026-11-30T10:00:00Z', '-03:30', '2026-11-30T06:30:00.000-03:30'],
    ['UTC', '2026-11-30T10:00:00Z', '+00:00', '2026-11-30T10:00:00.000+00:00'],
  ])('writes a moment of %s as the core reads it', (zone, at, offset, said) => {
    expect(offsetOf(zone, new Date(at))).toBe(offset);
    expect(written(new Date(at), zone)).toBe(said);
    expect(new Date(written(new Date(at), zone)).toISOString()).toBe(new Date(at).toISOString());
  });

  it('takes the server’s time where this device is wrong', async () => {
    await noteServerTime(new Date(Date.now() + 3_600_000).toISOString());
    expect(Math.round((await clockOffset()) / 60_000)).toBe(60);
    const now = new Date(await nowInZone('UTC')).getTime();
    expect(Math.abs(now - Date.now() - 3_600_000)).toBeLessThan(5_000);
  });

  it('notices that it was set meanwhile, and says nothing of a second', async () => {
    await noteServerTime(new Date().toISOString());
    noticeJump();
    expect(bayNow().clockJumped).toBe(false);
    const real = Date.now;
    vi.spyOn(Date, 'now').mockImplementation(() => real() + 2 * 3_600_000);
    noticeJump();
    expect(bayNow().clockJumped).toBe(true);
  });
  afterEach(() => tell({ clockJumped: false }));
});

describe('what waits', () => {
  const kit = { person: 1, name: 'Ines', madeAt: '2026-11-30T15:00:00Z', fetchedAt: 0, text: '{}' };

  it('stays when it is sent until a kit holds it, and keeps a newer kit away until then', async () => {
    await keepKit(kit);
    await keep(row('/api/loops/7/entries', { entries: [] }));
    expect(await keepKit({ ...kit, text: '{"new":1}' })).toBe(false);
    expect((await keptKit())?.text).toBe('{}');
    await sent((await waiting())[0]?.n ?? -1);
    expect(await waiting()).toEqual([]);
    expect((await recordedHere()).map((one) => one.state)).toEqual(['sent']);
    expect(await keepKit(kit, 8)).toBe(true); // of another loop
    expect(await recordedHere()).toHaveLength(1);
    expect(await keepKit({ ...kit, text: '{"new":1}' })).toBe(true);
    expect(await recordedHere()).toEqual([]);
  });

  it('keeps its order, and goes one by one', async () => {
    await keep(row('/api/loops/7/entries', { entries: [] }));
    await keep(row('/api/jobs', {}));
    const rows = await waiting();
    expect(rows.map((one) => one.path)).toEqual(['/api/loops/7/entries', '/api/jobs']);
    await sent(rows[0]?.n ?? -1);
    expect((await waiting()).map((one) => one.path)).toEqual(['/api/jobs']);
  });

  it('is forgotten with the kit at a sign-out, and a lock stays until the next contact', async () => {
    await keep(row('/api/jobs', {}));
    await keepKit({ person: 1, name: 'Ines', madeAt: '2026-11-30T15:00:00Z', fetchedAt: 0, text: '{}' });
    await lock(true);
    await forgetAll();
    expect(await waiting()).toEqual([]);
    expect(await keptKit()).toBeUndefined();
    expect(await locked()).toBe(true);
    await lock(false);
    expect(await locked()).toBe(false);
  });
});

describe('a choice', () => {
  const entry = { id: 'a', kind: 'drained', happened_at: '2026-11-30T15:00:00Z', facts: { drained_l: 6 } };

  const chosen = async (keepIt: boolean) => {
    await keep(row('/api/loops/7/entries', { entries: [entry, { ...entry, id: 'b' }], seen: null, between: false }));
    const [first] = await waiting();
    if (!first) throw new Error('nothing waits');
    await change({ ...first, state: 'asks', said: 'Tomo drained it' });
    const [asking] = await waiting();
    await choose(asking ?? first, 'a', keepIt, '6.0 L out', 'Tomo had drained it');
    const [after] = await waiting();
    return after;
  };

  it('to keep sends it as it was, and does not ask again', async () => {
    const after = await chosen(true);
    expect(after).toMatchObject({ state: 'waits', said: '', body: { chosen: ['a'], entries: [entry, { id: 'b' }] } });
  });

  it('to set aside sends what it was, under a new id, in its place', async () => {
    const after = await chosen(false);
    const [aside, other] = (after?.body as { entries: { id: string; kind: string; facts: object }[] }).entries;
    expect(aside).toMatchObject({
      kind: 'set_aside',
      facts: { was: 'drained', said: '6.0 L out', figures: '{"drained_l":6}', at: '2026-11-30T15:00:00Z' },
    });
    expect(aside?.id).not.toBe('a');
    expect(other).toMatchObject({ id: 'b', kind: 'drained' });
  });
});

describe('machines to take along', () => {
  it('are picked and left, and what is no list is none', () => {
    pick(3, true);
    pick(5, true);
    pick(3, false);
    expect(picked()).toEqual([5]);
    localStorage.setItem('temper.picked', 'x');
    expect(picked()).toEqual([]);
  });
});
