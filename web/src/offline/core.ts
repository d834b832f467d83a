import { wrap, type Remote } from 'comlink';
import { nowInZone } from './clock';
import { keep, keptKit, recordedHere, type KeptKit } from './store';
import { bayNow, SEND_TAG, tell } from './state';
import type { Core } from './worker';

declare const __BAY__: string;

/** Where the packed core lies; "" where the front end was built without it. */
export const CORE_AT: string = __BAY__;

interface Kit {
  answers: Record<string, unknown>;
  depot: { time_zone: string };
  person: { id: number };
}

let started: Promise<Remote<Core>> | null = null;
let ready: () => void = () => undefined;

/** Told once the calculator is there: what was answered as last seen is asked again. */
export function whenReady(listener: () => void): void {
  ready = listener;
}
let parsed: { text: string; kit: Kit } | null = null;

/** The kit's verbatim part, parsed once. */
export function parsedKit(kept: KeptKit): Kit {
  if (parsed?.text !== kept.text) parsed = { text: kept.text, kit: JSON.parse(kept.text) as Kit };
  return parsed.kit;
}

/** The core with this tablet's kit, started once; what waits stands in its records. */
export function coreOf(kept: KeptKit): Promise<Remote<Core>> {
  return (started ??= start(kept));
}

async function start(kept: KeptKit): Promise<Remote<Core>> {
  tell({ core: 'starting' });
  try {
    const worker = new Worker(new URL('./worker.ts', import.meta.url), { type: 'module' });
    const core = wrap<Core>(worker);
    const rows = await recordedHere();
    await core.load(CORE_AT, kept.text, JSON.stringify(rows), await nowInZone(parsedKit(kept).depot.time_zone));
    tell({ core: 'ready' });
    return core;
  } catch (error) {
    started = null;
    tell({ core: 'failed' });
    throw error;
  }
}

/** Begin again with the kit of now: after a new one came, or what waited was sent. */
export async function reload(): Promise<void> {
  const kept = await keptKit();
  if (!started || !kept) return;
  const core = await started;
  const rows = await recordedHere();
  await core.load(CORE_AT, kept.text, JSON.stringify(rows), await nowInZone(parsedKit(kept).depot.time_zone));
}

/** Two tabs of one tablet have a core each: what one keeps the other has to know before it judges anything more. */
const tabs = typeof BroadcastChannel === 'undefined' ? null : new BroadcastChannel('temper-bay');
tabs?.addEventListener('message', () => {
  const mine = turn.then(reload).then(ready);
  turn = mine.catch(() => undefined);
});

let turn: Promise<unknown> = Promise.resolve();

/** Have the service worker send it as soon as there is a network, also where no page is open then; not every browser does. */
export async function sendInBackground(): Promise<void> {
  if (!('serviceWorker' in navigator) || !navigator.serviceWorker.controller) return;
  const registered = (await navigator.serviceWorker.ready) as ServiceWorkerRegistration & {
    sync?: { register(tag: string): Promise<void> };
  };
  await registered.sync?.register(SEND_TAG).catch(() => undefined); // else: on focus, and every minute
}

/** What the server would answer, out of this tablet's kit; null where there is none. One at a time: a record has an order. */
export async function answerHere(request: Request): Promise<Response | null> {
  const kept = await keptKit();
  if (!kept) return null;
  const seen = request.method === 'GET' ? await asLastSeen(request, kept) : null;
  if (seen) return seen; // out of turn: what waits for the calculator must not hold up what needs none
  const text = request.method === 'GET' || request.method === 'DELETE' ? '' : await request.text();
  const mine = turn.then(() => answered(request, text, kept));
  turn = mine.catch(() => undefined);
  return mine;
}

const json = (body: unknown, status = 200): Response =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });

/** What was last seen there, until the calculator is ready: then it is asked again. null: this has to wait for it. */
async function asLastSeen(request: Request, kept: KeptKit): Promise<Response | null> {
  const url = new URL(request.url);
  const kit = parsedKit(kept);
  const session = url.pathname === '/api/session';
  if (!session && (bayNow().core === 'ready' || url.search !== '')) return null;
  const seen = kit.answers[url.pathname];
  if (seen === undefined) return null;
  if (!session) coreOf(kept).then(ready, () => undefined);
  const server_time = new Date(await nowInZone(kit.depot.time_zone)).toISOString();
  return json(session || 'server_time' in (seen as object) ? { ...(seen as object), server_time } : seen);
}

async function answered(request: Request, text: string, kept: KeptKit): Promise<Response | null> {
  const url = new URL(request.url);
  const kit = parsedKit(kept);
  const now = await nowInZone(kit.depot.time_zone);
  if (request.method !== 'GET' && url.pathname === '/api/session') {
    return json(
      {
        field: '',
        code: 'needs_network',
        message: 'Signing in and out needs the network: this tablet belongs to who took it along.',
      },
      503,
    );
  }
  const core = await coreOf(kept);
  const asked = {
    method: request.method,
    path: url.pathname,
    query: Object.fromEntries(url.searchParams),
    body: text ? (JSON.parse(text) as unknown) : null,
    now,
  };
  const said = JSON.parse(await core.ask(JSON.stringify(asked))) as {
    status: number;
    text: string;
    keep: { method: string; path: string; loops: number[]; body: unknown } | null;
  };
  if (said.keep) {
    try {
      await keep({ ...said.keep, at: now, person: kit.person.id, state: 'waits' });
    } catch {
      await reload(); // it stands nowhere if it cannot be kept
      return json(
        {
          field: '',
          code: 'not_kept',
          message: 'This tablet could not keep that: its storage is full. Free some room, then record it again.',
        },
        507,
      );
    }
    tabs?.postMessage('kept');
    void sendInBackground();
    const signs = JSON.stringify(said.keep.body).includes('"kind":"signed_off"');
    tell({ waiting: bayNow().waiting + 1, signed: bayNow().signed + (signs ? 1 : 0) });
  }
  return new Response(said.status === 204 ? null : said.text, {
    status: said.status,
    headers: { 'Content-Type': 'application/json' },
  });
}
