import { useCallback, useState } from 'react';
import { backup } from './backup';

/**
 * What is typed on a page that no job holds yet: kept in this browser, so that a reload, the back button or a closed tab loses nothing.
 * key: what it is about; what was typed about something else, or before something new was recorded, is not taken up.
 */
export function useTabDraft<T extends object>(key: string, about: string, initial: T) {
  const [start] = useState(initial);
  const [draft, setDraft] = useState<T>(() => {
    const kept = backup(key);
    return { ...initial, ...(kept?.about === about ? (kept as Partial<T>) : {}) };
  });
  const change = useCallback(
    (part: Partial<T>) =>
      setDraft((before) => {
        const next = { ...before, ...part };
        localStorage.setItem(key, JSON.stringify({ ...next, about }));
        return next;
      }),
    [about, key],
  );
  /** Forget it: it has been recorded. */
  const settle = useCallback(() => {
    localStorage.removeItem(key);
    setDraft(start);
  }, [key, start]);
  return { draft, change, settle };
}
