import type { QueryClient } from '@tanstack/react-query';
import { Workbox } from 'workbox-window';
import { onSignedOut, type Schemas } from '../api/client';
import { answers, onNet, silentSince } from '../api/net';
import { sessionOptions } from '../api/queries';
import { atSignOut } from '../api/useSignOut';
import { answerHere, whenReady } from './core';
import { count } from './count';
import { fetchCore, holdStorage, refreshKit, refreshLoop, takesAlong } from './kit';
import { photoHere } from './photos';
import { send } from './sender';
import { bayNow, tell } from './state';
import { forgetAll, keptKit, lock, locked } from './store';

const PROBE_MS = 5_000;
const SEND_MS = 60_000;
const KIT_MS = 10 * 60_000;
const UPDATE_MS = 30 * 60_000;
const SETTLED_MS = 4_000;
const SOON_MS = 700;

/** Where nothing answers this tablet's kit does, if it takes one along and its person was not refused at the last contact. */
export async function elsewhere(request: Request): Promise<Response | null> {
  if (!takesAlong() || !new URL(request.url).pathname.startsWith('/api/')) return null;
  if (!(await keptKit()) || (await locked())) return null;
  return (await photoHere(request)) ?? answerHere(request);
}

/** Everything that work without a network needs, once: the kit, the service worker, sending, the question at a sign-out. */
export function boot(client: QueryClient): void {
  const again = () => void client.invalidateQueries();
  const sendNow = () => void send({ done: again, all: refreshKit }).catch(() => undefined);
  tell({ since: silentSince() });
  whenReady(() => void count().then(again));
  onNet(() => {
    const since = silentSince();
    if (since === bayNow().since) return;
    tell({ since });
    if (since === null) {
      again();
      sendNow();
      void workbox?.update().catch(() => undefined);
    }
  });
  setInterval(() => silentSince() !== null && void probe(), PROBE_MS);
  setInterval(sendNow, SEND_MS);
  setInterval(() => void workbox?.update().catch(() => undefined), UPDATE_MS); // a page may stay open for days
  for (const event of ['online', 'focus'] as const)
    window.addEventListener(event, () => (silentSince() !== null ? void probe() : sendNow()));
  onSignedOut(() => void lock(true));
  client.getQueryCache().subscribe(({ query, type }) => {
    if (type === 'updated' && query.queryKey[0] === 'bench' && silentSince() === null) {
      const seen = query.state.data as Schemas['Bench'] | undefined;
      if (seen) soon(() => refreshLoop(seen.loop.id, seen.state.last_entry_id));
    }
    const session = query.queryKey[0] === 'session' ? client.getQueryData(sessionOptions.queryKey) : undefined;
    if (session && !session.person && silentSince() === null) void lock(true); // the server says so: nobody is signed in
  });
  atSignOut(mayLeave, async () => {
    await forgetAll();
    localStorage.removeItem('temper.kit-of');
    await count();
  });
  void count().then(holdStorage);
  void whenSignedIn(client, sendNow);
  if (takesAlong()) serviceWorker();
}

let later: ReturnType<typeof setTimeout> | undefined;

/** Once nothing more happens for a moment. */
function soon(act: () => Promise<void>): void {
  clearTimeout(later);
  later = setTimeout(() => void act().catch(() => undefined), SOON_MS);
}

async function probe(): Promise<void> {
  try {
    const answer = await fetch('/api/health', { cache: 'no-store' });
    if (answer.status < 500 || answer.headers.get('Content-Type')?.includes('json')) answers(true);
  } catch {
    answers(false);
  }
}

/** Somebody else's kit, with what they have not sent yet: nobody works with it. */
async function lockUnlessOf(personId: number): Promise<void> {
  const kit = await keptKit();
  await lock(kit !== undefined && kit.person !== personId);
}

/** A moment after somebody is signed in: the kit, then the core's runtime, both in the background; the kit again and again. */
async function whenSignedIn(client: QueryClient, sendNow: () => void): Promise<void> {
  let fetched = 0;
  const look = async () => {
    const person = client.getQueryData(sessionOptions.queryKey)?.person;
    if (!person || silentSince() !== null || !takesAlong()) return;
    if (Date.now() - fetched < KIT_MS) return;
    fetched = Date.now();
    try {
      await lockUnlessOf(person.id);
      if (bayNow().waiting === 0) await refreshKit();
      else sendNow();
      await lockUnlessOf(person.id);
      await fetchCore();
    } catch {
      fetched = 0; // the next look tries again
    }
  };
  setInterval(() => void look(), SETTLED_MS);
}

/** Signing out forgets the kit; it asks first where something waits to be sent, and needs the network. */
async function mayLeave(): Promise<boolean> {
  if (silentSince() !== null && (await keptKit())) {
    tell({ notice: 'Signing out needs the network: this tablet is yours until then.' });
    return false;
  }
  await count();
  if (bayNow().waiting === 0) return true;
  return new Promise((resolve) => tell({ leaving: resolve }));
}

let workbox: Workbox | null = null;
let taking = false;

/** The page without a network; a new version asks before it replaces this one. */
function serviceWorker(): void {
  if (!('serviceWorker' in navigator) || import.meta.env.DEV) return;
  workbox = new Workbox('/sw.js');
  workbox.addEventListener('waiting', () => tell({ update: true }));
  workbox.addEventListener('controlling', (event) => {
    if (taking) window.location.reload();
    else if (event.isUpdate || event.isExternal) tell({ update: true }); // another tab took it: this one is told
  });
  void workbox.register().catch(() => undefined);
}

/** Take the new version; where another tab took it, the page is loaded once more. */
export async function update(): Promise<void> {
  const registered = await navigator.serviceWorker.getRegistration();
  taking = true;
  if (registered?.waiting) workbox?.messageSkipWaiting();
  else window.location.reload();
}
