import { useQueryClient } from '@tanstack/react-query';
import { useCallback, useEffect, useRef, useState } from 'react';
import { api, Refusal, type Schemas, unwrap } from '../api/client';
import { nextTryIn } from '../api/net';
import { benchOptions, sessionOptions } from '../api/queries';
import { backup } from './backup';
import { setDraftState } from './draftState';

type Stage = Schemas['Stage'];

const keyOf = (loopId: number, stage: Stage, person: number | undefined) =>
  `temper.draft.${loopId}.${stage}${person === undefined ? '' : `.${person}`}`;

/** What was kept, if it is about the same thing. */
const mine = <T>(data: Record<string, unknown> | null | undefined, about: string | undefined): Partial<T> | null =>
  data && data.about === about ? (data as Partial<T>) : null;

const PAUSE_MS = 500;

/**
 * What is typed on a stage and not recorded yet. Kept on the server per person, so that it comes back on any device;
 * until the server has it, in this browser, so that an expired session, a dropped line or a closed tab loses nothing.
 * about: what of the stage it speaks of; a draft about something else is not taken up.
 */
export function useDraft<T extends object>(bench: Schemas['Bench'], stage: Stage, initial: T, about?: string) {
  const loopId = bench.loop.id;
  const client = useQueryClient();
  const key = keyOf(loopId, stage, client.getQueryData(sessionOptions.queryKey)?.person?.id);
  const kept = mine<T>(bench.drafts.find((draft) => draft.stage === stage)?.data, about);
  const here = mine<T>(backup(key), about);
  const [draft, setDraft] = useState<T>(() => ({ ...initial, ...kept, ...here }));
  const typed = useRef(draft);
  const [touched, setTouched] = useState(kept !== null || here !== null);
  const seen = useRef(bench.state.last_entry_id); // as it is when a save goes out, not when it was typed
  useEffect(() => {
    seen.current = bench.state.last_entry_id;
  }, [bench.state.last_entry_id]);
  const recorded = useRef(false); // a save still under way must not bring back what has been recorded
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const latest = useRef(0); // changes made
  const [changes, setChanges] = useState(0); // changes that the sheet on show knows

  const turn = useRef(0); // only the newest text is saved, and tried again
  const save = useCallback(
    async (data: T): Promise<void> => {
      const mineIs = ++turn.current;
      for (let failures = 0; mineIs === turn.current && !recorded.current; failures++) {
        setDraftState(key, 'saving');
        try {
          const saved = await unwrap(
            api.PUT('/api/loops/{loop_id}/drafts/{stage}', {
              params: { path: { loop_id: loopId, stage } },
              body: { data: { ...data } as Record<string, unknown>, seen: seen.current },
            }),
          );
          if (recorded.current) return;
          await client.cancelQueries(benchOptions(loopId)); // one asked before the save does not know it
          if (localStorage.getItem(key) === JSON.stringify(data)) {
            localStorage.removeItem(key);
            setDraftState(key, 'kept');
          }
          client.setQueryData(benchOptions(loopId).queryKey, (old) =>
            old ? { ...old, drafts: [...old.drafts.filter((row) => row.stage !== stage), saved] } : old,
          );
          return;
        } catch (error) {
          if (recorded.current) return;
          setDraftState(key, 'here'); // stays in this browser; where nothing answered it is tried again
          if (!(error instanceof Refusal) || error.status !== 0) return;
          await new Promise((done) => setTimeout(done, nextTryIn(failures)));
        }
      }
    },
    [client, key, loopId, stage],
  );

  const change = useCallback(
    (given: Partial<T> | ((before: T) => Partial<T>)) => {
      setTouched(true);
      latest.current += 1;
      setDraftState(key, 'here');
      setChanges(latest.current);
      const part = typeof given === 'function' ? given(typed.current) : given;
      const next = about === undefined ? { ...typed.current, ...part } : { ...typed.current, ...part, about };
      typed.current = next;
      localStorage.setItem(key, JSON.stringify(next)); // now, not when the page is drawn next: the tab may be closed before
      clearTimeout(timer.current);
      timer.current = setTimeout(() => void save(next), PAUSE_MS);
      setDraft(next);
    },
    [about, key, save],
  );
  /** Forget it: it has been recorded as it stood when it was pressed; what was typed while the answer was under way stays. */
  const settle = useCallback(() => {
    if (latest.current !== changes) return;
    recorded.current = true;
    clearTimeout(timer.current);
    localStorage.removeItem(key);
    setDraftState(key, 'kept');
  }, [changes, key]);

  /** Part of it has been recorded, and the sheet begins again with that: what is left is taken up by the next one. */
  const settleTo = useCallback(
    (part: Partial<T>) => {
      recorded.current = true;
      clearTimeout(timer.current);
      localStorage.setItem(key, JSON.stringify({ ...(backup(key) ?? draft), ...part }));
    },
    [draft, key],
  );

  useEffect(
    () => () => {
      clearTimeout(timer.current);
      turn.current += 1;
    },
    [],
  );
  return { draft, change, settle, settleTo, touched };
}
