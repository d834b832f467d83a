import { useSyncExternalStore } from 'react';

/** Where a draft is: typed and kept in this browser alone, on its way, or kept on the server for every device. */
export type DraftState = 'here' | 'saving' | 'kept';

const states = new Map<string, DraftState>();
const listeners = new Set<() => void>();

export function setDraftState(key: string, state: DraftState): void {
  states.set(key, state);
  listeners.forEach((listener) => listener());
}

/** The state of all drafts of a loop together: the least safe one. */
export function useDraftState(loopId: number): DraftState {
  return useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => {
      const own = [...states].filter(([key]) => key.startsWith(`temper.draft.${loopId}.`)).map(([, state]) => state);
      return own.includes('here') ? 'here' : own.includes('saving') ? 'saving' : 'kept';
    },
  );
}
