import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import { DialogFrame } from '../controls/DialogFrame';
import { TextField } from '../controls/TextField';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { ParkedKeys, type Parking } from './ParkedKeys';
import type { StageProps } from './stage';
import './pause.css';

/** The key that puts a job aside, with a word for whoever takes it up. Clocks and limits run on. */
export function PauseKey({ bench, recorder }: StageProps) {
  const { system } = useUnits();
  const [asked, ask] = useState(false);
  const [note, setNote] = useState('');
  const [parked, setParked] = useState<Parking | ''>('');
  const { state } = bench;
  return (
    <>
      <ButtonBase className="key small" onClick={() => ask(true)}>
        Pause job
      </ButtonBase>
      <DialogFrame open={asked} title={`Pause ${bench.machine.fleet_number}`} leave="Cancel" onClose={() => ask(false)}>
        <p>{sayIn(state.standing, system)}</p>
        <p className="ink2">Clocks and limits run on. The safe-to-open check lapses: whoever resumes makes it again.</p>
        <TextField name="aside-note" label="Note for the next person" value={note} max={500} wide onChange={setNote} />
        <ParkedKeys value={parked} onChange={setParked} />
        <ButtonBase
          className="key"
          aria-disabled={recorder.busy}
          onClick={() =>
            recorder.record([{ kind: 'paused', facts: { note, parked: parked || null } }], () => ask(false))
          }
        >
          Pause job
        </ButtonBase>
      </DialogFrame>
    </>
  );
}
