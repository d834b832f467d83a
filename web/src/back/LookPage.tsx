import { useQuery } from '@tanstack/react-query';
import { Link, useNavigate, useParams } from 'react-router';
import { usePreview } from '../api/calculators';
import type { Schemas } from '../api/client';
import { benchOptions, instrumentsOptions } from '../api/queries';
import { useTabDraft } from '../bench/useTabDraft';
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

interface LookDraft {
  level: Schemas['Level'] | 'open';
  topped: Typed;
  what: 'same' | 'water';
  picked: number | null;
  value: Typed;
  sample: Typed;
}

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
  const { draft, change, settle } = useTabDraft<LookDraft>(`temper.look.${loop.id}`, state.last_entry_id ?? '', {
    level: 'open',
    topped: { text: '', unit: 'l' },
    what: 'water',
    picked: null,
    value: { text: '', unit: 'degC' },
    sample: typedFrom(bench.policy.bay_c ?? 15, 'temperature', system, 0),
  });
  const { level, topped, what, value, sample } = draft;
  const instrument = instruments.find((row) => row.id === draft.picked) ?? firstFor(instruments, state.inside.base);
  const owed = (state.after?.rechecks ?? []).filter((row) => row.done_at === null);
  const litres = parseTyped(topped, 'volume', system, 0);
  const reading = parsedOn(instrument, value, system);
  const sampleC = parseTyped(sample, 'temperature', system);
  const product = state.plan?.product ?? null;
  const noSample = !reading.ok || sampleC.ok ? null : 'How warm is the sample?';
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
  const changes = facts.length > 0 && !bad && !noSample;
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
          : noSample;
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
          onChange={(next) => change({ level: next })}
        />
        <div className="row">
          <Stepper
            name="topped"
            label="Topped up with"
            kind="volume"
            step={0.1}
            decimals={1}
            start={0}
            low={0}
            placeholder="0"
            typed={topped}
            onChange={(next) => change({ topped: next })}
          />
          <Segment
            label="of"
            value={what}
            options={[
              { value: 'water', label: 'plain water' },
              ...(state.top_up_share !== null ? [{ value: 'same' as const, label: 'the same mix' }] : []),
            ]}
            onChange={(next) => change({ what: next })}
          />
        </div>
        {glycol && instrument && (
          <div className="row">
            <InstrumentPick
              instruments={instruments}
              instrument={instrument}
              onPick={(row) => change({ picked: row.id, value: emptyValue })}
            />
            <ReadValue
              key={instrument.id}
              instrument={instrument}
              draft={{ value, sample }}
              label={`${instrument.name} reads`}
              {...(kindFor(instrument) === 'temperature' ? { start: Math.round(state.claim.freeze_c ?? -30) } : {})}
              placeholder="not read"
              onChange={change}
            />
            <Stepper
              name="sample"
              label="Sample is at"
              kind="temperature"
              typed={sample}
              onChange={(next) => change({ sample: next })}
            />
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
        {shown.flags
          .filter((flag) => !state.flags.some((known) => known.code === flag.code))
          .map((flag) => (
            <p key={flag.code} className="hot" data-testid="look-flag">
              {sayIn(flag, system)}
            </p>
          ))}
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
          onPress={() =>
            recorder.record(facts, () => {
              settle();
              void go('/');
            })
          }
        />
      </div>
    </div>
  );
}
