import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { dateOf } from '../language/time';

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
    <Link to="/frost-plan" className="frostline">
      {frost.loud > 0 ? `Frost: ${count} not protected` : `Frost from ${dateOf(frost.starts_on)}: plan ${count}`}
    </Link>
  );
}
