import { addPhoto, api, csrf, Refusal, type Schemas, unwrap } from '../api/client';
import { silentSince } from '../api/net';
import { inKnownNumbers, known as inDepot, nowKnown } from './became';
import { count } from './count';
import { tell } from './state';
import {
  asksFor,
  change,
  keptKit,
  photos,
  photoSent,
  recordedHere,
  sent,
  waiting,
  type KeptKit,
  type KeptPhoto,
  type Waiting,
} from './store';

type EntriesIn = Schemas['EntriesIn'];
export type Meeting = Schemas['Meeting'];
type Edit = Schemas['EditWaitsIn'];
type EntriesRow = Waiting & { body: EntriesIn & { chosen?: string[] } };

const isEntries = (row: Waiting): row is EntriesRow => /^\/api\/loops\/\d+\/entries$/.test(row.path);
const MOST_MET = 100; // entries that one meeting looks at; the next ones meet when these are sent

/** Ids that the depot knows already: sent before, and only the answer was lost. */
const known = (loop: Schemas['KitLoop'], row: EntriesRow): boolean => {
  const ids = new Set(loop.rows.map((entry) => entry.id));
  return row.body.entries.every((entry) => ids.has(entry.id));
};

type Numbered = readonly { seq: number; id: string }[];
const lastIn = (rows: Numbered): { seq: number; id: string | null } =>
  rows.reduce<{ seq: number; id: string | null }>((most, row) => (row.seq > most.seq ? row : most), {
    seq: 0,
    id: null,
  });

/** The number of the last entry of a loop that the kit knew. */
function lastOf(kept: KeptKit, loopId: number): number {
  const loop = (JSON.parse(kept.text) as Schemas['Kit']).loops.find((one) => one.id === loopId);
  return loop ? lastIn(loop.rows).seq : 0;
}

const idsOf = (rows: readonly EntriesRow[]): string[] => rows.flatMap((row) => row.body.entries.map(({ id }) => id));

interface Met {
  /** What asks somebody, and what does not; null where nobody recorded anything meanwhile. */
  meeting: Meeting | null;
  /** The loop as it is at the depot. */
  fresh: Schemas['KitLoop'];
  /** The requests that were looked at. */
  looked: ReadonlySet<number>;
}

/** What waits for one loop among what others recorded; always: also where nobody did. edit: with other values in an entry. */
export async function meetingOf(loopId: number, always = false, edit: Edit | null = null): Promise<Met> {
  const at = { params: { path: { loop_id: loopId } } };
  const fresh = await unwrap(api.GET('/api/kit/loops/{loop_id}', at));
  const kept = await keptKit();
  const seen = kept ? lastOf(kept, loopId) : 0;
  const here = await Promise.all((await recordedHere()).map(inKnownNumbers));
  const mine = here.filter(isEntries).filter((row) => row.loops.includes(loopId));
  const ours = idsOf(mine.filter((row) => row.state === 'sent'));
  const waits = firstOf(mine.filter((row) => row.state !== 'sent'));
  const looked = new Set(waits.map((row) => row.n));
  const foreign = fresh.rows.some((row) => row.seq > seen && !ours.includes(row.id));
  if (!foreign && !always) return { meeting: null, fresh, looked };
  const body = { seen, ours, edit, waits: waits.map((row) => ({ n: row.n, body: asSent(row) })) };
  return { meeting: await unwrap(api.POST('/api/kit/loops/{loop_id}', { ...at, body })), fresh, looked };
}

/** The first requests, up to what one meeting looks at; one at least. */
function firstOf(rows: readonly EntriesRow[]): EntriesRow[] {
  let entries = 0;
  return rows.filter((row, n) => (entries += row.body.entries.length) <= MOST_MET || n === 0);
}

/** A request as it is sent: without what only this tablet needs to know. */
function asSent(row: EntriesRow): EntriesIn {
  const body = { ...row.body };
  delete body.chosen;
  return { ...body, seen: null, apart: true };
}

/** What is told while it is sent: done, whatever came of it; all: nothing waits and nothing asks any more. */
interface Told {
  done: () => void;
  all: () => Promise<void>;
}

/** Send what waits, in its order, each loop by itself; resumed where it stopped, by one tab (or the service worker) at a time. */
export async function send(told: Told): Promise<void> {
  if (silentSince() !== null) return;
  await navigator.locks.request('temper-sender', { ifAvailable: true }, async (lock) => {
    if (!lock) return;
    const [rows, pictures] = [await waiting(), await photos()];
    await count();
    if (rows.length + pictures.length === 0) return;
    const session = await unwrap(api.GET('/api/session'));
    if (!session.person) return;
    const me = session.person.id;
    tell({ sending: true, me });
    try {
      const stopped = await new Sender(me).all(rows, pictures);
      if (stopped.size === 0) await told.all();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error; // the line dropped, or a session is over: it goes on from here
    } finally {
      tell({ sending: false });
      await count();
      told.done();
    }
  });
}

/** One going through what waits. Throws a Refusal where the line drops or nobody is signed in any more. */
class Sender {
  private readonly stopped = new Set<number>();
  private readonly last = new Map<number, string | null>();
  private readonly met = new Map<number, ReadonlySet<number>>();

  constructor(private readonly me: number) {}

  /** Everything in its order; gives the loops at which something asks. */
  async all(rows: readonly Waiting[], pictures: readonly KeptPhoto[]): Promise<ReadonlySet<number>> {
    for (const kept of rows) {
      if (kept.loops.some((loop) => this.stopped.has(loop))) continue;
      const row = await inKnownNumbers(kept); // what was sent before it may have been given its number
      if (!(await this.one(row))) [...kept.loops, ...row.loops].forEach((loop) => this.stopped.add(loop));
      await count();
    }
    for (const one of pictures) {
      if (one.person !== this.me || this.stopped.has(one.loopId)) continue;
      await addPhoto(await inDepot(one.loopId), one.id, one.entryId, one.file as File);
      await photoSent(one.id);
      await count();
    }
    return this.stopped;
  }

  private async one(row: Waiting): Promise<boolean> {
    if (row.person !== this.me || row.state === 'asks') return false;
    if (!isEntries(row)) return this.post(row, row.body);
    const loop = row.loops[0] as number;
    if (!this.met.get(loop)?.has(row.n)) {
      const { meeting, fresh, looked } = await meetingOf(loop);
      if (known(fresh, row)) {
        await sent(row.n);
        return true;
      }
      for (const one of meeting?.mine ?? [])
        if (one.n === row.n && one.met.asks && !chosen(row, one.met.entry_id))
          return asks(row, one.met.why?.sentence ?? 'Others worked on this loop meanwhile.');
      this.met.set(loop, meeting ? withoutAsking(looked, meeting) : looked);
      this.last.set(loop, lastIn(fresh.rows).id);
    }
    return this.post(row, { ...asSent(row), seen: this.last.get(loop) ?? null });
  }

  private async post(row: Waiting, body: unknown): Promise<boolean> {
    const answer = await fetch(row.path, {
      method: row.method,
      headers: { 'Content-Type': 'application/json', 'X-CSRFToken': await csrf() },
      body: JSON.stringify(body),
    }).catch(() => null);
    if (answer === null) throw new Refusal(0, '', 'no_answer', 'The server does not answer.');
    if (answer.ok) {
      const said = (await answer.json()) as Partial<Schemas['Bench'] & Schemas['MachineAdded']>;
      if (row.path === '/api/machines' && said.id !== undefined && said.loop_ids)
        await nowKnown(row, { id: said.id, loop_ids: said.loop_ids });
      await sent(row.n);
      if (said.state) this.last.set(row.loops[0] as number, said.state.last_entry_id);
      return true;
    }
    const problem = (await answer.json().catch(() => ({}))) as Partial<Schemas['Problem']>;
    if (answer.status === 401 || answer.status === 403 || answer.status === 429 || answer.status >= 500)
      throw new Refusal(answer.status, '', problem.code ?? '', problem.message ?? '');
    if (problem.code === 'ledger_moved' && isEntries(row)) {
      this.met.delete(row.loops[0] as number); // somebody recorded something this moment: look again
      return this.one(row);
    }
    return asks(row, problem.message ?? 'The depot does not take this as it is.');
  }
}

/** The requests that were looked at, but for those that ask: they are looked at again, among what was sent before them. */
function withoutAsking(looked: ReadonlySet<number>, meeting: Meeting): ReadonlySet<number> {
  const asking = new Set(meeting.mine.filter((one) => one.met.asks).map((one) => one.n));
  return new Set([...looked].filter((n) => !asking.has(n)));
}

/** It waits for somebody's word. */
async function asks(row: Waiting, said: string): Promise<false> {
  await asksFor(row.n, said);
  return false;
}

const chosen = (row: EntriesRow, entryId: string): boolean => (row.body.chosen ?? []).includes(entryId);

/** A job was opened at the depot meanwhile: what was recorded here goes into that one. */
export const intoTheirJob = (row: Waiting): Promise<void> => sent(row.n);

/** Keep other values for an entry that waits: the request as the depot gave it back. */
export async function keepEdited(row: Waiting, edited: EntriesIn): Promise<void> {
  if (!isEntries(row)) return;
  const entries = row.body.entries.map((entry) => edited.entries.find(({ id }) => id === entry.id) ?? entry);
  await change({ ...row, body: { ...row.body, entries } });
}

/** What somebody chose for one entry that waits: it is sent as it is, or set aside and stays in the record as such. */
export async function choose(
  row: Waiting,
  entryId: string,
  keep: boolean,
  said: string,
  reason: string,
): Promise<void> {
  if (!isEntries(row)) return;
  const entries = row.body.entries.map((entry) => {
    if (entry.id !== entryId || keep) return entry;
    const aside = {
      id: crypto.randomUUID(),
      kind: 'set_aside' as const,
      happened_at: entry.happened_at ?? null,
      facts: {
        was: entry.kind,
        said: said.slice(0, 500),
        figures: JSON.stringify(entry.facts).slice(0, 4000),
        at: entry.happened_at ?? row.at,
        reason: reason.slice(0, 300),
      },
    };
    return aside as unknown as EntriesIn['entries'][number];
  });
  const body = { ...row.body, entries, chosen: [...(row.body.chosen ?? []), entryId] };
  await change({ ...row, state: 'waits', said: '', body });
}
