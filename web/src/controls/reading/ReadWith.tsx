import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import { Refusal } from '../Refusal';
import { Stepper } from '../Stepper';
import { typedFrom } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { divisionOf, type Instrument, kindFor, type ReadDraft, strengthReaders, typedOn, zeroWants } from './scale';
import { useTake } from './useTake';
import { INSTRUMENT_KIND, SCALE } from '../../language/names';

interface PickProps {
  instruments: Instrument[];
  instrument: Instrument | null;
  onPick: (instrument: Instrument) => void;
}

const FEW = 3;

/** Which instrument reads: its scale, and whether its zero has to be checked first. More than a few open at a press. */
export function InstrumentPick({ instruments, instrument, onPick }: PickProps) {
  const rows = strengthReaders(instruments);
  const [asked, ask] = useState(false);
  const open = asked || rows.length <= FEW || instrument === null;
  const shown = open ? rows : rows.filter((row) => row.id === instrument?.id);
  return (
    <div className="field">
      <span className="lbl">Instrument</span>
      <div className="pick" role="radiogroup" aria-label="Instrument">
        {shown.map((row) => (
          <ButtonBase
            key={row.id}
            className="opt"
            role="radio"
            aria-checked={row.id === instrument?.id}
            onClick={() => {
              ask(false);
              onPick(row);
            }}
          >
            <span>
              <b>{row.name}</b>
              <small>{row.kind === 'steps' ? INSTRUMENT_KIND.steps : row.scale && SCALE[row.scale]}</small>
              {zeroWants(row) && <small className="hot">{zeroWants(row)}</small>}
            </span>
          </ButtonBase>
        ))}
        {!open && (
          <ButtonBase className="key" onClick={() => ask(true)}>
            Another
          </ButtonBase>
        )}
      </div>
    </div>
  );
}

interface ValueProps {
  instrument: Instrument;
  draft: Pick<ReadDraft, 'value' | 'sample'>;
  onChange: (part: Partial<ReadDraft>) => void;
  label?: string;
  start?: number;
  placeholder?: string;
  refused?: string | undefined;
  name?: string;
}

/** What it reads, by its own divisions; or its own key, where a driver reads it. */
export function ReadValue({ instrument, draft, onChange, label, start, placeholder, refused, name }: ValueProps) {
  const { system } = useUnits();
  const { step, decimals } = divisionOf(instrument);
  const take = useTake(instrument.id, (taken) =>
    onChange({
      value: typedOn(instrument, taken.value, system),
      sample: typedFrom(taken.sample_c, 'temperature', system, 1),
    }),
  );
  const steps = instrument.kind === 'steps';
  return (
    <>
      <Stepper
        name={name ?? 'value'}
        label={label ?? (steps ? `Steps visible, of ${instrument.steps_c.length}` : 'Reading')}
        kind={kindFor(instrument)}
        step={step}
        decimals={decimals}
        start={steps ? 0 : (start ?? instrument.zero)}
        placeholder={placeholder ?? 'set'}
        typed={draft.value}
        refused={refused}
        onChange={(value) => onChange({ value })}
      />
      {instrument.by_itself && (
        <div className="field takefield">
          <span className="lbl">Instrument</span>
          <ButtonBase className="key" aria-disabled={take.isPending} onClick={() => !take.isPending && take.mutate()}>
            {take.isPending ? 'Reading' : take.error?.code === 'line_dropped' ? 'Read again' : 'Read from instrument'}
          </ButtonBase>
          {take.error && <Refusal which="Not read." allowed={take.error.message} />}
        </div>
      )}
    </>
  );
}
