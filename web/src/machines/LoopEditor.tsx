import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { Refusal as RefusalError, Schemas } from '../api/client';
import { asFull } from '../figures/asFull';
import { Circuit } from '../figures/Circuit';
import { GoPlate } from '../parts/GoPlate';
import { Refusal } from '../parts/Refusal';
import { Segment } from '../parts/Segment';
import { useUnits } from '../units/UnitsContext';
import { BleedEditor } from './BleedEditor';
import { LayoutEditor } from './LayoutEditor';
import { layoutFromForm } from './layoutForm';
import { AsksFields, BuildFields } from './LoopFields';
import { type LoopForm, specFromForm, specToForm } from './loopForm';

const PANELS = [
  { value: 'build', label: 'How it is built' },
  { value: 'asks', label: 'What may go in' },
  { value: 'layout', label: 'Vessels, hoses, drains' },
  { value: 'bleed', label: 'Bleed recipe' },
] as const;

interface Props {
  loop: Schemas['LoopDetail'];
  busy: boolean;
  refusal: RefusalError | null;
  onKeep: (spec: Schemas['LoopSpec']) => void;
  onLeave: () => void;
}

/** A lead corrects one loop; the circuit beside it follows every stroke. */
export function LoopEditor({ loop, busy, refusal, onKeep, onLeave }: Props) {
  const { system } = useUnits();
  const [form, setForm] = useState<LoopForm>(() => specToForm(loop.spec, system));
  const [panel, show] = useState<(typeof PANELS)[number]['value']>('build');
  const change = (part: Partial<LoopForm>) => setForm((before) => ({ ...before, ...part }));
  const spec = specFromForm(form, system);
  const drawn = layoutFromForm(form.layout);
  const layout = typeof drawn === 'string' ? loop.spec.layout : drawn;
  const waits = loop.open
    ? 'A job is open on it: finish that first'
    : typeof spec === 'string'
      ? 'Correct what is typed'
      : null;
  return (
    <>
      <main id="work">
        <div className="formside" style={panel === 'bleed' ? { gridColumn: '1 / -1' } : undefined}>
          <div className="row machinekeys">
            <Segment label="What to correct" hideLabel value={panel} options={PANELS} onChange={show} />
            <ButtonBase className="key" onClick={onLeave}>
              Leave it as it was
            </ButtonBase>
          </div>
          {typeof spec === 'string' && <Refusal which={spec} />}
          {refusal && <Refusal which="Not kept." allowed={refusal.message} />}
          {panel === 'build' && <BuildFields form={form} onChange={change} />}
          {panel === 'asks' && <AsksFields form={form} onChange={change} />}
          {panel === 'layout' && (
            <LayoutEditor form={form.layout} onChange={(part) => change({ layout: { ...form.layout, ...part } })} />
          )}
          {panel === 'bleed' && (
            <BleedEditor form={form.bleed} recipes={loop.recipes} onChange={(bleed) => change({ bleed })} />
          )}
        </div>
        <section
          className="drawing"
          aria-label="Circuit as it will be drawn"
          style={panel === 'bleed' ? { display: 'none' } : undefined}
        >
          <p>
            <b>As it will be drawn.</b> {typeof drawn === 'string' ? drawn : 'Full, to the cold mark.'}
          </p>
          <Circuit layout={layout} vessels={layout.nodes.map(asFull)} fresh={false} drainsNext={false} />
        </section>
      </main>
      <div className="gocorner">
        <GoPlate
          act="Keep it so"
          then="the next job reckons with it"
          waits={waits}
          busy={busy}
          onPress={() => typeof spec !== 'string' && onKeep(spec)}
        />
      </div>
    </>
  );
}
