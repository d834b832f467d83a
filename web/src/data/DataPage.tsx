import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { Page, Waiting } from '../controls/menu/Page';
import { NotHere } from '../controls/NotHere';
import { healthOptions } from './health';
import './data.css';

const NAME: Record<string, string> = {
  writing: 'Database',
  migrations: 'Migrations',
  disk: 'Disk',
  backup: 'Backup',
  integrity: 'Integrity',
};

/** A lead's page: is everything kept safely, all of it out, and programs. */
export default function DataPage() {
  const health = useQuery(healthOptions);
  if (health.isError)
    return (
      <NotHere head="The data page cannot be shown." text={health.error.message} retry={() => void health.refetch()} />
    );
  if (!health.data) return <Waiting title="Data" />;
  const { ok, version, checks } = health.data;
  const amiss = checks.filter((row) => !row.ok).length;
  const line = ok ? 'Everything is kept safely' : `${amiss} of ${checks.length} need attention on the server`;
  return (
    <Page title="Data" line={line}>
      <div className="datapage">
        <section aria-labelledby="data-health">
          <h2 id="data-health">Is it kept safely?</h2>
          <ul className="healthlist">
            {checks.map((row) => (
              <li key={row.name} className={row.ok ? undefined : 'amiss'}>
                <b>{NAME[row.name] ?? row.name}</b>
                <span>
                  {row.ok ? '' : 'Needs attention: '}
                  {row.said}
                </span>
              </li>
            ))}
          </ul>
          <p className="ink2">
            Version {version}. On the server: <code>./temper backup</code> backs up while people work,{' '}
            <code>./temper verify</code> looks whether every record is what was recorded. A monitor asks{' '}
            <code>/api/health</code>.
          </p>
        </section>
        <section aria-labelledby="data-out">
          <h2 id="data-out">Everything out</h2>
          <p>
            One file with all machines, jobs, records, readings and photos, as JSON Lines and CSV, with what each column
            is. An empty Temper takes it in: <code>./temper import FILE</code>.
          </p>
          <a className="key asbutton" href="/api/archive" download>
            Download archive
          </a>
          <p className="ink2">
            Whoever has the file can read the depot&apos;s records. Passwords and tokens are not in it.
          </p>
        </section>
        <section aria-labelledby="data-programs">
          <h2 id="data-programs">For programs</h2>
          <p>
            A meter, a script or a fleet system signs in with a token: make one in your{' '}
            <Link to="/profile">profile</Link>, revoke anybody&apos;s under <Link to="/people">People</Link>.
          </p>
          <a className="key asbutton" href="/api/reference">
            API reference
          </a>
        </section>
      </div>
    </Page>
  );
}
