import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { sessionOptions } from '../api/queries';
import { useUnits } from '../units/UnitsContext';
import { JarShelf } from '../figures/JarShelf';
import { sayIn } from '../words/say';
import { timeOf } from '../words/time';
import { PutAside } from './PutAside';
import type { Recorder } from './useRecorder';

interface Props {
  bench: Schemas['Bench'];
  recorder: Recorder;
}

/** What was recorded on this job, newest first; the newest of one's own can be taken back (it stays, struck). */
export function Happened({ bench, recorder }: Props) {
  const { data: session } = useQuery(sessionOptions);
  const units = useUnits();
  const newest = bench.recent[0];
  const me = session?.person;
  const mine = newest !== undefined && (newest.person.id === me?.id || me?.role === 'lead');
  const takeBack = () => {
    if (newest) recorder.record([{ kind: 'voided', facts: { entry_id: newest.id, reason: '' } }]);
  };
  const flushing = bench.state.stage === 'flush' && bench.state.flush !== null;
  const aside = bench.state.stage !== null && bench.state.stage !== 'identify' && !bench.state.paused;
  return (
    <section className="shelf" aria-label={flushing ? 'Jar shelf' : 'What happened'}>
      <div className="shelfhead">
        <b>{flushing ? 'Jar shelf' : 'What happened'}</b>
        {flushing && <span>Looks only. Colour does not tell the chemistry. </span>}
        <Link to={`/loops/${bench.loop.id}/ledger`} style={{ color: 'inherit' }}>
          Whole ledger
        </Link>
        {', '}
        <Link to={`/loops/${bench.loop.id}/history`} style={{ color: 'inherit' }}>
          history
        </Link>
      </div>
      {flushing ? (
        <JarShelf bench={bench} />
      ) : (
        <ul className="happened">
          {bench.recent.slice(0, 5).map((entry) => (
            <li key={entry.id}>
              <b>{sayIn(entry.said, units.system)}</b>
              <span className="ink2">
                {timeOf(entry.happened_at, session?.depot?.time_zone)}, {entry.person.name}
              </span>
            </li>
          ))}
        </ul>
      )}
      {!bench.state.signed_at && (
        <div className="shelfkeys">
          {newest && mine && newest.kind !== 'job_opened' && !bench.state.signed_at && (
            <ButtonBase className="key small" onClick={takeBack}>
              Take last one back
            </ButtonBase>
          )}
          {aside && <PutAside bench={bench} recorder={recorder} />}
        </div>
      )}
    </section>
  );
}
