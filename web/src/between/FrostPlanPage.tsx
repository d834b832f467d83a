import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { seasonOptions } from '../api/queries';
import { NotHere } from '../controls/NotHere';
import { Page, Waiting } from '../controls/menu/Page';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { dateOf } from '../language/time';
import './between.css';

const SAYS = {
  free: 'No frost is near.',
  ahead: 'Frost is coming.',
  frost: 'It may freeze now.',
} as const;

/** What frost asks of each machine, before it comes and while it lasts. */
export default function FrostPlanPage() {
  const season = useQuery(seasonOptions);
  const { system } = useUnits();
  if (season.isError)
    return (
      <NotHere head="The frost plan cannot be shown." text={season.error.message} retry={() => void season.refetch()} />
    );
  if (!season.data) return <Waiting title="Frost plan" />;
  const { dates, rows } = season.data;
  return (
    <Page
      title="Frost plan"
      line={
        <>
          {SAYS[dates.season]} Frost, {dateOf(dates.starts_on)} to {dateOf(dates.ends_on)}. Loops that are not
          protected, and what to do.
        </>
      }
      className="seasonpage"
    >
      {rows.length === 0 && (
        <p className="empty">
          <b>{dates.season === 'free' ? 'Nothing to plan yet.' : 'Every machine is protected.'}</b>
          {dates.season === 'free' ? 'The plan starts some weeks ahead; the rules say how many.' : ''}
        </p>
      )}
      <ul className="seasonrows">
        {rows.map((row) => (
          <li key={row.loop_id}>
            <Link to={`/loops/${row.loop_id}`}>
              <span className="plate">
                <span>{row.machine.fleet_number}</span>
              </span>
              <span>
                <b>{row.machine.kind}</b>
                <small>{row.loop_name}</small>
              </span>
              <span className={row.plan.loud ? 'hot' : ''}>
                <b>{sayIn(row.plan.act, system)}</b>
                <small>{sayIn(row.plan.why, system)}</small>
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </Page>
  );
}
