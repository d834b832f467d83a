import ButtonBase from '@mui/material/ButtonBase';
import { useColorScheme } from '@mui/material/styles';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { sessionOptions } from '../../api/queries';
import { goTo, practiceRun } from '../../api/where';
import { useSignOut } from '../../api/useSignOut';
import { type System, SYSTEMS } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { Segment } from '../Segment';

const UNITS = (Object.keys(SYSTEMS) as System[]).map((value) => ({ value, label: SYSTEMS[value].label }));
const COLOURS = [
  { value: 'light', label: 'Light' },
  { value: 'dark', label: 'Dark' },
  { value: 'system', label: 'Auto' },
] as const;

/** Who is signed in, the units and colours that they want on this device, and the way out. */
export function You() {
  const { data } = useQuery(sessionOptions);
  const { system, setSystem } = useUnits();
  const { mode, setMode } = useColorScheme();
  const person = data?.person;
  const signOut = useSignOut();
  if (!person) return null;
  return (
    <section className="you" aria-label="You and this device">
      <p>
        <b>{person.name}</b>, {person.role}
        <span className="ink2">
          {data.depot?.name}; signed in as {person.username}
        </span>
      </p>
      <Segment label="Units" value={system} options={UNITS} onChange={setSystem} />
      <Segment label="Colours" value={mode ?? 'system'} options={COLOURS} onChange={setMode} />
      {practiceRun === null ? (
        <>
          <ButtonBase className="key" component={Link} to="/profile">
            Profile and password
          </ButtonBase>
          <ButtonBase className="key" onClick={() => void signOut()}>
            Sign out
          </ButtonBase>
        </>
      ) : (
        <ButtonBase className="key" onClick={() => goTo('/practice')}>
          Leave practice
        </ButtonBase>
      )}
    </section>
  );
}
