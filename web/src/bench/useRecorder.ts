import { useRef } from 'react';
import { v4 as uuid } from 'uuid';
import type { Refusal, Schemas } from '../api/client';
import { type EntryIn, useRecord } from '../api/queries';
import { offerUndo } from './undo';

type WithoutId<T> = T extends unknown ? Omit<T, 'id'> : never;
export type Fact = WithoutId<EntryIn>;

/** Ids for a preview: nothing is stored under them. */
export const asPreview = (facts: Fact[]): EntryIn[] =>
  facts.map((fact, i) => ({ ...fact, id: `00000000-0000-4000-8000-${String(i).padStart(12, '0')}` }) as EntryIn);

const UNDONE = new Set(['voided', 'signed_off', 'acknowledged', 'amended']); // taken back by nothing, or itself a taking back

export interface Recorder {
  record: (facts: Fact[], onDone?: () => void) => void;
  busy: boolean;
  refusal: Refusal | null;
  forget: () => void;
}

/**
 * Records facts. The same facts keep the same ids until they are stored, so that a double click, or a second try after
 * a dropped line, stores them once. between: without a job, between services.
 */
export function useRecorder(loopId: number, state: Schemas['LoopState'], between = false): Recorder {
  const mutation = useRecord(loopId);
  const ids = useRef(new Map<string, string[]>());
  const record = (facts: Fact[], onDone?: () => void) => {
    if (mutation.isPending) return;
    const key = JSON.stringify(facts);
    const kept = ids.current.get(key) ?? facts.map(() => uuid());
    ids.current.set(key, kept);
    const entries = facts.map((fact, i) => ({ ...fact, id: kept[i] }) as EntryIn);
    mutation.mutate(
      { entries, seen: state.last_entry_id, between },
      {
        onSuccess: () => {
          ids.current.delete(key);
          const done = entries.filter((entry) => UNDONE.has(entry.kind) === false);
          if (done.length > 0) offerUndo({ loopId, between, entryIds: done.map((entry) => entry.id).reverse() });
          onDone?.();
        },
      },
    );
  };
  return { record, busy: mutation.isPending, refusal: mutation.error, forget: mutation.reset };
}
