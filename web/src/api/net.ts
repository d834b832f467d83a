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

/** fetch, watched: nothing is silent. */
export async function watched(request: Request): Promise<Response> {
  const writes = request.method !== 'GET';
  if (writes) tell({ saving: net.saving + 1 });
  try {
    const answer = await globalThis.fetch(request);
    if (net.silentSince !== null) tell({ silentSince: null, nextTry: null });
    return answer;
  } catch (error) {
    const left = error instanceof DOMException && error.name === 'AbortError'; // somebody went to another page
    if (!left && net.silentSince === null) tell({ silentSince: Date.now() });
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
