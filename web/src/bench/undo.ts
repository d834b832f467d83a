import { useSyncExternalStore } from 'react';

export interface Undoable {
  loopId: number;
  between: boolean;
  /** The entries to undo, newest first. */
  entryIds: string[];
}

interface Offer extends Undoable {
  at: number;
}

export const UNDO_MS = 10_000;

let offer: Offer | null = null;
const listeners = new Set<() => void>();

function tell(next: Offer | null): void {
  offer = next;
  listeners.forEach((listener) => listener());
}

/** What was just recorded can be undone for ten seconds, on whatever page is then open. */
export function offerUndo(given: Undoable): void {
  const made = { ...given, at: Date.now() };
  tell(made);
  setTimeout(() => {
    if (offer === made) tell(null);
  }, UNDO_MS);
}

export const forgetUndo = (): void => tell(null);

/** What can be undone now. */
export function useUndo(): Offer | null {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => offer,
  );
}
