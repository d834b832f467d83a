import { Check } from './Check';
import { Chips } from './Chips';
import { DateField } from './DateField';
import { NumberField } from './NumberField';
import { QuantityField } from './QuantityField';
import { Segment } from './Segment';
import { TextField } from './TextField';
import type { Typed } from '../units/parse';
import { useUnits } from '../units/UnitsContext';
import { type Field, quantityOf, shownValue, type Value } from './editValues';

const YES_NO = [
  { value: 'yes', label: 'yes' },
  { value: 'no', label: 'no' },
] as const;

interface Props {
  fields: readonly Field[];
  values: Record<string, Value>;
  onChange: (path: string, value: Value) => void;
}

/** Every field of an entry, as it is typed in its stage. */
export function EditFields({ fields, values, onChange }: Props) {
  const { system } = useUnits();
  return (
    <div className="editfields">
      {fields.map((field) => (
        <EditField
          key={field.path}
          field={field}
          value={values[field.path] ?? shownValue(field, system)}
          onChange={(value) => onChange(field.path, value)}
        />
      ))}
    </div>
  );
}

interface FieldProps {
  field: Field;
  value: Value;
  onChange: (value: Value) => void;
}

function EditField({ field, value, onChange }: FieldProps) {
  const name = `edit-${field.path}`;
  const kind = quantityOf(field);
  const options = (field.options ?? []).map(({ key, name: label }) => ({ value: key, label }));
  if (kind)
    return <QuantityField name={name} label={field.name} kind={kind} typed={value as Typed} onChange={onChange} />;
  if (field.kind === 'number')
    return (
      <NumberField
        name={name}
        label={field.name}
        unit={field.unit ?? ''}
        value={String(value ?? '')}
        onChange={onChange}
      />
    );
  if (field.kind === 'date')
    return <DateField name={name} label={field.name} value={String(value ?? '')} onChange={onChange} />;
  if (field.kind === 'choice')
    return <Segment label={field.name} value={String(value ?? '')} options={options} onChange={onChange} />;
  if (field.kind === 'choices')
    return <Chips label={field.name} options={options} picked={value as string[]} onChange={onChange} />;
  if (field.kind === 'flag' && field.optional)
    return (
      <Segment
        label={field.name}
        value={value === null ? '' : value ? 'yes' : 'no'}
        options={YES_NO}
        onChange={(next) => onChange(next === 'yes')}
      />
    );
  if (field.kind === 'flag') return <Check label={field.name} checked={value === true} onChange={onChange} />;
  return <TextField name={name} label={field.name} value={String(value ?? '')} max={500} wide onChange={onChange} />;
}
