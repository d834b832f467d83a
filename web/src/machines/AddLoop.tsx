import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { v4 as uuid } from 'uuid';
import { useSettled } from '../api/calculators';
import type { Refusal as RefusalError, Schemas } from '../api/client';
import { layoutsOptions } from '../api/queries';
import { asFull } from '../figures/asFull';
import { Circuit } from '../figures/Circuit';
import { GoPlate } from '../controls/GoPlate';
import { QuantityField } from '../controls/QuantityField';
import { Refusal } from '../controls/Refusal';
import { TextField } from '../controls/TextField';
import { parseTyped, type Typed } from '../units/parse';
import { useUnits } from '../units/UnitsContext';

interface Props {
  busy: boolean;
  refusal: RefusalError | null;
  onKeep: (given: Schemas['LoopAdd']) => void;
  onLeave: () => void;
}

const DRAWN_L = 6; // what a layout is drawn for until somebody says the capacity

/** One more loop on a machine, from a generic layout; the rest is corrected afterwards. */
export function AddLoop({ busy, refusal, onKeep, onLeave }: Props) {
  const { system } = useUnits();
  const id = useRef(uuid());
  const [name, setName] = useState('');
  const [capacity, setCapacity] = useState<Typed>({ text: '', unit: 'l' });
  const [start, pick] = useState('power_electronics');
  const parsed = parseTyped(capacity, 'volume', system);
  const settled = useSettled(parsed.ok && parsed.base >= 0.1 ? parsed.base : DRAWN_L, 200);
  const layouts = useQuery(layoutsOptions(settled)).data?.layouts ?? [];
  const generic = layouts.find((row) => row.key === start);
  const electronics = start === 'power_electronics';
  const waits = !name.trim() ? 'Give the loop a name' : parsed.ok ? null : 'How many litres does the loop hold?';
  const keep = () =>
    parsed.ok &&
    onKeep({
      id: id.current,
      loop: {
        name: name.trim(),
        layout: start,
        capacity_l: parsed.base,
        capacity_source: 'manual',
        low_conductivity: electronics,
        use: electronics ? 'power_electronics' : null,
        high_voltage: electronics,
      } as Schemas['LoopIn'],
    });
  return (
    <>
      <main id="work">
        <div className="formside">
          <div className="row machinekeys">
            <ButtonBase className="key" onClick={onLeave}>
              Discard changes
            </ButtonBase>
          </div>
          <div className="row">
            <TextField name="loopName" label="Loop" value={name} max={60} wide onChange={setName} />
            <QuantityField
              name="capacity"
              label="Capacity, to the cold mark"
              kind="volume"
              typed={capacity}
              refused={refusal?.field.endsWith('capacity_l') ? refusal.message : undefined}
              onChange={setCapacity}
            />
          </div>
          <div className="starts" role="radiogroup" aria-label="Build">
            {layouts.map((row) => (
              <ButtonBase
                key={row.key}
                className="opt"
                role="radio"
                aria-checked={start === row.key}
                onClick={() => pick(row.key)}
              >
                <b>{row.name}</b>
                <small>{row.says}</small>
              </ButtonBase>
            ))}
          </div>
          {refusal && !refusal.field.endsWith('capacity_l') && <Refusal which="Not saved." allowed={refusal.message} />}
        </div>
        <section className="drawing" aria-label="Preview of the circuit">
          {generic && (
            <Circuit
              system={system}
              layout={generic.layout}
              vessels={generic.layout.nodes.map(asFull)}
              fresh={false}
              drainsNext={false}
            />
          )}
        </section>
      </main>
      <div className="gocorner">
        <GoPlate act={`Add ${name.trim() || 'the loop'}`} waits={waits} busy={busy} onPress={keep} />
      </div>
    </>
  );
}
