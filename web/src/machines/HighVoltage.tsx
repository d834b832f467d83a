import { Segment } from '../controls/Segment';

/** yes, no, or nobody knows (null); undefined: not asked yet. */
export type HighVoltage = boolean | null | undefined;

const OPTIONS = [
  { value: 'yes', label: 'Yes' },
  { value: 'no', label: 'No' },
  { value: 'unknown', label: 'Not known' },
] as const;

/** Asked of every machine: not known counts as yes, and only a lead makes a no of a yes. */
export function HighVoltageField({
  value,
  onChange,
}: {
  value: HighVoltage;
  onChange: (value: boolean | null) => void;
}) {
  const shown = value === undefined ? '' : value === null ? 'unknown' : value ? 'yes' : 'no';
  return (
    <div>
      <Segment
        label="High voltage on this machine?"
        value={shown}
        options={OPTIONS}
        onChange={(next) => onChange(next === 'unknown' ? null : next === 'yes')}
      />
      {value !== false && value !== undefined && (
        <p>
          {value === null ? 'Not known counts as yes: isolated' : 'Isolated'} by a permitted person before hands go
          near.
        </p>
      )}
    </div>
  );
}
