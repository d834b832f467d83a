import ButtonBase from '@mui/material/ButtonBase';
import { Minus, Plus } from './icons';

interface Props {
  label: string;
  name: string;
  value: number;
  most: number;
  onChange: (value: number) => void;
}

/** A small whole number. */
export function CountStepper({ label, name, value, most, onChange }: Props) {
  return (
    <div className="field" role="group" aria-label={label} style={{ maxWidth: 250 }}>
      <span className="lbl">{label}</span>
      <div className="step" style={{ width: 'max-content' }}>
        <ButtonBase className="nudge" aria-label={`${label}: less`} onClick={() => onChange(Math.max(0, value - 1))}>
          <Minus />
        </ButtonBase>
        <div className="val" style={{ minWidth: 70 }}>
          <output className="num" style={{ fontSize: 38, lineHeight: '36px', color: 'var(--cold)' }} data-testid={name}>
            {value}
          </output>
        </div>
        <ButtonBase className="nudge" aria-label={`${label}: more`} onClick={() => onChange(Math.min(most, value + 1))}>
          <Plus />
        </ButtonBase>
      </div>
    </div>
  );
}
