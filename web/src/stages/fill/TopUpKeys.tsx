import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { StageProps } from '../../bench/BenchPage';
import { Segment } from '../../parts/Segment';
import { Stepper } from '../../parts/Stepper';
import { parseTyped, type Typed } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { topUpFact } from './topUp';

type What = 'blend' | 'water' | 'product';

/** Topped up while the air comes out: litres and what it was; both enter the mix. */
export function TopUpKeys({ bench, recorder }: StageProps) {
  const { system, volume } = useUnits();
  const { plan } = bench.state;
  const [typed, type] = useState<Typed>({ text: '', unit: 'l' });
  const [what, pick] = useState<What>('blend');
  const litres = parseTyped(typed, 'volume', system);
  const share = what === 'blend' ? (bench.state.top_up_share ?? 1) : what === 'product' ? 1 : 0;
  const ready = plan !== null && litres.ok && litres.base > 0;
  const record = () => {
    if (!ready) return;
    recorder.record([topUpFact(litres.base, share, plan.product, true)], () => type({ text: '', unit: 'l' }));
  };
  return (
    <section className="topupkeys" aria-label="Top-up">
      <Stepper
        name="top-up"
        label="Topped up to the mark with"
        kind="volume"
        step={0.1}
        decimals={1}
        start={0}
        placeholder="0"
        typed={typed}
        onChange={type}
      />
      <Segment
        label="of"
        value={what}
        options={[
          { value: 'blend', label: 'the blend' },
          { value: 'product', label: 'product' },
          { value: 'water', label: 'water' },
        ]}
        onChange={pick}
      />
      <ButtonBase className="key" onClick={record} aria-disabled={!ready || recorder.busy}>
        {ready ? `Log ${volume(litres.base)}` : 'Log it'}
      </ButtonBase>
    </section>
  );
}
