import { useQuery } from '@tanstack/react-query';
import { Link, NavLink } from 'react-router';
import { loopsOptions, sessionOptions } from '../../api/queries';
import { BoardIcon } from '../icons';
import { FindKey } from './Find';
import { MenuKey } from './MenuKey';
import { placesFor } from './places';
import { You } from './You';

function usePerson() {
  return useQuery(sessionOptions).data?.person;
}

/** The places, each a link; the one on show is marked. */
function PlaceLinks({ className }: { className: string }) {
  return (
    <ul className={className}>
      {placesFor(usePerson()).map(({ to, name }) => (
        <li key={to}>
          <NavLink to={to} end={to === '/'}>
            {name}
          </NavLink>
        </li>
      ))}
    </ul>
  );
}

/** The menu line on every page outside a job. */
export function MenuLine() {
  const person = usePerson();
  return (
    <header className="menuline">
      <Link to="/" className="brand" aria-label="Temper, to the board">
        <span>Temper</span>
      </Link>
      <nav aria-label="Places">
        <PlaceLinks className="places" />
      </nav>
      <FindKey />
      {person && (
        <MenuKey
          label={`${person.name}: units, colours, sign out`}
          className="youkey"
          face={
            <>
              <span className="ini">{person.initials}</span>
              <span className="first">{person.name.split(' ')[0]}</span>
              <span className="visually-hidden">, units, colours, sign out</span>
            </>
          }
        >
          <You />
        </MenuKey>
      )}
    </header>
  );
}

/** On a job's bench: the board, and a key with the whole menu. */
export function BenchMenu() {
  return (
    <>
      <Link to="/" className="toboard" aria-label="Board">
        <BoardIcon />
        <span>Board</span>
      </Link>
      <MenuKey label="Menu" className="menukey" face={<span>Menu</span>}>
        <nav aria-label="Places">
          <PlaceLinks className="placelist" />
        </nav>
        <FindKey />
        <You />
      </MenuKey>
    </>
  );
}

const TABS = [
  { to: '/', name: 'Board' },
  { to: '/machines?show=due', name: 'Due' },
  { to: '/machines', name: 'Machines' },
  { to: '/readings', name: 'Readings' },
];

/** The places on a phone, at the foot of every page outside a job. */
export function TabBar({ at }: { at: string }) {
  const due = useQuery(loopsOptions).data?.loops.filter((row) => row.line?.signs.includes('due')).length;
  return (
    <nav className="tabbar" aria-label="Places, at the foot">
      {TABS.map(({ to, name }) => (
        <Link key={to} to={to} aria-current={at === to ? 'page' : undefined}>
          {name}
          {name === 'Due' && due ? <b> {due}</b> : null}
        </Link>
      ))}
      <MenuKey label="More places" className="morekey" face={<span>More</span>}>
        <nav aria-label="All places">
          <PlaceLinks className="placelist" />
        </nav>
        <You />
      </MenuKey>
    </nav>
  );
}
