import InputBase from '@mui/material/InputBase';
import { useId } from 'react';
import { parseNumber } from '../units/parse';
import { Refusal } from './Refusal';

interface Props {
  name: string;
  label: string;
  unit: string;
  value: string;
  low?: number;
  high?: number;
  refused?: string | undefined;
  onChange: (value: string) => void;
}

/** Which value cannot be, and what is allowed; null where it can, or where nothing is typed. */
export function wrongNumber(value: string, unit: string, low = -Infinity, high = Infinity): string | null {
  const parsed = parseNumber(value);
  if (!parsed.ok)
    return parsed.empty
      ? null
      : `Cannot read ${parsed.which}. Allowed: ${parsed.allowed}${unit && `, in ${unit}`}. Type it again.`;
  if (parsed.value < low || parsed.value > high)
    return `${value.trim()} ${unit} is not possible. Allowed: ${low} to ${high} ${unit}. Type it again.`;
  return null;
}

/** A bare number whose unit is the same everywhere: pH, mg/l, minutes, millimetres. */
export function NumberField({ name, label, unit, value, low, high, refused, onChange }: Props) {
  const id = useId();
  const wrong = wrongNumber(value, unit, low, high) ?? refused;
  return (
    <div className={`field${wrong ? ' refused' : ''}`}>
      <label className="lbl" htmlFor={id}>
        {label}
      </label>
      <div className="box">
        <InputBase
          id={id}
          name={name}
          value={value}
          onChange={(event) => onChange(event.target.value)}
          onFocus={(event) => event.target.select()}
          inputProps={{
            inputMode: 'decimal',
            autoComplete: 'off',
            enterKeyHint: 'next',
            'aria-invalid': wrong !== undefined,
          }}
        />
        <span className="unit">{unit}</span>
      </div>
      {wrong && <Refusal which={wrong} />}
    </div>
  );
}

/** The number typed, or null where nothing, or nothing readable, is. */
export function numberOf(value: string): number | null {
  const parsed = parseNumber(value);
  return parsed.ok ? parsed.value : null;
}
