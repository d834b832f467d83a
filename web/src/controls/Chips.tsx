import ButtonBase from '@mui/material/ButtonBase';

interface Props<T extends string> {
  label: string;
  options: readonly { value: T; label: string }[];
  picked: readonly T[];
  onChange: (picked: T[]) => void;
}

/** Any number of a few words. */
export function Chips<T extends string>({ label, options, picked, onChange }: Props<T>) {
  const toggle = (value: T) =>
    onChange(picked.includes(value) ? picked.filter((other) => other !== value) : [...picked, value]);
  return (
    <fieldset className="chips">
      <legend className="lbl">{label}</legend>
      <div className="pick">
        {options.map((option) => (
          <ButtonBase
            key={option.value}
            className="opt small"
            role="checkbox"
            aria-checked={picked.includes(option.value)}
            onClick={() => toggle(option.value)}
          >
            <b>{option.label}</b>
          </ButtonBase>
        ))}
      </div>
    </fieldset>
  );
}
