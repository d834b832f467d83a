import { api, type Schemas, unwrap } from '../api/client';
import { noteServerTime } from './clock';
import { CORE_AT, reload } from './core';
import { bayNow, tell } from './state';
import { keepKit, keptKit, waiting } from './store';

const SWITCH = 'temper.takes-along';
const PICKED = 'temper.picked';
const MOST_PICKED = 60;
const FILES = [
  'pyodide.mjs',
  'pyodide.asm.mjs',
  'pyodide.asm.wasm',
  'python_stdlib.zip',
  'pyodide-lock.json',
  'bay.zip',
  'snapshot.bin',
];

/** Whether this tablet takes a kit along; a switch of the device. */
export const takesAlong = (): boolean => CORE_AT !== '' && localStorage.getItem(SWITCH) !== 'no';
export const setTakesAlong = (yes: boolean): void => localStorage.setItem(SWITCH, yes ? 'yes' : 'no');

/** Machines that somebody picked to take along. */
export const picked = (): number[] => {
  try {
    const kept = JSON.parse(localStorage.getItem(PICKED) ?? '[]') as unknown;
    return Array.isArray(kept) ? kept.filter((one): one is number => Number.isInteger(one)) : [];
  } catch {
    return [];
  }
};
export const pick = (machineId: number, yes: boolean): void => {
  const rest = picked().filter((one) => one !== machineId);
  localStorage.setItem(PICKED, JSON.stringify(yes ? [...rest, machineId].slice(-MOST_PICKED) : rest));
};

/** Fetch the kit while the server answers, keep it, and with it the core's runtime in the browser's cache. */
export async function refreshKit(): Promise<void> {
  if (!takesAlong()) return;
  const kit = await unwrap(api.GET('/api/kit', { params: { query: { machines: picked().join(',') } } }));
  await noteServerTime(kit.made_at);
  const kept = await keepKit({
    person: kit.person.id,
    name: kit.person.name,
    madeAt: kit.made_at,
    fetchedAt: Date.now(),
    text: JSON.stringify(kit),
  });
  if (!kept) return; // what waits is sent first
  tell({ kitAt: kit.made_at, evicted: false });
  localStorage.setItem('temper.kit-of', String(kit.person.id));
  if (bayNow().core === 'ready') await reload();
}

/**
 * A loop's record as it is now, into the kit: what was recorded a moment ago must be there when the network goes.
 * last: the last entry that a page of the server's showed; nothing is done where the kit has it.
 */
export async function refreshLoop(loopId: number, last: string | null): Promise<void> {
  const kept = await keptKit();
  if (!takesAlong() || !kept || (await waiting()).length > 0) return;
  const kit = JSON.parse(kept.text) as Schemas['Kit'];
  const before = kit.loops.find((loop) => loop.id === loopId);
  if (before?.rows.some((row) => row.id === last) || last === null) return;
  const fresh = await unwrap(api.GET('/api/kit/loops/{loop_id}', { params: { path: { loop_id: loopId } } }));
  const rest = kit.loops.filter((loop) => loop.id !== loopId);
  await keepKit({ ...kept, text: JSON.stringify({ ...kit, loops: [...rest, fresh] }) }, loopId);
  if (bayNow().core === 'ready') await reload();
}

/** Fetch the core's runtime once, into the cache that the service worker answers from. */
export async function fetchCore(): Promise<void> {
  if (!takesAlong() || !('caches' in window)) return;
  const cache = await caches.open('temper-core');
  for (const old of await cache.keys()) if (!old.url.includes(CORE_AT)) await cache.delete(old);
  for (const name of FILES) {
    const at = `${CORE_AT}${name}`;
    if (!(await cache.match(at))) await cache.add(at);
  }
}

/** Ask the browser not to throw the kit away, and notice where it did. */
export async function holdStorage(): Promise<void> {
  await navigator.storage?.persist?.();
  if (localStorage.getItem('temper.kit-of') !== null && !(await keptKit())) tell({ evicted: true });
}
