import { useQuery } from '@tanstack/react-query';
import { peopleOptions } from '../api/queries';
import { useDepot } from '../api/useDepot';
import { Page, Waiting } from '../controls/menu/Page';
import { NotHere } from '../controls/NotHere';
import { timeOf } from '../language/time';

/** Everybody of the depot: who they are, what they may do, when they signed in last. */
export default function PeoplePage() {
  const people = useQuery(peopleOptions);
  const zone = useDepot()?.time_zone;
  if (people.isError)
    return (
      <NotHere head="The people cannot be shown." text={people.error.message} retry={() => void people.refetch()} />
    );
  if (!people.data) return <Waiting title="People" />;
  return (
    <Page title="People" line="A technician records; a lead also edits machines, products and rules">
      <table className="ledger">
        <thead>
          <tr>
            <th>name</th>
            <th>signs in as</th>
            <th>role</th>
            <th className="wide">signed in last</th>
          </tr>
        </thead>
        <tbody>
          {people.data.people.map(({ person, last_sign_in, active }) => (
            <tr key={person.id}>
              <th scope="row">{person.name}</th>
              <td>{person.username}</td>
              <td>
                {person.role}
                {!active && ', may not sign in'}
              </td>
              <td className="wide">{last_sign_in ? timeOf(last_sign_in, zone) : 'never'}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Page>
  );
}
