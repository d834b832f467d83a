import 'fake-indexeddb/auto';
import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { answerHere } from './core';
import { forgetAll, keepKit } from './store';

const KIT = (text: string) => ({
  person: 1,
  name: 'Ines',
  madeAt: '2026-12-02T08:00:00Z',
  fetchedAt: Date.now(),
  text,
});

/** A calculator that never gets ready. */
class Starting {
  addEventListener(): void {}
  postMessage(): void {}
}

beforeEach(async () => {
  await forgetAll();
  vi.stubGlobal('Worker', Starting);
});
afterEach(() => vi.unstubAllGlobals());

it('shows what was last seen while something else waits for the calculator', async () => {
  const answers = { '/api/session': { person: { id: 1 } }, '/api/board': { strips: [], server_time: 'then' } };
  const text = JSON.stringify({ answers, depot: { time_zone: 'UTC' }, person: { id: 1 }, loops: [] });
  await keepKit(KIT(text));
  void answerHere(new Request('http://depot/api/loops/7')); // not in the kit as an answer: waits
  const board = await answerHere(new Request('http://depot/api/board'));
  const said = (await board?.json()) as { strips: unknown[]; server_time: string };
  expect(said.strips).toEqual([]);
  expect(said.server_time).not.toBe('then');
  expect((await answerHere(new Request('http://depot/api/session')))?.status).toBe(200);
});
