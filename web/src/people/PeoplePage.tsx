import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { peopleOptions, sessionOptions } from '../api/queries';
import { useDepot } from '../api/useDepot';
import { DialogFrame } from '../controls/DialogFrame';
import { Plus } from '../controls/icons';
import { Page, Waiting } from '../controls/menu/Page';
import { NotHere } from '../controls/NotHere';
import { dateOf, timeOf } from '../language/time';
import { AddPerson, EditPerson } from './PersonDialog';
import { WallLinks } from './WallLinks';
import './people.css';

/** Everybody of the depot: who they are, what they may do, when they signed in last; add, edit, disable. */
export default function PeoplePage() {
  const people = useQuery(peopleOptions);
  const me = useQuery(sessionOptions).data?.person?.id;
  const zone = useDepot()?.time_zone;
  const [asked, ask] = useState<number | 'new' | null>(null);
  if (people.isError)
    return (
      <NotHere head="The people cannot be shown." text={people.error.message} retry={() => void people.refetch()} />
    );
  if (!people.data) return <Waiting title="People" />;
  const close = () => ask(null);
  const row = people.data.people.find((one) => one.person.id === asked);
  return (
    <Page title="People" line="A technician records; a lead also edits machines, products, rules and people">
      <p className="keyrow peoplekeys">
        <ButtonBase className="key" onClick={() => ask('new')}>
          <Plus />
          &nbsp;Add person
        </ButtonBase>
      </p>
      <table className="ledger">
        <thead>
          <tr>
            <th>name</th>
            <th>signs in as</th>
            <th>role</th>
            <th className="wide">signed in last</th>
            <th className="wide">devices</th>
            <th>
              <span className="visually-hidden">edit</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {people.data.people.map(({ person, last_sign_in, active, must_change, may_isolate_until, devices }) => (
            <tr key={person.id}>
              <th scope="row">{person.name}</th>
              <td>{person.username}</td>
              <td>
                {person.role}
                {!active && ', disabled'}
                {active && must_change && ', password not set yet'}
                {active && may_isolate_until && `, high voltage until ${dateOf(may_isolate_until)}`}
              </td>
              <td className="wide">{last_sign_in ? timeOf(last_sign_in, zone) : 'never'}</td>
              <td className="wide">{devices.length || 'none'}</td>
              <td className="rowkey">
                <ButtonBase className="key small" aria-label={`Edit ${person.name}`} onClick={() => ask(person.id)}>
                  Edit
                </ButtonBase>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <WallLinks />
      <DialogFrame open={asked === 'new'} title="Add person" className="account" onClose={close}>
        <AddPerson onClose={close} />
      </DialogFrame>
      <DialogFrame open={row !== undefined} title={row?.person.name} className="account" onClose={close}>
        {row && <EditPerson row={row} own={row.person.id === me} onClose={close} />}
      </DialogFrame>
    </Page>
  );
}
