import ButtonBase from '@mui/material/ButtonBase';
import { Tick } from './icons';

interface Props {
  label: string;
  detail?: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** A fact a person confirms by a tap. */
export function Check({ label, detail, checked, onChange }: Props) {
  return (
    <ButtonBase className="check" role="checkbox" aria-checked={checked} onClick={() => onChange(!checked)}>
      <span className="boxmark">{checked && <Tick />}</span>
      <span>
        <b>{label}</b>
        {detail}
      </span>
    </ButtonBase>
  );
}
