import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { Refusal as RefusalError, Schemas } from '../api/client';
import { asFull } from '../figures/asFull';
import { Circuit } from '../figures/Circuit';
import { GoPlate } from '../controls/GoPlate';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { useUnits } from '../units/UnitsContext';
import { BleedEditor } from './BleedEditor';
import { LayoutEditor } from './LayoutEditor';
import { layoutFromForm } from './layoutForm';
import { AsksFields, BuildFields } from './LoopFields';
import { type LoopForm, specFromForm, specToForm } from './loopForm';

const PANELS = [
  { value: 'build', label: 'Build' },
  { value: 'asks', label: 'Allowed coolant' },
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
    ? 'A job is open on this loop: finish it first'
    : typeof spec === 'string'
      ? 'Fix the marked fields'
      : null;
  return (
    <>
      <main id="work">
        <div className="formside" style={panel === 'bleed' ? { gridColumn: '1 / -1' } : undefined}>
          <div className="row machinekeys">
            <Segment label="What to edit" hideLabel value={panel} options={PANELS} onChange={show} />
            <ButtonBase className="key" onClick={onLeave}>
              Discard changes
            </ButtonBase>
          </div>
          {typeof spec === 'string' && <Refusal which={spec} />}
          {refusal && <Refusal which="Not saved." allowed={refusal.message} />}
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
          aria-label="Preview of the circuit"
          style={panel === 'bleed' ? { display: 'none' } : undefined}
        >
          <p>
            <b>Preview.</b> {typeof drawn === 'string' ? drawn : 'Full, to the cold mark.'}
          </p>
          <Circuit
            system={system}
            layout={layout}
            vessels={layout.nodes.map(asFull)}
            fresh={false}
            drainsNext={false}
          />
        </section>
      </main>
      <div className="gocorner">
        <GoPlate
          act="Save"
          then="used from the next job on"
          waits={waits}
          busy={busy}
          onPress={() => typeof spec !== 'string' && onKeep(spec)}
        />
      </div>
    </>
  );
}
