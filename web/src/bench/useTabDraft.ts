import { useCallback, useRef, useState } from 'react';
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
  const typed = useRef(draft);
  const change = useCallback(
    (part: Partial<T>) => {
      const next = { ...typed.current, ...part };
      typed.current = next;
      localStorage.setItem(key, JSON.stringify({ ...next, about })); // now: the tab may be closed before it is drawn
      setDraft(next);
    },
    [about, key],
  );
  /** Forget it: it has been recorded. */
  const settle = useCallback(() => {
    localStorage.removeItem(key);
    typed.current = start;
    setDraft(start);
  }, [key, start]);
  return { draft, change, settle };
}
