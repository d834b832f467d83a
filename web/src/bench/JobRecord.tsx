import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { sessionOptions } from '../api/queries';
import { useUnits } from '../units/UnitsContext';
import { JarShelf } from './jars/JarShelf';
import { sayIn } from '../language/say';
import { timeOf } from '../language/time';
import { PauseKey } from './PauseKey';
import type { Recorder } from './useRecorder';

interface Props {
  bench: Schemas['Bench'];
  recorder: Recorder;
}

/** What was recorded on this job, newest first; the newest of one's own can be taken back (it stays, struck). */
export function JobRecord({ bench, recorder }: Props) {
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
    <section className="shelf" aria-label={flushing ? 'Jar shelf' : 'Record'}>
      <div className="shelfhead">
        <b>{flushing ? 'Jar shelf' : 'Record'}</b>
        {flushing && <span>Looks only: colour does not tell the chemistry. </span>}
        <Link to={`/loops/${bench.loop.id}/record`} style={{ color: 'inherit' }}>
          Whole record
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
            <ButtonBase className="key small" data-undo onClick={takeBack}>
              Undo last entry
            </ButtonBase>
          )}
          {aside && <PauseKey bench={bench} recorder={recorder} />}
        </div>
      )}
    </section>
  );
}
