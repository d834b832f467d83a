import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import { useState } from 'react';
import { TextField } from '../parts/TextField';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../words/say';
import type { StageProps } from './BenchPage';

/** The key that puts a job aside, with a word for whoever takes it up. Clocks and limits run on. */
export function PutAside({ bench, recorder }: StageProps) {
  const { system } = useUnits();
  const [asked, ask] = useState(false);
  const [note, setNote] = useState('');
  const { state } = bench;
  return (
    <>
      <ButtonBase className="key small" onClick={() => ask(true)}>
        Put it aside
      </ButtonBase>
      <Dialog open={asked} onClose={() => ask(false)} maxWidth="sm" fullWidth aria-labelledby="aside-title">
        <div className="curve asidedialog">
          <header>
            <h2 id="aside-title" className="title">
              Put {bench.machine.fleet_number} aside
            </h2>
            <ButtonBase className="key" onClick={() => ask(false)}>
              Not now
            </ButtonBase>
          </header>
          <p>{sayIn(state.standing, system)}</p>
          <p className="ink2">Clocks and limits run on. The gate lapses: whoever takes it up feels it again.</p>
          <TextField
            name="aside-note"
            label="What the next person has to know"
            value={note}
            max={500}
            wide
            onChange={setNote}
          />
          <ButtonBase
            className="key"
            aria-disabled={recorder.busy}
            onClick={() => recorder.record([{ kind: 'paused', facts: { note } }], () => ask(false))}
          >
            Put it aside
          </ButtonBase>
        </div>
      </Dialog>
    </>
  );
}
