import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { StageProps } from './stage';
import { QuantityField } from '../controls/QuantityField';
import { parseTyped, type Typed } from '../units/parse';
import { useUnits } from '../units/UnitsContext';
import { coolingText } from '../clocks/clock';
import { useServerNow } from '../clocks/useServerNow';
import './cooling.css';

const EMPTY: Typed = { text: '', unit: 'degC' };

/** When it may be cold, in words with its range; a logged temperature sharpens it. It opens nothing. */
export function Cooling({ bench, recorder }: StageProps) {
  const { system } = useUnits();
  const now = useServerNow(bench.server_time, 10_000);
  const [typed, type] = useState(EMPTY);
  const cooling = bench.state.timers.find((timer) => timer.kind === 'cooling');
  if (!cooling) return null;
  const parsed = parseTyped(typed, 'temperature', system);
  const log = () =>
    parsed.ok && recorder.record([{ kind: 'temperature_logged', facts: { c: parsed.base } }], () => type(EMPTY));
  const points = cooling.points ?? 0;
  const basis = [
    points > 0 && `by ${points} ${points === 1 ? 'temperature' : 'temperatures'}`,
    cooling.learned && 'by how this loop cooled before',
  ].filter(Boolean);
  return (
    <div className="cooling" data-testid="cooling">
      <p>
        <b>{capital(coolingText(cooling, now))}.</b>{' '}
        <span className="ink2">
          Estimate{basis.length > 0 && `, ${basis.join(', ')}`}; check it is safe to open all the same.
        </span>
      </p>
      <QuantityField name="hose-now" label="Upper hose now" kind="temperature" typed={typed} onChange={type} />
      <ButtonBase className="key small" aria-disabled={!parsed.ok || recorder.busy} onClick={log}>
        Record
      </ButtonBase>
    </div>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
