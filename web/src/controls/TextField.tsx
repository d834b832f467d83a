import InputBase from '@mui/material/InputBase';
import { useId } from 'react';
import { Refusal } from './Refusal';

interface Props {
  name: string;
  label: string;
  value: string;
  max: number;
  wide?: boolean;
  refused?: string | undefined;
  onChange: (value: string) => void;
}

/** A line of words. */
export function TextField({ name, label, value, max, wide = false, refused, onChange }: Props) {
  const id = useId();
  return (
    <div className={`field${wide ? ' wide' : ''}${refused ? ' refused' : ''}`}>
      <label className="lbl" htmlFor={id}>
        {label}
      </label>
      <div className="box" style={{ height: 54 }}>
        <InputBase
          id={id}
          name={name}
          fullWidth
          value={value}
          onChange={(event) => onChange(event.target.value)}
          inputProps={{ maxLength: max, autoComplete: 'off', 'aria-invalid': refused !== undefined }}
        />
      </div>
      {refused && <Refusal which={refused} />}
    </div>
  );
}
