import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, type Schemas, unwrap } from '../api/client';
import { benchOptions } from '../api/queries';
import { backup } from './backup';

type Stage = Schemas['Stage'];

const keyOf = (loopId: number, stage: Stage) => `temper.draft.${loopId}.${stage}`;

/** What was kept, if it is about the same thing. */
const mine = <T>(data: Record<string, unknown> | null | undefined, about: string | undefined): Partial<T> | null =>
  data && data.about === about ? (data as Partial<T>) : null;

const PAUSE_MS = 500;

/**
 * What is typed on a stage and not recorded yet. Kept on the server per person, so that it comes back on any device;
 * until the server has it, in this tab, so that an expired session or a dropped line loses nothing.
 * about: what of the stage it speaks of; a draft about something else is not taken up.
 */
export function useDraft<T extends object>(bench: Schemas['Bench'], stage: Stage, initial: T, about?: string) {
  const loopId = bench.loop.id;
  const key = keyOf(loopId, stage);
  const client = useQueryClient();
  const kept = mine<T>(bench.drafts.find((draft) => draft.stage === stage)?.data, about);
  const here = mine<T>(backup(key), about);
  const [draft, setDraft] = useState<T>(() => ({ ...initial, ...kept, ...here }));
  const [touched, setTouched] = useState(kept !== null || here !== null);
  const seen = useRef(bench.state.last_entry_id); // as it is when a save goes out, not when it was typed
  useEffect(() => {
    seen.current = bench.state.last_entry_id;
  }, [bench.state.last_entry_id]);
  const recorded = useRef(false); // a save still under way must not bring back what has been recorded
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef(0); // changes made
  const [changes, setChanges] = useState(0); // changes that the sheet on show knows

  const save = useCallback(
    async (data: T) => {
      const path = { loop_id: loopId, stage };
      const saved = await unwrap(
        api.PUT('/api/loops/{loop_id}/drafts/{stage}', {
          params: { path },
          body: { data: { ...data } as Record<string, unknown>, seen: seen.current },
        }),
      ).catch(() => null); // stays in this tab; the next change tries again
      if (!saved || recorded.current) return;
      await client.cancelQueries(benchOptions(loopId)); // one asked before the save does not know it
      if (sessionStorage.getItem(key) === JSON.stringify(data)) sessionStorage.removeItem(key);
      client.setQueryData(benchOptions(loopId).queryKey, (old) =>
        old ? { ...old, drafts: [...old.drafts.filter((row) => row.stage !== stage), saved] } : old,
      );
    },
    [client, key, loopId, stage],
  );

  const change = useCallback(
    (given: Partial<T> | ((before: T) => Partial<T>)) => {
      setTouched(true);
      latest.current += 1;
      setChanges(latest.current);
      setDraft((before) => {
        const part = typeof given === 'function' ? given(before) : given;
        const next = about === undefined ? { ...before, ...part } : { ...before, ...part, about };
        sessionStorage.setItem(key, JSON.stringify(next));
        clearTimeout(timer.current);
        timer.current = setTimeout(() => void save(next), PAUSE_MS);
        return next;
      });
    },
    [about, key, save],
  );
  /** Forget it: it has been recorded as it stood when it was pressed; what was typed while the answer was under way stays. */
  const settle = useCallback(() => {
    if (latest.current !== changes) return;
    recorded.current = true;
    clearTimeout(timer.current);
    sessionStorage.removeItem(key);
  }, [changes, key]);

  /** Part of it has been recorded, and the sheet begins again with that: what is left is taken up by the next one. */
  const settleTo = useCallback(
    (part: Partial<T>) => {
      recorded.current = true;
      clearTimeout(timer.current);
      sessionStorage.setItem(key, JSON.stringify({ ...(backup(key) ?? draft), ...part }));
    },
    [draft, key],
  );

  useEffect(() => () => clearTimeout(timer.current), []);
  return { draft, change, settle, settleTo, touched };
}
