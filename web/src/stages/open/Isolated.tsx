import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schemas } from '../../api/client';
import { sessionOptions } from '../../api/queries';
import { Picker } from '../../controls/Picker';
import { Segment } from '../../controls/Segment';

const AS_KEYS = 4;

interface Props {
  /** Who may, today. */
  people: Schemas['PersonOut'][];
  value: string;
  onChange: (personId: string) => void;
}

/** Who isolated the high voltage: one of those who may, by a key; nobody is chosen beforehand. */
export function Isolated({ people, value, onChange }: Props) {
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const options = people.map((row) => ({ value: String(row.id), label: row.name }));
  const label = 'Isolated by';
  if (options.length === 0)
    return (
      <p className="noisolator" role="note">
        Nobody may isolate high voltage today. Hands off until somebody permitted has.{' '}
        {lead ? <Link to="/people">Say who may, under People</Link> : 'A lead says who may, under People.'}
      </p>
    );
  if (options.length <= AS_KEYS)
    return (
      <div className="isolator">
        <Segment label={label} value={value} options={options} onChange={onChange} />
      </div>
    );
  return (
    <Picker
      label={label}
      value={options.some((row) => row.value === value) ? value : ''}
      options={[{ value: '', label: 'Choose who' }, ...options]}
      onChange={onChange}
    />
  );
}
