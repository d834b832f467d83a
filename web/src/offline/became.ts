import { becameOf, keepBecame, type Waiting } from './store';

/** From here on a number is a tablet's own: of a machine that it took in without a network, and of its loops. */
export const LOCAL = 9_000_000_000_000;

export const isLocal = (n: number): boolean => n >= LOCAL;

/** The depot numbered a machine and its loops: from now on what waits for them is sent to those numbers. */
export async function nowKnown(row: Waiting, added: { id: number; loop_ids: number[] }): Promise<void> {
  const first = row.loops[0];
  if (first === undefined || !isLocal(first)) return;
  const pairs: [number, number][] = [[first - 1, added.id]];
  row.loops.forEach((loop, n) => {
    const known = added.loop_ids[n];
    if (known !== undefined) pairs.push([loop, known]);
  });
  await keepBecame(pairs);
}

/** The depot's number of what this tablet numbered; the number itself where the depot has given none yet. */
export async function known(n: number): Promise<number> {
  return isLocal(n) ? ((await becameOf(n)) ?? n) : n;
}

/** A request that waits, with the depot's numbers in it as far as there are some. */
export async function inKnownNumbers<R extends Waiting>(row: R): Promise<R> {
  if (!row.loops.some(isLocal)) return row;
  const loops = await Promise.all(row.loops.map(known));
  let path = row.path;
  row.loops.forEach((loop, n) => {
    path = path.replace(`/loops/${loop}/`, `/loops/${loops[n]}/`);
  });
  if (row.path !== '/api/jobs') return { ...row, loops, path };
  const body = row.body as { machine_id: number; loops: { loop_id: number }[] };
  const inJob = await Promise.all(body.loops.map(async (one) => ({ ...one, loop_id: await known(one.loop_id) })));
  return { ...row, loops, path, body: { ...body, machine_id: await known(body.machine_id), loops: inJob } };
}

/** What was typed under this tablet's own number, and not recorded yet, stands under the depot's from now on. */
export function carryOver(own: number, became: number): void {
  for (const key of Object.keys(localStorage)) {
    const parts = key.split('.');
    if (parts[0] !== 'temper' || !parts.includes(String(own))) continue;
    const next = parts.map((part) => (part === String(own) ? String(became) : part)).join('.');
    const typed = localStorage.getItem(key);
    if (typed !== null && localStorage.getItem(next) === null) localStorage.setItem(next, typed);
    localStorage.removeItem(key);
  }
}
