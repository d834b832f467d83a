import ButtonBase from '@mui/material/ButtonBase';
import { lazy, Suspense, useEffect, useRef, useState } from 'react';
import { useDepot } from '../api/useDepot';
import { DialogFrame } from '../controls/DialogFrame';
import { clockOf, timeOf } from '../language/time';
import { useBay, tell, type Bay } from './state';
import './offline.css';

const Meetings = lazy(() => import('./Meetings'));

const waits = (many: number): string => (many === 1 ? '1 waits to be sent' : `${many} wait to be sent`);

/** How this tablet stands to the depot, in one line; null where there is nothing to say. */
function line(bay: Bay, zone: string | undefined): string | null {
  const parts: string[] = [];
  if (bay.since !== null && bay.kitAt !== null) {
    parts.push(`No server since ${clockOf(new Date(bay.since).toISOString(), zone)}`);
    if (bay.core === 'starting') parts.push('starting this tablet’s calculator, a few seconds');
    if (bay.core === 'failed') parts.push('this tablet’s calculator did not start: reload the page');
    parts.push(`kit of ${timeOf(bay.kitAt, zone)}`);
    if (bay.waiting > 0) parts.push(waits(bay.waiting));
    if (bay.signed > 0) parts.push('signed here, not yet at the depot');
  } else if (bay.since === null && bay.waiting > 0) {
    const coming = bay.waiting - bay.asking - bay.others;
    if (coming > 0) parts.push(bay.sending ? `Sending: ${waits(coming)}` : waits(coming));
    if (bay.others > 0) parts.push(`${bay.others} of somebody else’s: sent when they sign in here`);
    if (bay.asking > 0) parts.push(bay.asking === 1 ? '1 asks you first' : `${bay.asking} ask you first`);
  }
  return parts.length > 0 ? parts.join(' · ') : null;
}

/** Said on every page: whether the server answers, what waits, how old the kit is; and what asks somebody. */
export function OfflineBar() {
  const bay = useBay();
  const [looking, setLooking] = useState(false);
  const depot = useDepot();
  const said = line(bay, depot?.time_zone);
  const bar = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const own = bar.current;
    if (!own) return;
    // pages are as high as what the line leaves of the window
    const measure = () => document.documentElement.style.setProperty('--bar', `${own.offsetHeight}px`);
    const watch = typeof ResizeObserver === 'undefined' ? null : new ResizeObserver(measure);
    watch?.observe(own);
    return () => watch?.disconnect();
  }, []);
  return (
    <>
      <div
        ref={bar}
        className={`offlinebar${bay.since !== null ? ' away' : ''}`}
        role="status"
        data-testid="offlinebar"
      >
        {said}
        {bay.asking > 0 && bay.since === null && (
          <ButtonBase className="key small" onClick={() => setLooking(true)}>
            Choose
          </ButtonBase>
        )}
        {bay.clockJumped && <span>The clock of this tablet was changed. Check its time before you record.</span>}
        {bay.evicted && (
          <span>The browser threw this tablet’s kit away. It is fetched again as soon as the server answers.</span>
        )}
        {bay.notice !== '' && (
          <span>
            {bay.notice}{' '}
            <ButtonBase className="key small" onClick={() => tell({ notice: '' })}>
              Understood
            </ButtonBase>
          </span>
        )}
        {bay.update && (
          <span>
            A new version is here. What waits to be sent stays.{' '}
            <ButtonBase className="key small" onClick={() => void import('./boot').then((part) => part.update())}>
              Take it now
            </ButtonBase>
          </span>
        )}
      </div>
      {looking && (
        <Suspense fallback={null}>
          <Meetings onClose={() => setLooking(false)} />
        </Suspense>
      )}
      {bay.leaving && <Leaving waiting={bay.waiting} answer={bay.leaving} />}
    </>
  );
}

/** Signing out forgets what waits: it is asked first. */
function Leaving({ waiting, answer }: { waiting: number; answer: (yes: boolean) => void }) {
  const say = (yes: boolean) => {
    tell({ leaving: null });
    answer(yes);
  };
  return (
    <DialogFrame open title={`${waits(waiting)}`} leave="Cancel" onClose={() => say(false)}>
      <p>Signing out forgets this tablet’s kit, and what was recorded here and is not sent yet.</p>
      <ButtonBase className="key" onClick={() => say(true)}>
        Sign out and lose it
      </ButtonBase>
    </DialogFrame>
  );
}
