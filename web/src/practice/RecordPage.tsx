import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { sessionOptions } from '../api/queries';
import { NotHere } from '../controls/NotHere';
import { Page, Waiting } from '../controls/menu/Page';
import { timeOf } from '../language/time';
import { recordOptions } from './queries';
import './practice.css';

/** Who did which lesson, with which result: for the lead. */
export default function RecordPage() {
  const record = useQuery(recordOptions);
  const zone = useQuery(sessionOptions).data?.depot?.time_zone;
  if (record.isError)
    return (
      <NotHere head="The record cannot be shown." text={record.error.message} retry={() => void record.refetch()} />
    );
  if (!record.data) return <Waiting title="Record of practice" />;
  return (
    <Page
      title="Record of practice"
      line="Who did which lesson, and what they were told"
      tools={
        <>
          <Link className="key small" to="/practice">
            Practice
          </Link>
          <a className="key small" href="/api/practice/record.csv" download>
            Record as CSV
          </a>
        </>
      }
      mainClass="practice one"
    >
      {record.data.rows.length === 0 && <p className="empty">Nobody has practised yet.</p>}
      {record.data.rows.map((row) => (
        <p key={row.person + row.started_at} className="runrow">
          <span>
            <b>{row.person}</b> {row.name}{' '}
            <span className="ink2">
              {timeOf(row.started_at, zone)}, seed {row.seed}
            </span>
            {row.said.length > 0 && <small>{row.said.join(' ')}</small>}
          </span>
          <b className={row.unsafe > 0 ? 'unsafe' : ''}>
            {row.ended_at === null
              ? 'not finished'
              : row.reached
                ? 'aims reached'
                : row.unsafe > 0
                  ? `not safe: ${row.unsafe}`
                  : 'not all aims reached'}
          </b>
        </p>
      ))}
    </Page>
  );
}
