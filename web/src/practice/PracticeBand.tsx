import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { goTo } from '../api/where';
import { useDepot } from '../api/useDepot';
import { DialogFrame } from '../controls/DialogFrame';
import { Refusal } from '../controls/Refusal';
import { useServerNow } from '../clocks/useServerNow';
import { sayIn } from '../language/say';
import { clockOf, dayOf } from '../language/time';
import { useUnits } from '../units/UnitsContext';
import { AtTheMachine } from './AtTheMachine';
import { benchOptions, useEnd } from './queries';
import './practice.css';

const WIDE = 1680;

/** Across the top of every page of practice: that it is practice, its clock, the machine, the end, and the way out. */
export default function PracticeBand({ run }: { run: string }) {
  const bench = useQuery(benchOptions(run));
  const zone = useDepot()?.time_zone;
  const [open, setOpen] = useState(
    () => globalThis.innerWidth >= WIDE || globalThis.location.pathname.endsWith('/machines'),
  );
  const [ending, setEnding] = useState(false);
  const end = useEnd(run);
  const { system } = useUnits();
  const last = bench.data?.done[0];
  const now = new Date(useServerNow(bench.data?.now, 10_000)).toISOString();
  const band = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const own = band.current;
    if (!own) return;
    const root = document.documentElement;
    // pages are as high and as wide as what band and machine leave of the window
    const measure = () => root.style.setProperty('--bar', `${own.offsetHeight}px`);
    const watch = typeof ResizeObserver === 'undefined' ? null : new ResizeObserver(measure);
    watch?.observe(own);
    root.classList.toggle('withmachine', open);
    return () => {
      watch?.disconnect();
      root.classList.remove('withmachine');
    };
  }, [open]);
  return (
    <>
      <div ref={band} className="practiceband" role="region" aria-label="Practice">
        <p>
          <b>Practice</b>
          <span className="name">{bench.data?.run.name}</span>
          {bench.data && (
            <time dateTime={now}>
              {dayOf(now, zone)} {clockOf(now, zone)}
            </time>
          )}
        </p>
        {last && !open && (
          <p className="lastfound">
            <time dateTime={last.at}>{clockOf(last.at, zone)}</time> {sayIn(last.found.said, system)}
          </p>
        )}
        <span className="keys">
          <ButtonBase className="key small" aria-expanded={open} onClick={() => setOpen(!open)}>
            {open ? 'Hide machine' : 'To the machine'}
          </ButtonBase>
          <ButtonBase className="key small" onClick={() => setEnding(true)}>
            Finish
          </ButtonBase>
          <ButtonBase className="key small" onClick={() => goTo('/practice')}>
            Leave
          </ButtonBase>
        </span>
      </div>
      {bench.isError && <Refusal which="The machine does not answer." allowed={bench.error.message} />}
      {bench.data && open && <AtTheMachine bench={bench.data} zone={zone} onHide={() => setOpen(false)} />}
      <DialogFrame open={ending} title="Finish and see the truth?" leave="Cancel" onClose={() => setEnding(false)}>
        <p>The machine can no longer be worked on after that. What you recorded is shown beside what was true.</p>
        {end.error && <Refusal which="Not finished." allowed={end.error.message} />}
        <ButtonBase className="key" aria-disabled={end.isPending} onClick={() => !end.isPending && end.mutate()}>
          Finish and see the truth
        </ButtonBase>
      </DialogFrame>
    </>
  );
}
