import InputBase from '@mui/material/InputBase';
import { useId } from 'react';

interface Props {
  name: string;
  /** What can be typed: the label, and the hint in the empty field. */
  label: string;
  value: string;
  onChange: (words: string) => void;
}

/** Words that filter the list below. */
export function FindField({ name, label, value, onChange }: Props) {
  const id = useId();
  return (
    <div className="field wide findfield">
      <label className="visually-hidden" htmlFor={id}>
        {label}
      </label>
      <div className="box">
        <InputBase
          id={id}
          name={name}
          type="search"
          fullWidth
          placeholder={label}
          value={value}
          onChange={(event) => onChange(event.target.value)}
          inputProps={{ ...(name === 'find' && { 'data-scan': '' }), autoComplete: 'off' }}
        />
      </div>
    </div>
  );
}

/** Whether a text has every word of what was typed. */
export function hasWords(text: string, typed: string): boolean {
  const low = text.toLowerCase();
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => low.includes(word));
}
