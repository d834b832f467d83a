import ButtonBase from '@mui/material/ButtonBase';
import { useColorScheme } from '@mui/material/styles';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { type ReactNode, useEffect, useState } from 'react';
import { Link } from 'react-router';
import { api } from '../api/client';
import { sessionOptions } from '../api/queries';
import { type System, SYSTEMS } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { BoardIcon } from './icons';
import { Segment } from './Segment';

const UNIT_OPTIONS = (Object.keys(SYSTEMS) as System[]).map((value) => ({ value, label: SYSTEMS[value].label }));

export function UnitsSwitch() {
  const { system, setSystem } = useUnits();
  return <Segment label="Units" hideLabel value={system} options={UNIT_OPTIONS} onChange={setSystem} />;
}

export function ThemeSwitch() {
  const { mode, systemMode, setMode } = useColorScheme();
  const dark = (mode === 'system' ? systemMode : mode) === 'dark';
  return (
    <ButtonBase
      className="key"
      aria-label={dark ? 'Light colours' : 'Dark colours'}
      onClick={() => setMode(dark ? 'light' : 'dark')}
    >
      {dark ? 'Light' : 'Dark'}
    </ButtonBase>
  );
}

const ASK_MS = 4_000;

/** Who is at it; two presses sign out, since a glove may brush it. */
export function Who() {
  const client = useQueryClient();
  const { data } = useQuery(sessionOptions);
  const [asked, ask] = useState(false);
  useEffect(() => {
    const timer = asked ? setTimeout(() => ask(false), ASK_MS) : undefined;
    return () => clearTimeout(timer);
  }, [asked]);
  const person = data?.person;
  if (!person) return null;
  const signOut = async () => {
    await api.DELETE('/api/session');
    client.clear();
    await client.invalidateQueries(sessionOptions);
  };
  return (
    <ButtonBase
      className="who"
      onClick={() => (asked ? void signOut() : ask(true))}
      aria-label={`${person.name}, ${person.role}: ${asked ? 'press again to sign out' : 'sign out'}`}
    >
      <span className="ini">{person.initials}</span>
      <span>
        {person.name}
        <br />
        <small className="ink2">{asked ? 'press again: sign out' : 'sign out'}</small>
      </span>
    </ButtonBase>
  );
}

/** The top strip of every page but the board. */
export function TopStrip({ children }: { children?: ReactNode }) {
  return (
    <header className="strip">
      <Link to="/" className="toboard" aria-label="Back to the board">
        <BoardIcon />
        <span>Board</span>
      </Link>
      {children}
      <div className="units">
        <UnitsSwitch />
        <ThemeSwitch />
      </div>
      <Who />
    </header>
  );
}
