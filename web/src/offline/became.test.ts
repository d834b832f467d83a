import 'fake-indexeddb/auto';
import { beforeEach, expect, it } from 'vitest';
import { carryOver, inKnownNumbers, known, LOCAL, nowKnown } from './became';
import { asksFor, forgetAll, keep, recordedHere, type Waiting } from './store';

const OWN = LOCAL + 40;
const row = (path: string, body: unknown, loops = [OWN + 1]) => ({
  n: 1,
  method: 'POST',
  path,
  loops,
  body,
  at: '2026-12-02T09:00:00Z',
  person: 1,
  state: 'waits' as const,
});

beforeEach(async () => {
  await forgetAll();
  localStorage.clear();
});

it('sends what waits for a machine to the numbers that the depot gave', async () => {
  const own = OWN + 100;
  const taken = row('/api/machines', { id: 'a' }, [own + 1, own + 2]);
  const job = row('/api/jobs', { machine_id: own, loops: [{ loop_id: own + 2, job_type: 'check' }] }, [own + 2]);
  const entry = row(`/api/loops/${own + 2}/entries`, { entries: [] }, [own + 2]);
  expect(await inKnownNumbers(job)).toEqual(job); // the depot has given none yet
  await nowKnown(taken, { id: 7, loop_ids: [21, 22] });
  expect((await inKnownNumbers(job)).body).toEqual({ machine_id: 7, loops: [{ loop_id: 22, job_type: 'check' }] });
  expect(await inKnownNumbers(entry)).toMatchObject({ path: '/api/loops/22/entries', loops: [22] });
  expect(await known(own)).toBe(7);
  expect(await known(12)).toBe(12);
});

it('leaves everything alone that the depot numbered itself', async () => {
  const entry = row('/api/loops/12/entries', { entries: [] }, [12]);
  expect(await inKnownNumbers(entry)).toBe(entry);
  await nowKnown({ ...entry, path: '/api/machines' }, { id: 7, loop_ids: [21] });
  expect(await known(12)).toBe(12);
});

it('keeps what a refused request was, with why it asks', async () => {
  const fresh: Partial<Waiting> = row('/api/machines', { fleet_number: 'X' });
  delete fresh.n; // the store numbers it
  await keep(fresh as Omit<Waiting, 'n'>);
  const kept = (await recordedHere())[0];
  await asksFor(kept?.n ?? 0, 'The number is taken.');
  const asks = (await recordedHere())[0];
  expect(asks).toMatchObject({ state: 'asks', said: 'The number is taken.', body: { fleet_number: 'X' } });
});

it('carries over what was typed, and nothing else', () => {
  localStorage.setItem(`temper.draft.${OWN}.open.1`, '{"held":"yes"}');
  localStorage.setItem(`temper.draft.${OWN}1.open.1`, 'another loop');
  localStorage.setItem(`other.${OWN}`, 'not ours');
  carryOver(OWN, 21);
  expect(localStorage.getItem('temper.draft.21.open.1')).toBe('{"held":"yes"}');
  expect(localStorage.getItem(`temper.draft.${OWN}.open.1`)).toBeNull();
  expect(localStorage.getItem(`temper.draft.${OWN}1.open.1`)).toBe('another loop');
  expect(localStorage.getItem(`other.${OWN}`)).toBe('not ours');
});
