import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { sessionOptions } from '../api/queries';
import { gettingStartedOptions } from './queries';
import './start.css';

/** On the board of a new workshop, for its leads, until all is there or it was put away. */
export function StartStrip() {
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const start = useQuery({ ...gettingStartedOptions, enabled: lead });
  if (!lead || !start.data?.shown) return null;
  const done = start.data.steps.filter((row) => row.done).length;
  return (
    <section className="startstrip" aria-label="Getting started">
      <p>
        <b>Getting started:</b> {done} of {start.data.steps.length} done.
      </p>
      <Link className="key small" to="/getting-started">
        Go on
      </Link>
    </section>
  );
}
