import ButtonBase from '@mui/material/ButtonBase';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { Check } from '../controls/Check';
import { NumberField, numberOf, wrongNumber } from '../controls/NumberField';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import type { Instrument } from '../controls/reading/scale';

type What = 'water' | 'ethylene' | 'propylene' | 'none';
const WHAT = [
  { value: 'water', label: 'water' },
  { value: 'ethylene', label: 'ethylene mix' },
  { value: 'propylene', label: 'propylene mix' },
  { value: 'none', label: 'nothing' },
] as const;

/** Nobody can put a drop on a simulated prism: what lies on it is set here. Only where the demo runs. */
export function SimulatedSample({ instrument }: { instrument: Instrument }) {
  const [what, lay] = useState<What>('water');
  const [percent, mix] = useState('45');
  const [celsius, warm] = useState('20');
  const [zeroError, off] = useState('0');
  const [drop, dropping] = useState(false);
  const put = useMutation<unknown, RefusalError, Schemas['SampleIn']>({
    mutationFn: (body) =>
      unwrap(
        api.PUT('/api/instruments/{instrument_id}/sample', {
          params: { path: { instrument_id: instrument.id } },
          body,
        }),
      ),
    onSuccess: () => dropping(false),
  });
  if (put.error?.status === 404) return null; // a real one: its sample is laid on by hand
  const glycol = what === 'ethylene' || what === 'propylene';
  const wrong =
    (glycol && wrongNumber(percent, '%', 0, 60)) ||
    wrongNumber(celsius, '°C', 0, 60) ||
    wrongNumber(zeroError, '', -0.02, 0.02);
  const change = () =>
    !wrong &&
    !put.isPending &&
    put.mutate({
      glycol_percent: glycol ? (numberOf(percent) ?? 0) : 0,
      propylene: what === 'propylene',
      sample_c: numberOf(celsius) ?? 20,
      noise: 0.0001,
      zero_error: numberOf(zeroError) ?? 0,
      none: what === 'none',
      drop,
    });
  return (
    <section className="simulated" aria-label="Simulated prism">
      <p className="rulehead">
        <b>Simulated instrument</b> Sample on the prism:
      </p>
      <div className="row">
        <Segment label="On the prism" value={what} options={WHAT} onChange={lay} />
        {glycol && (
          <NumberField name="glycol" label="Glycol" unit="% by mass" value={percent} low={0} high={60} onChange={mix} />
        )}
        <NumberField
          name="prism"
          label="Sample temperature"
          unit="°C"
          value={celsius}
          low={0}
          high={60}
          onChange={warm}
        />
        <NumberField
          name="zero-error"
          label="Reads high by"
          unit=""
          value={zeroError}
          low={-0.02}
          high={0.02}
          onChange={off}
        />
      </div>
      <div className="row">
        <Check label="Break the connection once" detail="during the next reading" checked={drop} onChange={dropping} />
        <ButtonBase className="key" aria-disabled={Boolean(wrong) || put.isPending} onClick={change}>
          Put sample on
        </ButtonBase>
        {put.isSuccess && <span className="ink2">Sample is on the prism.</span>}
      </div>
      {put.error && <Refusal which="Not put on." allowed={put.error.message} />}
    </section>
  );
}
