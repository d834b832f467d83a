import InputBase from '@mui/material/InputBase';
import { useId } from 'react';
import { Refusal } from './Refusal';

interface Props {
  name: string;
  label: string;
  value: string;
  refused?: string | undefined;
  onChange: (value: string) => void;
}

/** A day, by the browser's own calendar; empty where it is not known. */
export function DateField({ name, label, value, refused, onChange }: Props) {
  const id = useId();
  return (
    <div className={`field date${refused ? ' refused' : ''}`}>
      <label className="lbl" htmlFor={id}>
        {label}
      </label>
      <div className="box">
        <InputBase
          id={id}
          name={name}
          type="date"
          value={value}
          onChange={(event) => onChange(event.target.value)}
          inputProps={{ 'aria-invalid': refused !== undefined }}
        />
      </div>
      {refused && <Refusal which={refused} />}
    </div>
  );
}
