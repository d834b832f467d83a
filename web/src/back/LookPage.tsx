import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import { usePreview } from '../api/calculators';
import type { Schemas } from '../api/client';
import { benchOptions, instrumentsOptions } from '../api/queries';
import { asPreview, type Fact, useRecorder } from '../bench/useRecorder';
import { GoPlate } from '../parts/GoPlate';
import { MachineStrip } from '../parts/MachineStrip';
import { NotHere } from '../parts/NotHere';
import { Refusal } from '../parts/Refusal';
import { Segment } from '../parts/Segment';
import { Stepper } from '../parts/Stepper';
import { topUpFact } from '../stages/fill/topUp';
import { parseTyped, type Typed, typedFrom } from '../units/parse';
import { InstrumentPick, ReadValue } from '../reading/ReadWith';
import { emptyValue, firstFor, kindFor, parsedOn } from '../reading/scale';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../words/say';
import { dateOf } from '../words/time';
import './back.css';

type Level = Schemas['Level'];
const NOTHING: Typed = { text: '', unit: 'l' };

/** A look without a job, in twenty seconds with a glove on: level, what went in, a reading. */
export default function LookPage() {
  const loopId = Number(useParams().loopId);
  const bench = useQuery({ ...benchOptions(loopId), enabled: Number.isInteger(loopId) });
  const instruments = useQuery(instrumentsOptions);
  if (bench.isError)
    return <NotHere head="No such loop." text={bench.error.message} retry={() => void bench.refetch()} />;
  if (!bench.data || !instruments.data) return <p className="empty">Opening.</p>;
  return <Look bench={bench.data} instruments={instruments.data.instruments} />;
}

interface LookProps {
  bench: Schemas['Bench'];
  instruments: Schemas['InstrumentOut'][];
}

function Look({ bench, instruments }: LookProps) {
  const { system, volume, temperature } = useUnits();
  const go = useNavigate();
  const { state, machine, loop } = bench;
  const recorder = useRecorder(loop.id, state, true);
  const glycol = state.inside.base !== 'none';
  const [picked, choose] = useState<number | null>(null);
  const instrument = instruments.find((row) => row.id === picked) ?? firstFor(instruments, state.inside.base);
  const owed = (state.after?.rechecks ?? []).filter((row) => row.done_at === null);
  const [level, see] = useState<Level | 'open'>('open');
  const [typed, type] = useState<Typed>(NOTHING);
  const [what, pick] = useState<'same' | 'water'>('water');
  const [value, read] = useState<Typed>({ text: '', unit: 'degC' });
  const [sample, at] = useState<Typed>(typedFrom(15, 'temperature', system, 0));
  const litres = parseTyped(typed, 'volume', system);
  const reading = parsedOn(instrument, value, system);
  const sampleC = parseTyped(sample, 'temperature', system);
  const product = state.plan?.product ?? null;
  const bad = [litres, reading].some((row) => !row.ok && !row.empty);
  const facts: Fact[] = [];
  if (level !== 'open') facts.push({ kind: 'level_seen', facts: { level, note: '' } });
  if (litres.ok && litres.base > 0)
    facts.push(topUpFact(litres.base, what === 'same' ? (state.top_up_share ?? 0) : 0, product, false));
  if (reading.ok && instrument && sampleC.ok)
    facts.push({
      kind: 'read',
      facts: {
        value: reading.base,
        place: 'as_found',
        instrument_id: instrument.id,
        zero: null,
        sample_c: sampleC.base,
        after_hot_run: false,
        edge: 'sharp',
      },
    });
  const changes = facts.length > 0 && !bad;
  const preview = usePreview(loop.id, state.last_entry_id, changes ? asPreview(facts) : null, true);
  const shown = changes && preview.answer && !preview.refusal ? preview.answer.state : state;
  const refused = preview.refusal ?? recorder.refusal;
  const inWork = state.job_id !== null && state.signed_at === null;
  const waits = inWork
    ? 'A job is open on it'
    : bad
      ? 'Correct what is typed'
      : level === 'open'
        ? 'How is the level, cold?'
        : preview.refusal
          ? 'Correct what is marked'
          : null;
  const dueText = owed.map((row) => `${sayIn(row.said, system)} By ${dateOf(row.due_on)}.`);
  return (
    <div className="page lookpage">
      <MachineStrip fleetNumber={machine.fleet_number} head={machine.kind}>
        {loop.name}, {volume(loop.capacity_l)}
      </MachineStrip>
      <main id="work">
        {owed.length > 0 ? (
          <p className={state.after?.overdue ? 'hot owed' : 'owed'} data-testid="owed">
            <b>{state.after?.overdue ? 'Overdue. ' : 'Owed. '}</b>
            {dueText.join(' ')}
          </p>
        ) : (
          <p className="owed ink2">Nothing is owed to it. A look is kept all the same.</p>
        )}
        <p className="ink2">Cold only: the cap of a warm loop stays on, its level is read through the tank.</p>
        <Segment
          label="Level, cold"
          value={level}
          options={[
            { value: 'at_mark', label: 'at its mark' },
            { value: 'low', label: 'low' },
            { value: 'over', label: 'over' },
          ]}
          onChange={see}
        />
        <div className="row">
          <Stepper
            name="topped"
            label="Topped up with"
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
              { value: 'water', label: 'plain water' },
              ...(state.top_up_share !== null ? [{ value: 'same' as const, label: 'the same mix' }] : []),
            ]}
            onChange={pick}
          />
        </div>
        {glycol && instrument && (
          <div className="row">
            <InstrumentPick
              instruments={instruments}
              instrument={instrument}
              onPick={(row) => {
                choose(row.id);
                read(emptyValue);
              }}
            />
            <ReadValue
              key={instrument.id}
              instrument={instrument}
              draft={{ value, sample }}
              label={`${instrument.name} reads`}
              {...(kindFor(instrument) === 'temperature' ? { start: Math.round(state.claim.freeze_c ?? -30) } : {})}
              placeholder="not read"
              onChange={(part) => {
                if (part.value) read(part.value);
                if (part.sample) at(part.sample);
              }}
            />
            <Stepper name="sample" label="Sample is at" kind="temperature" typed={sample} onChange={at} />
          </div>
        )}
        <p className="claimline" data-testid="claim">
          {shown.claim.freeze_c !== null && <b>{temperature(shown.claim.freeze_c)}. </b>}
          {sayIn(shown.claim.said, system)}
        </p>
        {shown.after?.diluted && <p data-testid="diluted">{sayIn(shown.after.diluted, system)}</p>}
        {shown.claim.freeze_c !== null && shown.claim.freeze_c > bench.coldest_c && (
          <p className="hot">
            <b>It gets {temperature(bench.coldest_c, 0)} here.</b> Keep it in, or correct it before the frost.
          </p>
        )}
        {refused && <Refusal which="Not recorded." allowed={refused.message} />}
        <p>
          <Link to={`/loops/${loop.id}`}>Its bench</Link>
        </p>
      </main>
      <section className="lane keys" />
      <div className="gocorner">
        <GoPlate
          act="Record the look"
          then="back to the board"
          waits={waits}
          busy={recorder.busy}
          onPress={() => recorder.record(facts, () => void go('/'))}
        />
      </div>
    </div>
  );
}
