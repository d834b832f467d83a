import InputBase from '@mui/material/InputBase';
import NativeSelect from '@mui/material/NativeSelect';
import { useId } from 'react';

interface Props<T extends string> {
  label: string;
  value: T;
  options: readonly { value: T; label: string }[];
  onChange: (value: T) => void;
}

/** One of many, by the device's own list: where names stand that a segment has no room for. */
export function Picker<T extends string>({ label, value, options, onChange }: Props<T>) {
  const id = useId();
  return (
    <div className="field picker">
      <label className="lbl" htmlFor={id}>
        {label}
      </label>
      <NativeSelect id={id} value={value} input={<InputBase />} onChange={(event) => onChange(event.target.value as T)}>
        {options.map((option) => (
          <option key={option.value} value={option.value}>
            {option.label}
          </option>
        ))}
      </NativeSelect>
    </div>
  );
}
