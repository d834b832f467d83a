import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { dateOf } from '../language/time';

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
