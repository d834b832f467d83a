import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { DateField } from '../controls/DateField';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { TextField } from '../controls/TextField';
import { AccountChanges, Devices } from './Devices';
import { TokenList } from './Tokens';
import { useAddPerson, useEditPerson, useResetPassword, useRevokePersonsToken, useSignOutPerson } from './useAccounts';

type Role = Schemas['Role'];

export const ROLES: readonly { value: Role; label: string }[] = [
  { value: 'technician', label: 'Technician' },
  { value: 'lead', label: 'Lead' },
];

/** A password that is shown this once, to be handed over. */
function PasswordOnce({ given, onClose }: { given: Schemas['PersonAdded']; onClose: () => void }) {
  return (
    <div className="onepassword" role="status">
      <p>
        Give this password to <b>{given.person.name}</b>, who signs in as <b>{given.person.username}</b>. It is shown
        only now, and replaced at the first sign-in.
      </p>
      <p className="secret" data-testid="one-password">
        {given.password}
      </p>
      <ButtonBase className="key" onClick={onClose}>
        Done
      </ButtonBase>
    </div>
  );
}

/** Add somebody: name, sign-in name, role. */
export function AddPerson({ onClose }: { onClose: () => void }) {
  const [name, setName] = useState('');
  const [username, setUsername] = useState('');
  const [role, setRole] = useState<Role | ''>('');
  const add = useAddPerson();
  const at = (field: string) => (add.error?.field === field ? add.error.message : undefined);
  if (add.data) return <PasswordOnce given={add.data} onClose={onClose} />;
  const ready = name.trim() !== '' && username.trim() !== '' && role !== '' && !add.isPending;
  return (
    <>
      <TextField
        name="name"
        label="First and last name"
        value={name}
        max={80}
        wide
        refused={at('name')}
        onChange={setName}
      />
      <TextField
        name="username"
        label="Signs in as: small letters, digits, dots"
        value={username}
        max={30}
        wide
        refused={at('username')}
        onChange={setUsername}
      />
      <Segment label="Role" value={role} options={ROLES} onChange={setRole} />
      {add.error && !at('name') && !at('username') && <Refusal which="Not added." allowed={add.error.message} />}
      <ButtonBase
        className="key"
        aria-disabled={!ready}
        onClick={() => ready && add.mutate({ name: name.trim(), username: username.trim(), role })}
      >
        Add person
      </ButtonBase>
    </>
  );
}

/** Edit somebody: name, role, may sign in; their password, their devices, what was done to the account. */
export function EditPerson({ row, own, onClose }: { row: Schemas['PersonRow']; own: boolean; onClose: () => void }) {
  const [name, setName] = useState(row.person.name);
  const [role, setRole] = useState<Role>(row.person.role as Role);
  const [active, setActive] = useState(row.active ? 'yes' : 'no');
  const [until, setUntil] = useState(row.may_isolate_until ?? '');
  const edit = useEditPerson();
  const reset = useResetPassword();
  const out = useSignOutPerson();
  const revoke = useRevokePersonsToken();
  if (reset.data) return <PasswordOnce given={reset.data} onClose={onClose} />;
  const busy = edit.isPending || reset.isPending || out.isPending || revoke.isPending;
  const changed =
    name.trim() !== row.person.name ||
    role !== row.person.role ||
    (active === 'yes') !== row.active ||
    until !== (row.may_isolate_until ?? '');
  const refused = edit.error ?? reset.error ?? out.error ?? revoke.error;
  return (
    <>
      <TextField name="name" label="First and last name" value={name} max={80} wide onChange={setName} />
      <Segment label="Role" value={role} options={ROLES} onChange={setRole} />
      <Segment
        label="May sign in"
        value={active}
        options={[
          { value: 'yes', label: 'Yes' },
          { value: 'no', label: 'No, disabled' },
        ]}
        onChange={setActive}
      />
      <DateField
        name="may-isolate-until"
        label="May isolate high voltage until (empty: may not)"
        value={until}
        onChange={setUntil}
      />
      {refused && <Refusal which="Not saved." allowed={refused.message} />}
      <div className="keyrow">
        <ButtonBase
          className="key"
          aria-disabled={!changed || busy}
          onClick={() =>
            changed &&
            !busy &&
            edit.mutate(
              {
                id: row.person.id,
                name: name.trim(),
                role,
                active: active === 'yes',
                may_isolate_until: until || null,
              },
              { onSuccess: onClose },
            )
          }
        >
          Save person
        </ButtonBase>
        {!own && (
          <ButtonBase className="key" aria-disabled={busy} onClick={() => !busy && reset.mutate(row.person.id)}>
            Reset password
          </ButtonBase>
        )}
      </div>
      <h3>Signed in on</h3>
      <Devices rows={row.devices} />
      {row.devices.some((device) => !device.this) && (
        <ButtonBase className="key" aria-disabled={busy} onClick={() => !busy && out.mutate(row.person.id)}>
          {own ? 'Sign out elsewhere' : 'Sign out everywhere'}
        </ButtonBase>
      )}
      <h3>Programs in their name</h3>
      <TokenList rows={row.tokens} busy={busy} onRevoke={(key) => revoke.mutate({ id: row.person.id, key })} />
      <h3>Changes to this account</h3>
      {row.changes.length === 0 ? <p className="ink2">None.</p> : <AccountChanges rows={row.changes} />}
    </>
  );
}
