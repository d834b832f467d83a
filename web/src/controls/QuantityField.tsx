import InputBase from '@mui/material/InputBase';
import { useId } from 'react';
import { parseTyped, takenAs, textShown, type Typed, unitFor, unitLabel } from '../units/parse';
import type { Kind } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { Refusal } from './Refusal';

interface Props {
  label: string;
  kind: Kind;
  typed: Typed;
  onChange: (typed: Typed) => void;
  /** What the server says of this value. */
  refused?: string | undefined;
  size?: 'huge';
  name: string;
}

/** A quantity typed in the unit on show; the text and its unit are kept, so that switching units restores it. */
export function QuantityField({ label, kind, typed, onChange, refused, size, name }: Props) {
  const id = useId();
  const { system } = useUnits();
  const parsed = parseTyped(typed, kind, system);
  const wrong = !parsed.ok && !parsed.empty ? parsed : null;
  const taken = takenAs(typed, kind, system);
  const bad = wrong !== null || refused !== undefined;
  return (
    <div className={`field${bad ? ' refused' : ''}${size ? ` ${size}` : ''}`}>
      <label className="lbl" htmlFor={id}>
        {label}
      </label>
      <div className="box">
        <InputBase
          id={id}
          name={name}
          value={textShown(typed, kind, system)}
          onChange={(event) => onChange({ text: event.target.value, unit: unitFor(kind, system) })}
          onFocus={(event) => event.target.select()}
          inputProps={{
            inputMode: 'decimal',
            autoComplete: 'off',
            enterKeyHint: 'next',
            'aria-invalid': bad,
            'aria-describedby': `${id}-said`,
          }}
        />
        {!taken && <span className="unit">{unitLabel(kind, system)}</span>}
      </div>
      {taken && <p className="taken">= {taken}</p>}
      <div id={`${id}-said`}>
        {wrong && (
          <Refusal which={`Cannot read ${wrong.which}.`} allowed={`Allowed: ${wrong.allowed}.`} todo={wrong.todo} />
        )}
        {!wrong && refused && <Refusal which={refused} />}
      </div>
    </div>
  );
}
