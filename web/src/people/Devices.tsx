import type { Schemas } from '../api/client';
import { useDepot } from '../api/useDepot';
import { timeOf } from '../language/time';

/** Where somebody is signed in. */
export function Devices({ rows }: { rows: Schemas['DeviceOut'][] }) {
  const zone = useDepot()?.time_zone;
  if (rows.length === 0) return <p className="ink2">Signed in nowhere.</p>;
  return (
    <ul className="devices">
      {rows.map((row) => (
        <li key={row.id}>
          <b>{row.device || 'Unknown device'}</b>
          {row.this && ' (this one)'}
          <span>
            {row.address ?? 'no address'}; since {timeOf(row.started_at, zone)}, last seen {timeOf(row.seen_at, zone)}
          </span>
        </li>
      ))}
    </ul>
  );
}

const WHAT: Record<Schemas['AccountChange']['what'], string> = {
  added: 'Added',
  renamed: 'Renamed',
  role: 'Role changed',
  disabled: 'Disabled',
  enabled: 'Enabled',
  password_reset: 'Password reset',
  password_changed: 'Password changed',
  signed_out: 'Signed out',
  token_made: 'Token made',
  isolates: 'May isolate high voltage',
  token_revoked: 'Token revoked',
};

/** What was done to an account, newest first. */
export function AccountChanges({ rows }: { rows: Schemas['AccountChange'][] }) {
  const zone = useDepot()?.time_zone;
  return (
    <ul className="devices">
      {rows.map((row, n) => (
        <li key={n}>
          <b>{WHAT[row.what]}</b>
          {row.detail && `: ${row.detail}`}
          <span>
            {timeOf(row.at, zone)}, by {row.by ?? 'the command line'}
          </span>
        </li>
      ))}
    </ul>
  );
}
