import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { v4 as uuid } from 'uuid';
import { useSettled } from '../api/calculators';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { kindsOptions, layoutsOptions, machinesOptions } from '../api/queries';
import { GoPlate } from '../controls/GoPlate';
import { Inside } from '../controls/Inside';
import { Page } from '../controls/menu/Page';
import { QuantityField } from '../controls/QuantityField';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { TextField } from '../controls/TextField';
import { asFull } from '../figures/asFull';
import { Circuit } from '../figures/Circuit';
import { CAPACITY_FROM } from '../language/names';
import { parseTyped } from '../units/parse';
import { useUnits } from '../units/UnitsContext';
import { BuildFields, Start } from './BuildFields';
import { HighVoltageField } from './HighVoltage';
import './newMachine.css';
import { NearestMachines, plain } from './NearestMachines';
import { OwnerFields } from './OwnerFields';
import { EMPTY, machineIn, missing, type TakeIn, type Way } from './takeIn';

const WAYS: { value: Way; label: string }[] = [
  { value: 'kind', label: 'By its kind' },
  { value: 'like', label: 'Like another' },
  { value: 'build', label: 'By its build' },
];
const KNOWN = (['manual', 'measured', 'remembered'] as const).map((value) => ({ value, label: CAPACITY_FROM[value] }));
const NOT_KNOWN = { value: 'kind', label: 'Not known' } as const;
const DRAWN_L = 30; // what a layout is drawn for until somebody says the capacity

/** Whoever receives a machine takes it in: number, kind, litres or "not known", high voltage. Then the job begins. */
export default function NewMachinePage() {
  const { system, volume } = useUnits();
  const go = useNavigate();
  const client = useQueryClient();
  const [form, set] = useState<TakeIn>(EMPTY);
  const id = useRef(uuid());
  const machines = useQuery(machinesOptions).data?.machines ?? [];
  const kinds = useQuery(kindsOptions).data?.kinds ?? [];
  const kind = kinds.find((row) => row.key === form.kind);
  const first = kind?.loops[0];
  const capacity = parseTyped(form.capacity, 'volume', system);
  const usual = first ? (first.low_l + first.high_l) / 2 : DRAWN_L;
  const known = form.source !== 'kind' && capacity.ok && capacity.base >= 0.1;
  const settled = useSettled(known ? capacity.base : form.way === 'kind' ? usual : DRAWN_L, 200);
  const layouts = useQuery(layoutsOptions(settled)).data?.layouts ?? [];
  const layout = layouts.find((row) => row.key === (form.way === 'kind' ? first?.layout : form.layout));
  const sister = machines.find((card) => card.machine.id === form.like);
  const taken = machines.find((card) => same(card.machine.fleet_number, form.number));
  const change = (part: Partial<TakeIn>) => set((before) => ({ ...before, ...part }));
  const add = useMutation<Schemas['MachineAdded'], RefusalError, Schemas['MachineIn']>({
    mutationFn: (body) => unwrap(api.POST('/api/machines', { body })),
    onSuccess: async (added, body) => {
      for (const key of ['machines', 'loops', 'getting-started']) await client.invalidateQueries({ queryKey: [key] });
      await go(`/machines?find=${encodeURIComponent(body.fleet_number.trim())}&start=${added.loop_ids[0]}`);
    },
  });
  useEffect(() => {
    if (add.error)
      document.querySelector('.newmachine .refused, .newmachine .refusal')?.scrollIntoView({ block: 'center' });
  }, [add.error]); // what is refused may stand a screen above the key
  const open = missing(form, capacity.ok);
  const said = (name: string) => (add.error?.field === name ? add.error.message : undefined);
  const press = () =>
    add.mutate(
      machineIn(form, id.current, kind?.name ?? '', form.source !== 'kind' && capacity.ok ? capacity.base : null),
    );
  return (
    <Page
      title="Take in a machine"
      line="Its job or level check can start at once; a lead looks it over later"
      className="newmachine"
      go={
        <GoPlate
          act={`Take in ${form.number.trim() || 'machine'}`}
          then="choose the job, or check the level"
          waits={open?.[0] ?? null}
          asks={open?.[1]}
          busy={add.isPending}
          onPress={press}
        />
      }
    >
      <div className="formside">
        <div className="row">
          <TextField
            name="number"
            label="Number or plate"
            value={form.number}
            max={16}
            wide
            refused={said('fleet_number')}
            onChange={(number) => change({ number })}
          />
          <TextField
            name="description"
            label="Make, model or name, if any"
            value={form.description}
            max={120}
            wide
            onChange={(description) => change({ description })}
          />
          <OwnerFields owner={form.owner} refused={said} onChange={(owner) => change({ owner })} />
        </div>
        {taken && (
          <p className="hot" role="status">
            <b>{taken.machine.fleet_number} is here already:</b> {taken.machine.kind}. Is it this one?{' '}
            <Link className="key small" to={`/machines?find=${encodeURIComponent(taken.machine.fleet_number)}`}>
              Open {taken.machine.fleet_number}
            </Link>
          </p>
        )}
        <Segment label="Way" hideLabel value={form.way} options={WAYS} onChange={(way) => change({ way })} />
        {form.way === 'kind' && (
          <div className="kinds" role="radiogroup" aria-label="Kind of machine">
            {kinds.map((row) => (
              <Start
                key={row.key}
                name={row.name}
                says={row.loops.map((loop) => `${volume(loop.low_l)} to ${volume(loop.high_l)}`).join(' and ')}
                picked={form.kind === row.key}
                onPick={() => change({ kind: row.key })}
              />
            ))}
          </div>
        )}
        {form.way !== 'kind' && (
          <TextField
            name="kind"
            label="Kind of machine"
            value={form.kindWords}
            max={60}
            wide
            refused={said('kind')}
            onChange={(kindWords) => change({ kindWords })}
          />
        )}
        {form.way === 'build' && <BuildFields form={form} layouts={layouts} onChange={change} />}
        {form.way === 'like' && (
          <NearestMachines
            label="Number, kind or name of the machine it is like"
            say={(number) => `Like ${number}`}
            none="No machine by that. Take it in by its kind."
            machines={machines}
            picked={form.like}
            onPick={(like, kindWords) => change({ like, kindWords: form.kindWords || kindWords })}
          />
        )}
        {form.way !== 'like' && (
          <>
            <div className="row capacityfrom">
              <Segment
                label="Capacity, to the cold mark"
                value={form.source}
                options={form.way === 'kind' ? [...KNOWN, NOT_KNOWN] : KNOWN}
                onChange={(source) => change({ source })}
              />
              {form.source !== 'kind' && (
                <QuantityField
                  name="capacity"
                  label="Litres it holds"
                  kind="volume"
                  typed={form.capacity}
                  refused={said('loop.capacity_l') ?? said('of_kind.capacity_l')}
                  onChange={(typed) => change({ capacity: typed })}
                />
              )}
            </div>
            {form.source === 'kind' && first && (
              <p>
                Then it counts as anything from {volume(first.low_l)} to {volume(first.high_l)}, and every figure says
                how unsure that makes it. Weigh what comes out.
              </p>
            )}
            <div className="highvoltage">
              <HighVoltageField value={form.highVoltage} onChange={(highVoltage) => change({ highVoltage })} />
            </div>
            <Inside base={form.base} family={form.family} onChange={change} />
          </>
        )}
        {add.error && !SHOWN.includes(add.error.field) && <Refusal which="Not taken in." allowed={add.error.message} />}
      </div>
      <section className="drawing" aria-label="Preview of the circuit">
        {layout && form.way !== 'like' && (
          <>
            <p>
              <b>{layout.name}.</b> {layout.says}.{' '}
              {form.way === 'kind' ? 'Usual for its kind, nobody looked: ' : 'A start: '}
              edit it when you have the maker’s data.
            </p>
            <Circuit
              system={system}
              layout={layout.layout}
              vessels={layout.layout.nodes.map(asFull)}
              fresh={false}
              drainsNext={false}
            />
          </>
        )}
        {sister && form.way === 'like' && (
          <p>
            <b>As {sister.machine.fleet_number}:</b> {sister.loops.map((loop) => loop.name).join(', ')}. What was
            learned or signed on it stays with it.
          </p>
        )}
      </section>
    </Page>
  );
}

const SHOWN = [
  'fleet_number',
  'kind',
  'loop.capacity_l',
  'of_kind.capacity_l',
  'owner.name',
  'owner.telephone',
  'owner.email',
];
/** The same plate, however it was typed. */
const same = (one: string, other: string): boolean => plain(other) !== '' && plain(one) === plain(other);
