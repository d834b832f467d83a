import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { v4 as uuid } from 'uuid';
import { useSettled } from '../api/calculators';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { layoutsOptions, machinesOptions, sessionOptions } from '../api/queries';
import { Circuit } from '../figures/Circuit';
import { asFull } from '../figures/asFull';
import { Chips } from '../controls/Chips';
import { GoPlate } from '../controls/GoPlate';
import { FAMILIES, Inside } from '../controls/Inside';
import { QuantityField } from '../controls/QuantityField';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { TextField } from '../controls/TextField';
import { Page } from '../controls/menu/Page';
import { parseTyped, type Typed } from '../units/parse';
import { useUnits } from '../units/UnitsContext';
import { CAPACITY_FROM, MATERIAL } from '../language/names';
import './newMachine.css';

type LoopIn = Schemas['LoopIn'];

interface Form {
  number: string;
  kind: string;
  description: string;
  /** A generic layout's key, or "like" and the sister machine's id. */
  start: string;
  capacity: Typed;
  source: 'measured' | 'manual' | 'remembered';
  materials: Schemas['Material'][];
  families: Schemas['Family'][];
  statedIn: string;
  base: Schemas['Base'] | 'unknown';
  family: Schemas['Family'] | 'unknown';
}

const SOURCES = (['measured', 'manual', 'remembered'] as const).map((value) => ({
  value,
  label: CAPACITY_FROM[value],
}));
const MATERIALS = (Object.keys(MATERIAL) as Schemas['Material'][]).map((value) => ({ value, label: MATERIAL[value] }));
const EMPTY: Form = {
  number: '',
  kind: '',
  description: '',
  start: 'degas_tank',
  capacity: { text: '', unit: 'l' },
  source: 'manual',
  materials: [],
  families: [],
  statedIn: '',
  base: 'unknown',
  family: 'unknown',
};
const DRAWN_L = 30; // what a layout is drawn for until somebody says the capacity

/** A machine from a generic layout, or like its sister: the circuit draws itself while the capacity is typed. */
export default function NewMachinePage() {
  const { system } = useUnits();
  const go = useNavigate();
  const client = useQueryClient();
  const [form, set] = useState<Form>(EMPTY);
  const id = useRef(uuid());
  const machines = useQuery(machinesOptions).data?.machines ?? [];
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const capacity = parseTyped(form.capacity, 'volume', system);
  const settled = useSettled(capacity.ok && capacity.base >= 0.1 ? capacity.base : DRAWN_L, 200);
  const layouts = useQuery(layoutsOptions(settled));
  const generic = layouts.data?.layouts.find((row) => row.key === form.start);
  const sister = machines.find((card) => `like ${card.machine.id}` === form.start);
  const change = (part: Partial<Form>) => set((before) => ({ ...before, ...part }));
  const add = useMutation<Schemas['MachineAdded'], RefusalError, Schemas['MachineIn']>({
    mutationFn: (body) => unwrap(api.POST('/api/machines', { body })),
    onSuccess: async (added) => {
      await client.invalidateQueries({ queryKey: ['machines'] });
      await go(`/loops/${added.loop_ids[0]}`);
    },
  });
  const waits = !lead
    ? 'A lead adds machines'
    : form.number.trim() === '' || form.kind.trim() === ''
      ? 'Give it a number and a kind'
      : !sister && !capacity.ok
        ? 'How many litres does the loop hold?'
        : !sister && !generic
          ? 'Pick a layout'
          : null;
  const press = () =>
    add.mutate({
      id: id.current,
      fleet_number: form.number,
      kind: form.kind,
      description: form.description,
      ...(sister ? { copy_of: sister.machine.id } : { loop: loopOf(form, capacity.ok ? capacity.base : 0) }),
    });
  const fieldError = (name: string) => (add.error?.field === name ? add.error.message : undefined);
  return (
    <Page
      title="New machine"
      line={sister ? `like ${sister.machine.fleet_number}` : 'copies the build of its loop'}
      className="newmachine"
      go={
        <GoPlate
          act={`Add ${form.number.trim() || 'machine'}`}
          then="check the circuit"
          waits={waits}
          busy={add.isPending}
          onPress={press}
        />
      }
    >
      <div className="formside">
        <div className="row">
          <TextField
            name="number"
            label="Fleet number"
            value={form.number}
            max={16}
            wide
            refused={fieldError('fleet_number')}
            onChange={(number) => change({ number })}
          />
          <TextField
            name="kind"
            label="Kind of machine"
            value={form.kind}
            max={60}
            wide
            refused={fieldError('kind')}
            onChange={(kind) => change({ kind })}
          />
        </div>
        <TextField
          name="description"
          label="Description"
          value={form.description}
          max={120}
          wide
          onChange={(description) => change({ description })}
        />
        <fieldset>
          <legend className="lbl">Build of the loop</legend>
          <div className="starts" role="radiogroup" aria-label="Build of the loop">
            {layouts.data?.layouts.map((row) => (
              <Start
                key={row.key}
                name={row.name}
                says={row.says}
                picked={form.start === row.key}
                onPick={() => change({ start: row.key })}
              />
            ))}
            {machines.map((card) => (
              <Start
                key={card.machine.id}
                name={`Like ${card.machine.fleet_number}`}
                says={card.machine.kind}
                picked={sister === card}
                onPick={() => change({ start: `like ${card.machine.id}` })}
              />
            ))}
          </div>
        </fieldset>
        {!sister && (
          <>
            <div className="row">
              <QuantityField
                name="capacity"
                label="Capacity, to the cold mark"
                kind="volume"
                typed={form.capacity}
                refused={fieldError('loop.capacity_l')}
                onChange={(typed) => change({ capacity: typed })}
              />
              <Segment label="Source" value={form.source} options={SOURCES} onChange={(source) => change({ source })} />
            </div>
            <Chips
              label="Materials in contact"
              options={MATERIALS}
              picked={form.materials}
              onChange={(materials) => change({ materials })}
            />
            <Chips
              label="Maker’s requirement"
              options={FAMILIES}
              picked={form.families}
              onChange={(families) => change({ families })}
            />
            {form.families.length > 0 && (
              <TextField
                name="stated"
                label="Where it is stated"
                value={form.statedIn}
                max={120}
                wide
                onChange={(statedIn) => change({ statedIn })}
              />
            )}
            <Inside base={form.base} family={form.family} onChange={change} />
          </>
        )}
        {add.error && !add.error.field && <Refusal which="Not saved." allowed={add.error.message} />}
        {add.error?.field && !['fleet_number', 'kind', 'loop.capacity_l'].includes(add.error.field) && (
          <Refusal which="Not saved." allowed={add.error.message} />
        )}
      </div>
      <section className="drawing" aria-label="Preview of the circuit">
        {generic && !sister && (
          <>
            <p>
              <b>{generic.name}.</b> {generic.says}. A start: edit it when you have the maker’s data.
            </p>
            <Circuit
              system={system}
              layout={generic.layout}
              vessels={generic.layout.nodes.map(asFull)}
              fresh={false}
              drainsNext={false}
            />
          </>
        )}
        {sister && (
          <p>
            <b>As {sister.machine.fleet_number}:</b> {sister.loops.map((loop) => loop.name).join(', ')}. What was
            learned or signed on it stays with it.
          </p>
        )}
      </section>
    </Page>
  );
}

function loopOf(form: Form, capacityL: number): LoopIn {
  return {
    layout: form.start,
    capacity_l: capacityL,
    capacity_source: form.source,
    materials: form.materials,
    maker_families: form.families,
    maker_stated_in: form.families.length > 0 ? form.statedIn : '',
    low_conductivity: form.start === 'power_electronics',
    use: form.start === 'power_electronics' ? 'power_electronics' : null,
    high_voltage: form.start === 'power_electronics',
    ...(form.base === 'unknown' ? {} : { believed_base: form.base }),
    ...(form.base === 'none' ? { believed_family: 'glycol_free' as const } : {}),
    ...(form.family === 'unknown' || form.base === 'none' ? {} : { believed_family: form.family }),
  };
}

interface StartProps {
  name: string;
  says: string;
  picked: boolean;
  onPick: () => void;
}

function Start({ name, says, picked, onPick }: StartProps) {
  return (
    <ButtonBase className={`opt${picked ? ' picked' : ''}`} role="radio" aria-checked={picked} onClick={onPick}>
      <b>{name}</b>
      <small>{says}</small>
    </ButtonBase>
  );
}
