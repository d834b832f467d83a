import { useSyncExternalStore } from 'react';

/** What goes on between this browser and the server: what is being saved, and since when nothing answers. */
export interface Net {
  /** Requests that record or save something and have no answer yet. */
  saving: number;
  /** When the first request stayed without an answer, by this browser's clock; null while the server answers. */
  silentSince: number | null;
  /** When it is asked again. */
  nextTry: number | null;
}

let net: Net = { saving: 0, silentSince: null, nextTry: null };
const listeners = new Set<() => void>();

function tell(part: Partial<Net>): void {
  net = { ...net, ...part };
  listeners.forEach((listener) => listener());
}

/** Who answers where the server does not: this tablet's kit. null: it has no answer either. */
type Elsewhere = (request: Request) => Promise<Response | null>;
let elsewhere: Promise<Elsewhere> | null = null;

/** Told at the start of the application: a kit is asked where nothing answers. */
export function answerElsewhere(by: Promise<Elsewhere>): void {
  elsewhere = by;
}

async function fromElsewhere(request: Request | null): Promise<Response | null> {
  if (!elsewhere || !request) return null;
  return (await elsewhere)(request);
}

/** Nothing answers, or again something does. */
export function answers(yes: boolean): void {
  if (yes) tell({ silentSince: null, nextTry: null });
  else if (net.silentSince === null) tell({ silentSince: Date.now() });
}

export const silentSince = (): number | null => net.silentSince;

/** Told whenever something changes. */
export function onNet(listener: () => void): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

/** fetch, watched: nothing is silent. While nothing answers the tablet's kit does, at once. */
export async function watched(request: Request): Promise<Response> {
  const writes = request.method !== 'GET';
  const copy = elsewhere ? request.clone() : null;
  if (net.silentSince !== null) {
    const here = await fromElsewhere(copy?.clone() ?? null);
    if (here) return here;
  }
  if (writes) tell({ saving: net.saving + 1 });
  try {
    const answer = await globalThis.fetch(request);
    if (net.silentSince !== null) answers(true);
    return answer;
  } catch (error) {
    const left = error instanceof DOMException && error.name === 'AbortError'; // somebody went to another page
    if (left) throw error;
    answers(false);
    const here = await fromElsewhere(copy);
    if (here) return here;
    throw error;
  } finally {
    if (writes) tell({ saving: net.saving - 1 });
  }
}

const LONGEST_MS = 15_000;

/** How long until the next try: twice as long each time, at most a quarter of a minute; said on the screen. */
export function nextTryIn(failures: number): number {
  const wait = Math.min(1000 * 2 ** failures, LONGEST_MS);
  tell({ nextTry: Date.now() + wait });
  return wait;
}

/** What goes on now. */
export function useNet(): Net {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => net,
  );
}
