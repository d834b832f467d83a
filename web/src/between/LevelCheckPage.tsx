import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import { v4 as uuid } from 'uuid';
import { usePreview } from '../api/calculators';
import type { Schemas } from '../api/client';
import { benchOptions, instrumentsOptions, sessionOptions, useOpenJob } from '../api/queries';
import { useTabDraft } from '../bench/useTabDraft';
import { asPreview, type Fact, useRecorder } from '../bench/useRecorder';
import { GoPlate } from '../controls/GoPlate';
import { LoopWays } from '../controls/menu/LoopWays';
import { PageFrame, Waiting } from '../controls/menu/Page';
import { NotHere } from '../controls/NotHere';
import { Refusal } from '../controls/Refusal';
import { Stepper } from '../controls/Stepper';
import { Cautions } from '../bench/Cautions';
import { standsFor } from '../stages/open/gate';
import { ParkedNow } from '../bench/ParkedNow';
import { OpenStage } from '../stages/open/OpenStage';
import { parseTyped } from '../units/parse';
import { InstrumentPick, ReadValue } from '../controls/reading/ReadWith';
import { emptyValue, firstFor, kindFor, parsedOn } from '../controls/reading/scale';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { dateOf } from '../language/time';
import { LevelFields, LossFields } from './LevelFields';
import { accountFacts, EMPTY_LOOK, type LookDraft } from './look';
import './between.css';

/** A look without a job, in twenty seconds with a glove on: level, what went in, a reading. */
export default function LevelCheckPage() {
  const loopId = Number(useParams().loopId);
  const bench = useQuery({ ...benchOptions(loopId), enabled: Number.isInteger(loopId) });
  const instruments = useQuery(instrumentsOptions);
  if (bench.isError)
    return <NotHere head="No such loop." text={bench.error.message} retry={() => void bench.refetch()} />;
  if (!bench.data || !instruments.data) return <Waiting title="Level check" />;
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
  const [done, setDone] = useState(false);
  const jobId = useRef(uuid());
  const starting = useOpenJob(() => void go(`/loops/${loop.id}`));
  const glycol = state.inside.base !== 'none';
  const { draft, change, settle } = useTabDraft<LookDraft>(
    `temper.look.${loop.id}`,
    state.last_entry_id ?? '',
    EMPTY_LOOK,
  );
  const { level, value, sample } = draft;
  const instrument = instruments.find((row) => row.id === draft.picked) ?? firstFor(instruments, state.inside.base);
  const due = (state.after?.rechecks ?? []).filter((row) => row.done_at === null);
  const account = accountFacts(draft, state, system);
  const reading = parsedOn(instrument, value, system);
  const sampleC = parseTyped(sample, 'temperature', system);
  const noSample = account.waits ?? (!reading.ok || sampleC.ok ? null : 'How warm is the sample?');
  const bad = !reading.ok && !reading.empty;
  const me = useQuery(sessionOptions).data?.person?.id;
  const [opening, open] = useState(false);
  const safe = standsFor(state.gate, me, 'cap');
  const opens = account.litres > 0 || reading.ok || bench.level_opens;
  const facts: Fact[] = [...account.before, ...account.after];
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
  const changes = facts.length > 0 && !bad && !noSample && (!opens || safe);
  const preview = usePreview(loop.id, state.last_entry_id, changes ? asPreview(facts) : null, true);
  const shown = changes && preview.answer && !preview.refusal ? preview.answer.state : state;
  const refused = preview.refusal ?? recorder.refusal ?? starting.error;
  const inWork = state.job_id !== null && state.signed_at === null;
  const waits = inWork
    ? 'A job is open on this loop'
    : bad
      ? 'Fix the marked fields'
      : level === 'open'
        ? 'Level when cold?'
        : preview.refusal
          ? 'Fix the marked fields'
          : noSample;
  const warm = shown.claim.safe_to_c ?? shown.claim.freeze_c;
  const short = warm !== null && warm > bench.coldest_c && state.inside.base !== 'none';
  const ended = short && !changes && state.changed_at !== null && done;
  if (opening && !safe)
    return (
      <div className="bench">
        <OpenStage bench={bench} recorder={recorder} purpose="cap" onBack={() => open(false)} />
      </div>
    );
  const dueText = due.map((row) => `${sayIn(row.said, system)} By ${dateOf(row.due_on)}.`);
  return (
    <PageFrame
      title="Level check"
      number={machine.fleet_number}
      line={`${machine.kind}, ${loop.name}, ${volume(loop.capacity_l)}`}
      className="lookpage"
    >
      <main id="work">
        <LoopWays loopId={loop.id} machineId={machine.id} />
        {due.length > 0 ? (
          <p className={state.after?.overdue ? 'hot due' : 'due'} data-testid="due">
            <b>{state.after?.overdue ? 'Overdue. ' : 'Due. '}</b>
            {dueText.join(' ')}
          </p>
        ) : (
          <p className="due ink2">No check is due. You can still record one.</p>
        )}
        <Cautions bench={bench} at="between" />
        <p className="ink2">Keep the cap on while it is warm; read the level through the tank.</p>
        <LevelFields draft={draft} state={state} onChange={change} />
        <LossFields draft={draft} state={state} onChange={change} />
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
        {short && warm !== null && (
          <p className="hot alarm" role="alert" data-testid="unprotected">
            <b>
              Not protected: protects to {temperature(Math.ceil(warm), 0)}, coldest here{' '}
              {temperature(bench.coldest_c, 0)}.
            </b>{' '}
            Keep indoors, adjust the strength.
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
        {!inWork && state.signed_at && <ParkedNow bench={bench} />}
      </main>
      <div className="gocorner">
        {ended ? (
          <GoPlate
            act="Start job: adjust strength"
            then="read again, then swap some coolant"
            busy={starting.isPending}
            onPress={() =>
              starting.mutate({
                id: jobId.current,
                machine_id: machine.id,
                loops: [{ loop_id: loop.id, job_type: 'adjust_strength' }],
              })
            }
          />
        ) : opens && !safe && !waits ? (
          <GoPlate act="Check it is safe to open" then="record" onPress={() => open(true)} />
        ) : (
          <GoPlate
            act="Record the level check"
            then={short ? 'not protected: adjust strength' : 'back to the board'}
            waits={waits}
            busy={recorder.busy}
            onPress={() =>
              recorder.record(facts, () => {
                settle();
                if (short) setDone(true);
                else void go('/');
              })
            }
          />
        )}
      </div>
    </PageFrame>
  );
}
