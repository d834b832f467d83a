import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { dateOf } from '../language/time';
import { LevelOkKey } from './LevelOkKey';

/** Cards of the lane: level checks and services due, overdue first and loud. */
export function ComingCards({ rows }: { rows: Schemas['ComingBack'][] }) {
  const { system } = useUnits();
  return rows.map((row) => (
    <li key={`${row.loop_id}${row.why}${row.due_on}`}>
      <Link
        to={row.why ? `/loops/${row.loop_id}/check` : `/loops/${row.loop_id}/history`}
        className={`lanecard back${row.overdue ? ' overdue' : row.today ? ' today' : ''}`}
      >
        <b>{row.machine.fleet_number}</b>
        {row.why === 'unprotected'
          ? 'NOT PROTECTED'
          : row.overdue
            ? 'OVERDUE'
            : row.today
              ? 'today'
              : row.due_on
                ? dateOf(row.due_on)
                : ''}
        <br />
        <span className="ink2">{row.why ? sayIn(row.said, system) : 'Service due.'}</span>
      </Link>
      {row.why && <LevelOkKey loopId={row.loop_id} of={row.machine.fleet_number} />}
    </li>
  ));
}

/** On a phone, over the strips: what is due by today, each a key to its check. */
export function DueKeys({ rows }: { rows: Schemas['ComingBack'][] }) {
  const now = rows.filter((row) => row.why && (row.overdue || row.today));
  if (now.length === 0) return null;
  return (
    <nav className="duekeys" aria-label="Checks due by today">
      {now.slice(0, 4).map((row) => (
        <Link key={row.loop_id} to={`/loops/${row.loop_id}/check`} className={row.overdue ? 'key overdue' : 'key'}>
          Check {row.machine.fleet_number}
          {row.why === 'unprotected' ? ', not protected' : row.overdue ? ', overdue' : ''}
        </Link>
      ))}
    </nav>
  );
}

/** One line when frost asks something of the fleet. */
export function FrostLine({ frost }: { frost: Schemas['FrostNote'] }) {
  if (frost.season === 'free' || frost.machines === 0) return null;
  const count = `${frost.machines} ${frost.machines === 1 ? 'loop' : 'loops'}`;
  return (
    <Link to="/frost-plan" className={frost.loud > 0 ? 'hot frostline' : 'frostline'}>
      {frost.loud > 0 ? `Frost: ${count} not protected` : `Frost from ${dateOf(frost.starts_on)}: plan ${count}`}
    </Link>
  );
}
