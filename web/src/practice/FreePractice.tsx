import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { layoutsOptions } from '../api/queries';
import { NumberField, numberOf, wrongNumber } from '../controls/NumberField';
import { Picker } from '../controls/Picker';
import { QuantityField } from '../controls/QuantityField';
import { useUnits } from '../units/UnitsContext';
import { type Typed, unitFor } from '../units/parse';
import { litresTyped } from './litres';
import type { useBegin } from './queries';

const USUAL_L = 12;
const [LEAST_SEED, MOST_SEED] = [1, 999_999];

/** Any layout, any size, and a seed: the same seed gives the same truth. */
export function FreePractice({ begin }: { begin: ReturnType<typeof useBegin> }) {
  const { system } = useUnits();
  const layouts = useQuery(layoutsOptions(USUAL_L)).data?.layouts ?? [];
  const [layout, setLayout] = useState('degas_tank');
  const [size, setSize] = useState<Typed>({ text: '', unit: unitFor('volume', system) });
  const [seed, setSeed] = useState('');
  const litres = size.text.trim() === '' ? USUAL_L : litresTyped(size, system);
  const wrong = wrongNumber(seed, '', LEAST_SEED, MOST_SEED) !== null || litres === null;
  const start = () => {
    if (wrong || begin.isPending) return;
    begin.mutate({ layout, capacity_l: litres, seed: numberOf(seed) });
  };
  return (
    <section aria-label="Free practice">
      <h2>Free practice</h2>
      <p>Any machine. What is wrong with it comes from the seed: the same seed gives the same machine.</p>
      <div className="row">
        <Picker
          label="Layout"
          value={layout}
          options={layouts.map((row) => ({ value: row.key, label: row.name }))}
          onChange={setLayout}
        />
        <QuantityField name="free-size" label="Capacity (empty: usual)" kind="volume" typed={size} onChange={setSize} />
        <NumberField
          name="seed"
          label="Seed (empty: any)"
          unit=""
          value={seed}
          low={LEAST_SEED}
          high={MOST_SEED}
          onChange={setSeed}
        />
        <ButtonBase className="key" aria-disabled={wrong || begin.isPending} onClick={start}>
          Begin free practice
        </ButtonBase>
      </div>
    </section>
  );
}
