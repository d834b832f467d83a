import ButtonBase from '@mui/material/ButtonBase';
import { Link } from 'react-router';
import type { ReactNode } from 'react';
import type { Schemas } from '../api/client';
import { FrostLine } from '../between/ChecksDue';
import { LevelOkKey } from '../between/LevelOkKey';
import { PROOF } from '../language/names';
import { sayIn } from '../language/say';
import { dateOf, dayOf } from '../language/time';
import { useUnits } from '../units/UnitsContext';

interface RowProps {
  plate: string;
  head: string;
  text: ReactNode;
  /** Where its words lead, beside the key. */
  to?: string;
  children?: ReactNode;
}

function SideRow({ plate, head, text, to, children }: RowProps) {
  const words = (
    <>
      <b>{head}</b>
      <span>{text}</span>
    </>
  );
  return (
    <li className="siderow">
      <span className="plate">
        <span>{plate}</span>
      </span>
      {to ? (
        <Link className="sidetext" to={to}>
          {words}
        </Link>
      ) : (
        <span className="sidetext">{words}</span>
      )}
      <span className="sidekey">{children}</span>
    </li>
  );
}

function headOf(row: Schemas['ComingBack']): string {
  if (row.why === 'unprotected') return 'Not protected';
  const what = row.why === null ? 'Service' : row.with_reading ? 'Reading' : 'Level check';
  if (row.overdue) return `${what} overdue`;
  if (row.today) return `${what} today`;
  return row.due_on ? `${what} ${dateOf(row.due_on).replace(/ \d{4}$/, '')}` : what;
}

function DueRow({ row }: { row: Schemas['ComingBack'] }) {
  const { system } = useUnits();
  const to = row.why ? `/loops/${row.loop_id}/check` : `/machines?find=${encodeURIComponent(row.machine.fleet_number)}`;
  const act = row.why ? 'Check' : 'Start';
  const key = (
    <ButtonBase className="key small" component={Link} to={to} aria-label={`${act} ${row.machine.fleet_number}`}>
      {act}
    </ButtonBase>
  );
  return (
    <SideRow plate={row.machine.fleet_number} head={headOf(row)} text={sayIn(row.said, system)} to={to}>
      {row.why ? <LevelOkKey loopId={row.loop_id} of={row.machine.fleet_number} otherwise={key} /> : key}
    </SideRow>
  );
}

interface Props {
  board: Schemas['Board'] | undefined;
  zone: string | undefined;
}

/** Beside the bands: checks due, what waits for a lead, what was signed off lately. */
export function Side({ board, zone }: Props) {
  const { temperature, system } = useUnits();
  const coming = board?.coming ?? [];
  const finished = board?.finished ?? [];
  const asked = (board?.overrides.length ?? 0) + (board?.rejudged.length ?? 0);
  return (
    <aside className="side" aria-label="Checks due, and jobs finished lately">
      <div className="sidehead">
        <h2>Checks due</h2>
        <Link to="/plan">Calendar</Link>
      </div>
      {board && <FrostLine frost={board.frost} />}
      <ul>
        {!board && <li className="ink2">Loading …</li>}
        {board && coming.length === 0 && <li className="ink2">No check is due.</li>}
        {coming.map((row) => (
          <DueRow key={`${row.loop_id}${row.why}${row.due_on}`} row={row} />
        ))}
      </ul>
      {asked > 0 && (
        <>
          <div className="sidehead">
            <h2>For a lead</h2>
            <Link to="/plan?view=attention">All {asked}</Link>
          </div>
          <ul>
            {(board?.rejudged ?? []).map((row) => (
              <SideRow key={row.id} plate={row.machine.fleet_number} head="New verdict" text={sayIn(row.act, system)}>
                <ButtonBase
                  className="key small"
                  component={Link}
                  to={`/loops/${row.loop_id}/record`}
                  data-testid="rejudged"
                >
                  Read
                </ButtonBase>
              </SideRow>
            ))}
            {(board?.overrides ?? []).map((row) => (
              <SideRow
                key={row.override.entry_id}
                plate={row.machine.fleet_number}
                head="Against advice"
                text={`${row.override.person}: ${row.override.said ? sayIn(row.override.said, system) : ''}`}
              >
                <ButtonBase
                  className="key small"
                  component={Link}
                  to={`/loops/${row.loop_id}/history`}
                  data-testid="override"
                >
                  Read
                </ButtonBase>
              </SideRow>
            ))}
          </ul>
        </>
      )}
      {finished.length > 0 && (
        <>
          <div className="sidehead">
            <h2>Signed off lately</h2>
          </div>
          <ul>
            {finished.map((row) => (
              <li key={`${row.loop_id}${row.signed_at}`}>
                <Link to={`/loops/${row.loop_id}/record`} className="finished">
                  <b>{row.machine.fleet_number}</b> {PROOF[row.proof] ?? row.proof}
                  {row.freeze_c !== null && `, ${temperature(row.freeze_c)}`}
                  <span>
                    {dayOf(row.signed_at, zone)}, {row.loop_name}
                  </span>
                </Link>
              </li>
            ))}
          </ul>
        </>
      )}
    </aside>
  );
}
