import { addPhoto, api, Refusal, type Schemas, unwrap } from '../api/client';
import { silentSince } from '../api/net';
import { count, refreshKit } from './kit';
import { tell } from './state';
import { change, keptKit, photos, photoSent, sent, waiting, type KeptKit, type Waiting } from './store';

type EntriesIn = Schemas['EntriesIn'];
export type Meeting = Schemas['Meeting'];

const isEntries = (row: Waiting): row is Waiting & { body: EntriesIn } => /^\/api\/loops\/\d+\/entries$/.test(row.path);
const PERSON_ONLY = 'Somebody else recorded this on this tablet: they sign in here, and it is sent.';

/** Ids that the depot knows already: sent before, and only the answer was lost. */
const known = (loop: Schemas['KitLoop'], row: Waiting): boolean => {
  const ids = new Set(loop.rows.map((entry) => entry.id));
  return isEntries(row) && row.body.entries.every((entry) => ids.has(entry.id));
};

const lastIn = (rows: readonly { seq: number }[]): number => rows.reduce((most, row) => Math.max(most, row.seq), 0);

/** The number of the last entry of a loop that the kit knew. */
function lastOf(kept: KeptKit, loopId: number): number {
  const loop = (JSON.parse(kept.text) as Schemas['Kit']).loops.find((one) => one.id === loopId);
  return loop ? lastIn(loop.rows) : 0;
}

/** What waits for one loop among what others recorded; null where nobody recorded anything meanwhile, unless always. */
export async function meetingOf(
  loopId: number,
  always = false,
): Promise<{ meeting: Meeting | null; fresh: Schemas['KitLoop'] }> {
  const at = { params: { path: { loop_id: loopId } } };
  const fresh = await unwrap(api.GET('/api/kit/loops/{loop_id}', at));
  const kept = await keptKit();
  const seen = kept ? lastOf(kept, loopId) : 0;
  if (seen === lastIn(fresh.rows) && !always) return { meeting: null, fresh };
  const waits = (await waiting()).filter(isEntries).filter((row) => row.loops.includes(loopId));
  const body = { seen, waits: waits.map((row) => ({ n: row.n, body: asSent(row) })) };
  return { meeting: await unwrap(api.POST('/api/kit/loops/{loop_id}', { ...at, body })), fresh };
}

/** A request as it is sent: without what only this tablet needs to know. */
function asSent(row: Waiting & { body: EntriesIn }): EntriesIn {
  const body = { ...row.body } as EntriesIn & { chosen?: string[] };
  delete body.chosen;
  return { ...body, seen: null, apart: true };
}

/** Send what waits, in its order, each loop by itself; resumed where it stopped, by one tab at a time. */
export async function send(done: () => void): Promise<void> {
  if (silentSince() !== null) return;
  await navigator.locks.request('temper-sender', { ifAvailable: true }, async (lock) => {
    if (!lock) return;
    const rows = await waiting();
    const pictures = await photos();
    await count();
    if (rows.length + pictures.length === 0) return;
    const session = await unwrap(api.GET('/api/session'));
    if (!session.person) return;
    tell({ sending: true });
    try {
      const me = session.person.id;
      const stopped = new Set<number>();
      const last = new Map<number, string | null>();
      for (const row of rows) {
        if (silentSince() !== null) return;
        if (row.loops.some((loop) => stopped.has(loop))) continue;
        const went = row.person === me ? await sendOne(row, last) : await asks(row, PERSON_ONLY, row.state === 'asks');
        if (!went) row.loops.forEach((loop) => stopped.add(loop));
        await count();
      }
      for (const one of pictures) {
        if (one.person !== me || stopped.has(one.loopId)) continue;
        await addPhoto(one.loopId, one.id, one.entryId, one.file as File);
        await photoSent(one.id);
        await count();
      }
      if (stopped.size === 0) await refreshKit();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error; // the line dropped, or a session is over: it goes on from here
    } finally {
      tell({ sending: false });
      await count();
      done();
    }
  });
}

/** It waits for somebody's word. */
async function asks(row: Waiting, said: string, already = false): Promise<false> {
  if (!already || row.said !== said) await change({ ...row, state: 'asks', said });
  return false;
}

async function sendOne(row: Waiting, last: Map<number, string | null>): Promise<boolean> {
  if (row.state === 'asks') return false;
  const loop = row.loops[0] as number;
  let body = row.body;
  if (isEntries(row)) {
    if (!last.has(loop)) {
      const { meeting, fresh } = await meetingOf(loop);
      if (known(fresh, row)) {
        await sent(row.n);
        return true;
      }
      const asking = meeting?.mine.find((one) => one.n === row.n && one.met.asks && !chosen(row, one.met.entry_id));
      if (asking) return asks(row, asking.met.why?.sentence ?? 'Others worked on this loop meanwhile.');
      last.set(loop, fresh.rows.reduce((a, b) => (b.seq > a.seq ? b : a), { seq: 0, id: null as string | null }).id);
    }
    body = { ...asSent(row), seen: last.get(loop) ?? null };
  }
  const answer = await fetch(row.path, {
    method: row.method,
    headers: { 'Content-Type': 'application/json', 'X-CSRFToken': token() },
    body: JSON.stringify(body),
  }).catch(() => null);
  if (answer === null) throw new Refusal(0, '', 'no_answer', 'The server does not answer.');
  if (answer.ok) {
    await sent(row.n);
    const said = (await answer.json()) as Partial<Schemas['Bench']>;
    if (said.state) last.set(loop, said.state.last_entry_id);
    return true;
  }
  const problem = (await answer.json().catch(() => ({}))) as Partial<Schemas['Problem']>;
  if (answer.status === 401 || answer.status === 403 || answer.status === 429 || answer.status >= 500)
    throw new Refusal(answer.status, '', problem.code ?? '', problem.message ?? '');
  if (problem.code === 'ledger_moved') {
    last.delete(loop); // somebody recorded something this moment: look again
    return sendOne(row, last);
  }
  return asks(row, problem.message ?? 'The depot does not take this as it is.');
}

const token = (): string => /csrftoken=([^;]+)/.exec(document.cookie)?.[1] ?? '';

const chosen = (row: Waiting, entryId: string): boolean =>
  ((row.body as { chosen?: string[] }).chosen ?? []).includes(entryId);

/** A job was opened at the depot meanwhile: what was recorded here goes into that one. */
export const intoTheirJob = (row: Waiting): Promise<void> => sent(row.n);

/** What somebody chose for one entry that waits: it is sent as it is, or set aside and stays in the record as such. */
export async function choose(
  row: Waiting,
  entryId: string,
  keep: boolean,
  said: string,
  reason: string,
): Promise<void> {
  if (!isEntries(row)) return;
  const body = row.body as EntriesIn & { chosen?: string[] };
  const entries = body.entries.map((entry) => {
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
  const decided = { ...body, entries, chosen: [...(body.chosen ?? []), entryId] };
  await change({ ...row, state: 'waits', said: '', body: decided });
}
