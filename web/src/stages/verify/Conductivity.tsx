import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { StageProps } from '../../bench/stage';
import { NumberField, numberOf } from '../../controls/NumberField';
import { QuantityField } from '../../controls/QuantityField';
import { Segment } from '../../controls/Segment';
import { parseTyped, type Typed } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';

/** After the run: how much the fluid conducts, how warm it is, and whether the meter counts that in. */
export function Conductivity({ bench, recorder }: StageProps) {
  const { system } = useUnits();
  const [value, setValue] = useState('');
  const [sample, setSample] = useState<Typed>({ text: '', unit: 'degC' });
  const [compensated, setCompensated] = useState<'' | 'yes' | 'no'>('');
  const [conducts, at] = [numberOf(value), parseTyped(sample, 'temperature', system)];
  const ready = conducts !== null && at.ok && compensated !== '';
  const record = () => {
    if (!ready || recorder.busy) return;
    const figures = { us_cm: conducts, sample_c: at.base };
    recorder.record([
      {
        kind: 'tested',
        facts: { check: 'conductivity', outcome: null, figures, note: '', compensated: compensated === 'yes' },
      },
    ]);
  };
  const limit = bench.conductivity_limit;
  return (
    <div className="row" data-testid="conductivity">
      <NumberField name="conducts" label="Conductivity after the run" unit="µS/cm" value={value} onChange={setValue} />
      <QuantityField name="conducts-at" label="Sample is at" kind="temperature" typed={sample} onChange={setSample} />
      <Segment
        label="Meter converts to 25 °C"
        value={compensated}
        options={[
          { value: 'yes', label: 'by itself' },
          { value: 'no', label: 'no' },
        ]}
        onChange={setCompensated}
      />
      <ButtonBase className="key" aria-disabled={!ready || recorder.busy} onClick={record}>
        Record it
      </ButtonBase>
      <p className="ink2">
        {limit ? `At most ${limit.us_cm} µS/cm at 25 °C, ${limit.origin}.` : 'No limit: a lead must enter the use.'}
      </p>
    </div>
  );
}
