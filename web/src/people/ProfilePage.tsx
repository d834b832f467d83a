import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { Page, Waiting } from '../controls/menu/Page';
import { NotHere } from '../controls/NotHere';
import { Refusal } from '../controls/Refusal';
import { TextField } from '../controls/TextField';
import { TakeAlong } from '../offline/TakeAlong';
import { AccountChanges, Devices } from './Devices';
import { PasswordForm } from './PasswordForm';
import { MakeToken, TokenList } from './Tokens';
import { profileOptions, useOwnName, useRevokeToken, useSignOutElsewhere } from './useAccounts';
import './people.css';

/** One's own account: name, password, devices. */
export default function ProfilePage() {
  const profile = useQuery(profileOptions);
  if (profile.isError)
    return (
      <NotHere head="Your profile cannot be shown." text={profile.error.message} retry={() => void profile.refetch()} />
    );
  if (!profile.data) return <Waiting title="Profile" />;
  const { person, devices, tokens, changes } = profile.data;
  return (
    <Page title="Profile" line={`${person.name}, ${person.role}; signs in as ${person.username}`}>
      <div className="account">
        <section aria-labelledby="own-name">
          <h2 id="own-name">Name</h2>
          <NameForm name={person.name} />
        </section>
        <section aria-labelledby="own-password">
          <h2 id="own-password">Password</h2>
          <PasswordForm />
        </section>
        <section aria-labelledby="own-devices">
          <h2 id="own-devices">Signed in on</h2>
          <Devices rows={devices} />
          <Elsewhere many={devices.filter((row) => !row.this).length} />
        </section>
        <section aria-labelledby="own-tablet">
          <h2 id="own-tablet">This device without a network</h2>
          <TakeAlong />
        </section>
        <section aria-labelledby="own-tokens">
          <h2 id="own-tokens">Programs in your name</h2>
          <OwnTokens rows={tokens} />
          <MakeToken lead={person.role === 'lead'} />
        </section>
        <section aria-labelledby="own-changes">
          <h2 id="own-changes">Changes to this account</h2>
          {changes.length === 0 ? <p className="ink2">None.</p> : <AccountChanges rows={changes} />}
        </section>
      </div>
    </Page>
  );
}

function OwnTokens({ rows }: { rows: Schemas['TokenOut'][] }) {
  const revoke = useRevokeToken();
  return (
    <>
      <TokenList rows={rows} busy={revoke.isPending} onRevoke={(key) => revoke.mutate(key)} />
      {revoke.error && <Refusal which="Not revoked." allowed={revoke.error.message} />}
    </>
  );
}

function NameForm({ name }: { name: string }) {
  const [typed, setTyped] = useState(name);
  const save = useOwnName();
  const ready = typed.trim() !== name && typed.trim().length > 1 && !save.isPending;
  return (
    <div className="accountform">
      <TextField
        name="name"
        label="Shown as"
        value={typed}
        max={80}
        wide
        refused={save.error?.message}
        onChange={setTyped}
      />
      <ButtonBase className="key" aria-disabled={!ready} onClick={() => ready && save.mutate(typed.trim())}>
        Save name
      </ButtonBase>
    </div>
  );
}

function Elsewhere({ many }: { many: number }) {
  const out = useSignOutElsewhere();
  if (many === 0) return null;
  return (
    <>
      <ButtonBase className="key" aria-disabled={out.isPending} onClick={() => !out.isPending && out.mutate(undefined)}>
        Sign out elsewhere
      </ButtonBase>
      {out.error && <Refusal which="Not signed out." allowed={out.error.message} />}
    </>
  );
}
