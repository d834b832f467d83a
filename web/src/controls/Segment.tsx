import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';

interface Props<T extends string> {
  label: string;
  /** Empty while nobody has chosen: what becomes a fact is never chosen for anybody. */
  value: T | '';
  options: readonly { value: T; label: string }[];
  onChange: (value: T) => void;
  hideLabel?: boolean;
}

/** One of a few. */
export function Segment<T extends string>({ label, value, options, onChange, hideLabel }: Props<T>) {
  return (
    <div className="field">
      {!hideLabel && <span className="lbl">{label}</span>}
      <ToggleButtonGroup
        exclusive
        value={value}
        aria-label={label}
        onChange={(_event, next: T | null) => next !== null && onChange(next)}
      >
        {options.map((option) => (
          <ToggleButton key={option.value} value={option.value}>
            {option.label}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
    </div>
  );
}
