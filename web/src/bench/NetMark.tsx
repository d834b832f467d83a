import { useEffect, useState } from 'react';
import { useNet } from '../api/net';
import { useBay } from '../offline/state';
import './net.css';

const SLOW_MS = 500; // a quick answer needs no mark

/** A mark while something is being saved for longer than a moment; and while nothing answers, when it is tried again. */
export function NetMark() {
  const { saving, silentSince, nextTry } = useNet();
  const { kitAt, core } = useBay();
  const [now, tick] = useState(0);
  const [slow, setSlow] = useState(false);
  const busy = saving > 0;
  useEffect(() => {
    const timer = setTimeout(() => setSlow(busy), busy ? SLOW_MS : 0);
    return () => clearTimeout(timer);
  }, [busy]);
  useEffect(() => {
    if (silentSince === null) return;
    const timer = setInterval(() => tick(Date.now()), 500);
    return () => clearInterval(timer);
  }, [silentSince]);
  if (silentSince === null || (kitAt !== null && core !== 'failed')) {
    return (
      <p className={`netmark${slow && busy ? ' shown' : ''}`} role="status">
        {slow && busy ? 'Saving …' : ''}
      </p>
    );
  }
  const left = nextTry === null ? 0 : Math.ceil((nextTry - Math.max(now, silentSince)) / 1000);
  return (
    <p className="netmark shown silent" role="status">
      The server does not answer. What you typed is kept in this browser.{' '}
      <span aria-hidden="true">{left > 0 ? `Trying again in ${left} s.` : 'Trying again …'}</span>
    </p>
  );
}
