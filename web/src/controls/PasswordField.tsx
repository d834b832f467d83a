import InputBase from '@mui/material/InputBase';
import { useId } from 'react';
import { Refusal } from './Refusal';

interface Props {
  name: string;
  label: string;
  value: string;
  /** For whoever keeps passwords: the present one, or a new one. */
  kept: 'current-password' | 'new-password';
  refused?: string | undefined;
  onChange: (value: string) => void;
}

/** A password, typed unseen. */
export function PasswordField({ name, label, value, kept, refused, onChange }: Props) {
  const id = useId();
  return (
    <div className={`field wide${refused ? ' refused' : ''}`}>
      <label className="lbl" htmlFor={id}>
        {label}
      </label>
      <div className="box" style={{ height: 54 }}>
        <InputBase
          id={id}
          name={name}
          type="password"
          fullWidth
          value={value}
          onChange={(event) => onChange(event.target.value)}
          inputProps={{ autoComplete: kept, maxLength: 200 }}
        />
      </div>
      {refused && <Refusal which={refused} />}
    </div>
  );
}
