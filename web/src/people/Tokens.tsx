import ButtonBase from '@mui/material/ButtonBase';
import { type FormEvent, useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { useDepot } from '../api/useDepot';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { TextField } from '../controls/TextField';
import { dateOf, timeOf } from '../language/time';
import { PasswordField } from '../controls/PasswordField';
import { useMakeToken } from './useAccounts';

type Token = Schemas['TokenOut'];
type May = 'reads' | 'records';
type Days = '30' | '365';

/** Programs that sign in in somebody's name, each with a token that can be revoked. */
export function TokenList({ rows, busy, onRevoke }: { rows: Token[]; busy: boolean; onRevoke: (key: string) => void }) {
  const zone = useDepot()?.time_zone;
  if (rows.length === 0) return <p className="ink2">No program has a token.</p>;
  return (
    <ul className="devices">
      {rows.map((row) => (
        <li key={row.key} className="wallrow">
          <div>
            <b>{row.name}</b> {row.reads_only ? 'reads only' : 'reads and records'}
            {row.expired && ', has run out'}
            <span>
              begins {row.key}; made {timeOf(row.made_at, zone)}, good until {dateOf(row.expires_at)},{' '}
              {row.used_at ? `used last ${timeOf(row.used_at, zone)}` : 'never used'}
            </span>
          </div>
          <ButtonBase
            className="key small"
            aria-label={`Revoke token of ${row.name}`}
            aria-disabled={busy}
            onClick={() => !busy && onRevoke(row.key)}
          >
            Revoke token
          </ButtonBase>
        </li>
      ))}
    </ul>
  );
}

/** A new token: for which program, what it may do, for how long; one's password, once more. */
export function MakeToken({ lead }: { lead: boolean }) {
  const [name, setName] = useState('');
  const [may, setMay] = useState<May | ''>('');
  const [days, setDays] = useState<Days>('365');
  const [password, setPassword] = useState('');
  const make = useMakeToken();
  const at = (field: string) => (make.error?.field === field ? make.error.message : undefined);
  const ready = name.trim().length > 1 && may !== '' && password !== '' && !make.isPending;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!ready) return;
    make.mutate(
      { name: name.trim(), reads_only: may === 'reads', days: Number(days), password },
      {
        onSuccess: () => {
          setName('');
          setMay('');
          setPassword('');
        },
      },
    );
  };
  return (
    <form onSubmit={submit} className="accountform">
      {make.data && (
        <p role="status">
          Copy this token into the program; it is shown only now:
          <span className="token" data-testid="one-token">
            {make.data.token}
          </span>
        </p>
      )}
      <TextField
        name="token-name"
        label="Which program is it for?"
        value={name}
        max={60}
        wide
        refused={at('name')}
        onChange={setName}
      />
      <Segment
        label="It may"
        value={may}
        options={[
          { value: 'reads', label: 'Read' },
          { value: 'records', label: 'Read and record' },
        ]}
        onChange={setMay}
      />
      <Segment
        label="Good for"
        value={days}
        options={[
          { value: '30', label: '30 days' },
          { value: '365', label: 'A year' },
        ]}
        onChange={setDays}
      />
      <PasswordField
        name="token-password"
        label="Your password, once more"
        kept="current-password"
        value={password}
        refused={at('password')}
        onChange={setPassword}
      />
      {make.error && !at('name') && !at('password') && <Refusal which="Not made." allowed={make.error.message} />}
      <ButtonBase className="key" type="submit" aria-disabled={!ready}>
        Make token
      </ButtonBase>
      <p className="ink2">
        The program acts in your name: what it records is recorded as yours. It never feels a hose, opens a loop or
        signs off. {lead && <Link to="/data">Data</Link>}
      </p>
    </form>
  );
}
