import { useEffect, useState } from 'react';

/** The server's clock, ticking here: tablets are often wrong. serverTime: as the last answer said it. */
export function useServerNow(serverTime: string | undefined, everyMs = 1_000): number {
  const [now, setNow] = useState(() => Date.now());
  const [seen, setSeen] = useState<string | undefined>(undefined);
  const [offset, setOffset] = useState(0);
  if (serverTime !== undefined && serverTime !== seen) {
    setSeen(serverTime);
    setOffset(Date.parse(serverTime) - now); // off by one tick at most
  }
  useEffect(() => {
    const timer = setInterval(() => setNow(Date.now()), everyMs);
    return () => clearInterval(timer);
  }, [everyMs]);
  return now + offset;
}
