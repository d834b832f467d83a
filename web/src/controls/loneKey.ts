import { useEffect, useRef } from 'react';

const SCAN_MS = 60; // a reader's next key comes sooner than that, a hand's does not

const inField = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && target.closest('input, textarea, select, [contenteditable=true]') !== null;

/** One key by itself, outside a field, does something; within a scanned code it does nothing. */
export function useLoneKey(key: string, act: () => void): void {
  const latest = useRef(act);
  useEffect(() => {
    latest.current = act;
  });
  useEffect(() => {
    let waiting: ReturnType<typeof setTimeout> | undefined;
    let last = -SCAN_MS;
    const press = (event: KeyboardEvent) => {
      clearTimeout(waiting);
      const within = event.timeStamp - last < SCAN_MS && event.key !== 'Shift';
      if (event.key !== 'Shift') last = event.timeStamp;
      if (event.key !== key || event.ctrlKey || event.metaKey || event.altKey || inField(event.target)) return;
      event.preventDefault();
      if (!within) waiting = setTimeout(() => latest.current(), SCAN_MS);
    };
    window.addEventListener('keydown', press, true);
    return () => {
      clearTimeout(waiting);
      window.removeEventListener('keydown', press, true);
    };
  }, [key]);
}
