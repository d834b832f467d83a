import ButtonBase from '@mui/material/ButtonBase';
import InputBase from '@mui/material/InputBase';
import { type KeyboardEvent, useId } from 'react';
import { parseTyped, takenAs, textShown, type Typed, unitFor, unitLabel } from '../units/parse';
import { fromBase, type Kind, number } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { Minus, Plus } from './icons';
import { Refusal } from './Refusal';

interface Props {
  label: string;
  kind: Kind;
  typed: Typed;
  onChange: (typed: Typed) => void;
  /** One step in the unit on show. */
  step?: number;
  decimals?: number;
  refused?: string | undefined;
  name: string;
  /** Where stepping starts from when nothing is typed yet (litres or °C). */
  start?: number;
  placeholder?: string;
  /** The least that is allowed (litres or °C): stepping ends there, and less is refused. */
  low?: number;
}

/** Plus and minus for gloves, a number to type for the rest; up and down keys step by one, Page keys by five. */
export function Stepper(p: Props) {
  const id = useId();
  const { system } = useUnits();
  const unit = unitFor(p.kind, system);
  const step = p.step ?? 1;
  const parsed = parseTyped(p.typed, p.kind, system, p.low);
  const wrong = !parsed.ok && !parsed.empty ? parsed : null;
  const shown = textShown(p.typed, p.kind, system);
  const taken = takenAs(p.typed, p.kind, system);

  const by = (steps: number) => {
    const now = fromBase(parsed.ok ? parsed.base : (p.start ?? 0), unit);
    const next = parsed.ok ? Math.round(now / step + steps) * step : Math.round(now / step) * step;
    if (p.low !== undefined && next < fromBase(p.low, unit)) return;
    p.onChange({ text: number(next, p.decimals ?? 0), unit });
  };
  const onKeyDown = (event: KeyboardEvent) => {
    const steps = { ArrowUp: 1, ArrowDown: -1, PageUp: 5, PageDown: -5 }[event.key];
    if (steps === undefined) return;
    event.preventDefault();
    by(steps);
  };
  return (
    <div className="field">
      <label className="lbl" htmlFor={id}>
        {p.label}
      </label>
      <div className={`step${wrong || p.refused ? ' refused' : ''}`}>
        <ButtonBase className="nudge" aria-label={`${p.label}: less`} onClick={() => by(-1)} tabIndex={-1}>
          <Minus />
        </ButtonBase>
        <div className="val">
          <InputBase
            id={id}
            name={p.name}
            value={shown}
            placeholder={p.placeholder ?? ''}
            onChange={(event) => p.onChange({ text: event.target.value, unit })}
            onKeyDown={onKeyDown}
            onFocus={(event) => event.target.select()}
            inputProps={{
              inputMode: 'text',
              'data-number': '',
              autoComplete: 'off',
              enterKeyHint: 'next',
              'aria-invalid': wrong !== null,
              style: { ['--ch' as string]: `${Math.max(2, shown.length || (p.placeholder?.length ?? 0)) + 0.4}ch` },
            }}
          />
          {!taken && <span className="unit">{unitLabel(p.kind, system)}</span>}
        </div>
        <ButtonBase className="nudge" aria-label={`${p.label}: more`} onClick={() => by(1)} tabIndex={-1}>
          <Plus />
        </ButtonBase>
      </div>
      {taken && <p className="taken">= {taken}</p>}
      {wrong && (
        <Refusal which={`Cannot read ${wrong.which}.`} allowed={`Allowed: ${wrong.allowed}.`} todo={wrong.todo} />
      )}
      {!wrong && p.refused && <Refusal which={p.refused} />}
    </div>
  );
}
