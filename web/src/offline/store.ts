import { openDB, type DBSchema, type IDBPDatabase } from 'idb';

/** A request that waits to be sent, word for word as it was recorded here. said: why the depot did not take it as it is. */
export interface Waiting {
  n: number;
  method: string;
  path: string;
  loops: number[];
  body: unknown;
  at: string;
  person: number;
  /** sent: the depot has it, this tablet's kit does not yet. */
  state: 'waits' | 'asks' | 'sent';
  said?: string;
}

/** The kit as it was fetched: whose, when by the server's clock, which picked machines, and its text. */
export interface KeptKit {
  person: number;
  name: string;
  madeAt: string;
  fetchedAt: number;
  text: string;
}

export interface KeptPhoto {
  id: string;
  loopId: number;
  entryId: string;
  file: Blob;
  person: number;
}

interface Bay extends DBSchema {
  kit: { key: 'kit'; value: KeptKit };
  queue: { key: number; value: Waiting };
  photos: { key: string; value: KeptPhoto };
  meta: { key: string; value: number };
}

let opened: Promise<IDBPDatabase<Bay>> | null = null;

/** This tablet's own store. It survives reload, crash and a flat battery: what is put is on disk before it is answered. */
const db = (): Promise<IDBPDatabase<Bay>> =>
  (opened ??= openDB<Bay>('temper-bay', 1, {
    upgrade(base) {
      base.createObjectStore('kit');
      base.createObjectStore('queue', { keyPath: 'n', autoIncrement: true });
      base.createObjectStore('photos', { keyPath: 'id' });
      base.createObjectStore('meta');
    },
  }));

export const keptKit = async (): Promise<KeptKit | undefined> => (await db()).get('kit', 'kit');

/**
 * Keep a kit; what was sent before it was made stands in its records now: of one loop, where only that one is fresh. False,
 * and nothing is kept, while something waits: it was recorded on the kit that is here, and meets the others from there.
 */
export async function keepKit(kit: KeptKit, loopId?: number): Promise<boolean> {
  const all = (await db()).transaction(['kit', 'queue'], 'readwrite');
  const queue = all.objectStore('queue');
  const rows = await queue.getAll();
  if (rows.some((row) => row.state !== 'sent')) return false;
  const done = rows.filter((row) => loopId === undefined || row.loops.includes(loopId));
  await Promise.all([all.objectStore('kit').put(kit, 'kit'), ...done.map((row) => queue.delete(row.n))]);
  await all.done;
  return true;
}

/** What was recorded here and this tablet's kit does not hold: what waits, and what was sent since. */
export const recordedHere = async (): Promise<Waiting[]> => (await db()).getAll('queue');

export const waiting = async (): Promise<Waiting[]> => (await recordedHere()).filter((row) => row.state !== 'sent');

/** Keep a request; relaxed durability would answer before it is on disk. */
export async function keep(one: Omit<Waiting, 'n'>): Promise<void> {
  const change = (await db()).transaction('queue', 'readwrite', { durability: 'strict' });
  await change.store.add(one as Waiting);
  await change.done;
}

export const change = async (one: Waiting): Promise<void> => void (await (await db()).put('queue', one));

/** The depot has it. It stays here until a kit holds it too: a tablet that loses the network in between goes on from it. */
export async function sent(n: number): Promise<void> {
  const change = (await db()).transaction('queue', 'readwrite');
  const row = await change.store.get(n);
  if (row) await change.store.put({ ...row, state: 'sent', said: '' });
  await change.done;
}

/** That it asks, and why; what it is stays as it was recorded. */
export async function asksFor(n: number, said: string): Promise<void> {
  const change = (await db()).transaction('queue', 'readwrite');
  const row = await change.store.get(n);
  if (row) await change.store.put({ ...row, state: 'asks', said });
  await change.done;
}

/** What the depot numbered things that this tablet had numbered itself. */
export const becameOf = async (n: number): Promise<number | undefined> => (await db()).get('meta', `became:${n}`);
export async function keepBecame(pairs: readonly [number, number][]): Promise<void> {
  const change = (await db()).transaction('meta', 'readwrite');
  await Promise.all(pairs.map(([own, depots]) => change.store.put(depots, `became:${own}`)));
  await change.done;
}

export const photos = async (): Promise<KeptPhoto[]> => (await db()).getAll('photos');
export const keepPhoto = async (one: KeptPhoto): Promise<void> => void (await (await db()).put('photos', one));
export const photoSent = async (id: string): Promise<void> => (await db()).delete('photos', id);

/** How far the server's clock is ahead of this tablet's [ms], as last seen. */
export const clockOffset = async (): Promise<number> => (await (await db()).get('meta', 'offset')) ?? 0;
export const keepClockOffset = async (ms: number): Promise<void> => void (await (await db()).put('meta', ms, 'offset'));

/** Nobody works with this kit: at the last contact its person was not signed in. */
export const locked = async (): Promise<boolean> => (await (await db()).get('meta', 'locked')) === 1;
export const lock = async (yes: boolean): Promise<void> => void (await (await db()).put('meta', yes ? 1 : 0, 'locked'));

/** Forget everything of a person: at the sign-out, or when somebody else takes the tablet over. */
export async function forgetAll(): Promise<void> {
  const all = (await db()).transaction(['kit', 'queue', 'photos'], 'readwrite');
  await Promise.all([
    all.objectStore('kit').clear(),
    all.objectStore('queue').clear(),
    all.objectStore('photos').clear(),
  ]);
  await all.done;
}
