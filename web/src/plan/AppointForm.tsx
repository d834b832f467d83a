import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { DateField } from '../controls/DateField';
import { Refusal } from '../controls/Refusal';
import { Picker } from '../controls/Picker';
import { sayIn } from '../language/say';
import { useUnits } from '../units/UnitsContext';
import { dayWords, plusDays } from './days';
import type { PlanRow } from './usePlan';

interface Props {
  row: PlanRow;
  today: string;
  people: Schemas['PersonOut'][];
  lead: boolean;
  busy: boolean;
  refused: string | undefined;
  onSave: (given: Schemas['AppointmentIn']) => void;
}

const NOBODY = 'nobody';

/** What comes due: what it is, when, by whom. */
export function AppointForm({ row, today, people, lead, busy, refused, onSave }: Props) {
  const { system } = useUnits();
  const [day, setDay] = useState(row.day);
  const [person, setPerson] = useState(row.person ? String(row.person.id) : NOBODY);
  const save = (given: string | null) =>
    !busy && onSave({ day: given, person_id: person === NOBODY ? null : Number(person) });
  const to =
    row.loop_id === null
      ? '/instruments'
      : row.kind === 'service' || row.kind === 'frost'
        ? `/machines?find=${encodeURIComponent(row.machine?.fleet_number ?? '')}`
        : `/loops/${row.loop_id}/check`;
  const options = [
    { value: NOBODY, label: 'Nobody' },
    ...people.map((one) => ({ value: String(one.id), label: one.name })),
  ];
  return (
    <>
      <p>
        {row.machine && `${row.machine.kind}, ${row.name}. `}
        {sayIn(row.said, system)} Due {dayWords(row.due_on)}
        {row.overdue ? ', overdue.' : '.'}
      </p>
      {lead && (
        <>
          <DateField name="day" label="Planned for" value={day} onChange={setDay} />
          <div className="keyrow">
            {[1, 7].map((days) => (
              <ButtonBase key={days} className="key small" onClick={() => setDay(plusDays(day || today, days))}>
                {days === 1 ? 'A day later' : 'A week later'}
              </ButtonBase>
            ))}
          </div>
          <Picker label="Assigned to" value={person} onChange={setPerson} options={options} />
          {refused && <Refusal which="Not saved." allowed={refused} />}
          <div className="keyrow">
            <ButtonBase className="key" aria-disabled={busy || !day} onClick={() => day && save(day)}>
              Save plan
            </ButtonBase>
            {row.planned && (
              <ButtonBase className="key" aria-disabled={busy} onClick={() => save(null)}>
                Back to the due date
              </ButtonBase>
            )}
          </div>
        </>
      )}
      <p>
        <Link to={to}>{row.loop_id === null ? 'Open instruments' : 'Open machine'}</Link>
      </p>
    </>
  );
}
