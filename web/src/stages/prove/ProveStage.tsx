import ButtonBase from '@mui/material/ButtonBase';
import InputBase from '@mui/material/InputBase';
import { useQuery } from '@tanstack/react-query';
import { useId } from 'react';
import { useNavigate } from 'react-router';
import type { Schemas } from '../../api/client';
import { usePreview, useReading } from '../../api/calculators';
import { instrumentsOptions } from '../../api/queries';
import type { StageProps } from '../../bench/BenchPage';
import { LearnedCapacity } from '../../bench/LearnedCapacity';
import { strengthTag } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { Check } from '../../parts/Check';
import { GoPlate } from '../../parts/GoPlate';
import { Tick } from '../../parts/icons';
import { Stepper } from '../../parts/Stepper';
import { parseTyped, type Typed, typedFrom } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../words/say';
import { PROOF } from '../../words/trade';
import { ReadingSum } from './ReadingSum';
import { ThreeFigures } from './ThreeFigures';

interface ProveDraft {
  instrumentId: number | null;
  value: Typed;
  sample: Typed;
  zero: Typed | null;
  afterHotRun: boolean;
  reason: string;
}

type Instrument = Schemas['InstrumentOut'];
const REPEATS = 3;

/** The last instrument used here, else the one whose scale is the loop's glycol. */
function firstInstrument(state: Schemas['LoopState'], instruments: Instrument[]): Instrument | null {
  const last = state.readings.at(-1)?.instrument;
  return (
    instruments.find((row) => row.name === last) ??
    instruments.find((row) => row.scale === `freeze_${state.inside.base}`) ??
    instruments[0] ??
    null
  );
}

export function ProveStage(props: StageProps) {
  const instruments = useQuery(instrumentsOptions);
  if (!instruments.data)
    return <main className="sheet">{instruments.error?.message ?? 'Fetching the instruments.'}</main>;
  if (props.bench.state.inside.base === 'none') return <SignGlycolFree {...props} />;
  return <Prove {...props} instruments={instruments.data.instruments} />;
}

/** Readings logged, corrected, repeated; target, predicted and measured compared; the verdict in a sentence. */
function Prove({ bench, recorder, instruments }: StageProps & { instruments: Instrument[] }) {
  const { system, temperature } = useUnits();
  const go = useNavigate();
  const { state, loop } = bench;
  const last = state.readings.at(-1);
  const { draft, change, settle, touched } = useDraft<ProveDraft>(bench, 'prove', {
    instrumentId: firstInstrument(state, instruments)?.id ?? null,
    value: { text: '', unit: 'degC' },
    sample: typedFrom(last?.sample_c ?? 20, 'temperature', system, 0),
    zero: null,
    afterHotRun: last?.after_hot_run ?? false,
    reason: '',
  });
  const instrument = instruments.find((row) => row.id === draft.instrumentId) ?? null;
  const value = parseTyped(draft.value, 'temperature', system);
  const sample = parseTyped(draft.sample, 'temperature', system);
  const zeroTyped = draft.zero ?? typedFrom(instrument?.zero ?? 0, 'temperature', system);
  const zero = parseTyped(zeroTyped, 'temperature', system);
  const glycol = state.inside.base === 'propylene' ? 'propylene' : 'ethylene';
  const complete = instrument !== null && value.ok && sample.ok && zero.ok;

  const reading = useReading(
    complete
      ? {
          glycol,
          scale: instrument.scale,
          value: value.base,
          sample_c: sample.base,
          zero: zero.base,
          resolution: instrument.resolution,
        }
      : null,
  );
  const facts: Fact[] | null = complete
    ? [
        {
          kind: 'read',
          facts: {
            value: value.base,
            place: 'finished',
            instrument_id: instrument.id,
            zero: zero.base,
            sample_c: sample.base,
            after_hot_run: draft.afterHotRun,
          },
        },
      ]
    : null;
  const preview = usePreview(loop.id, state.last_entry_id, facts && asPreview(facts));
  const shown = facts && preview.answer && !preview.refusal ? preview.answer.state : state;
  const plate = plateFor({ draft, state, facts, refused: reading.refusal ?? preview.refusal, temperature });
  const press = () => {
    if (facts) recorder.record(facts, settle);
    else if (state.proof) {
      const signed: Fact = { kind: 'signed_off', facts: { proof: state.proof.verdict, reason: draft.reason } };
      recorder.record([signed], () => {
        settle();
        void go(`/loops/${loop.id}`);
      });
    }
  };
  const proof = shown.proof;
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={{
        coldest: state.plan?.coldest_c ?? null,
        target: state.plan?.target_freeze_c ?? null,
        likely: shown.predicted_likely_c,
        safe: proof?.safe_to_c ?? shown.predicted_safe_c,
        reading: proof?.freeze_c ?? null,
        readingStrength: shown.repeats ? strengthTag(shown.repeats.strength_percent) : '',
      }}
      drafted={touched}
      refusal={recorder.refusal}
      go={<GoPlate act={plate.act} then={plate.then} waits={plate.waits} busy={recorder.busy} onPress={press} />}
    >
      <Controls {...{ draft, change, instruments, instrument, zeroTyped }} refused={reading.refusal?.message} />
      {complete && reading.answer && !reading.refusal && instrument ? (
        <ReadingSum
          answer={reading.answer}
          value={value.base}
          zero={zero.base}
          glycol={glycol}
          scale={instrument.scale}
        />
      ) : (
        <ThreeFigures state={shown} />
      )}
      <Taken state={state} next={state.readings.length + 1} />
      {!facts && <LearnedCapacity bench={bench} />}
      <VerdictLine state={shown} pending={facts !== null && !draft.afterHotRun} />
      {state.proof && !facts && state.proof.verdict !== 'proven' && (
        <Reason value={draft.reason} onChange={(reason) => change({ reason })} />
      )}
    </StageFrame>
  );
}

interface PlateInput {
  draft: ProveDraft;
  state: Schemas['LoopState'];
  facts: Fact[] | null;
  refused: Error | null;
  temperature: (c: number, d?: number) => string;
}

function plateFor({ draft, state, facts, refused, temperature }: PlateInput): {
  act: string;
  then: string;
  waits: string | null;
} {
  const count = state.repeats?.count ?? 0;
  if (facts) {
    const value = (facts[0]?.facts as { value: number }).value;
    return {
      act: `Log ${temperature(value)}`,
      then: `reading ${count + 1} of ${REPEATS}`,
      waits: refused ? 'Correct what is marked' : null,
    };
  }
  if (draft.value.text.trim() !== '') return { act: '', then: 'it is logged', waits: 'Correct the reading first' };
  if (!state.proof)
    return { act: '', then: 'three readings, then the verdict', waits: 'Run it hot, let it cool, set the line' };
  if (state.proof.verdict === 'proven') {
    const few = count < REPEATS ? `, with ${count} of ${REPEATS} readings` : '';
    return { act: `Sign off: proven${few}`, then: 'label the tank', waits: null };
  }
  const word = (PROOF[state.proof.verdict] ?? '').toLowerCase();
  return {
    act: `Sign off all the same: ${word}`,
    then: 'a lead sees it',
    waits: draft.reason.trim() ? null : `${PROOF[state.proof.verdict]}: read again, or say why`,
  };
}

interface ControlsProps {
  draft: ProveDraft;
  change: (part: Partial<ProveDraft>) => void;
  instruments: Instrument[];
  instrument: Instrument | null;
  zeroTyped: Typed;
  refused: string | undefined;
}

function Controls({ draft, change, instruments, instrument, zeroTyped, refused }: ControlsProps) {
  return (
    <>
      <div className="row">
        <div className="field">
          <span className="lbl">Read with</span>
          <div className="pick" role="radiogroup" aria-label="Read with">
            {instruments.map((row) => (
              <ButtonBase
                key={row.id}
                className="opt"
                role="radio"
                aria-checked={row.id === instrument?.id}
                onClick={() => change({ instrumentId: row.id, zero: null })}
              >
                <b>{row.name}</b>
                <small>{row.scale === 'freeze_ethylene' ? 'ethylene scale' : 'propylene scale'}</small>
              </ButtonBase>
            ))}
          </div>
        </div>
        <Stepper
          name="zero"
          label="Water reads"
          kind="temperature"
          step={0.2}
          decimals={1}
          typed={zeroTyped}
          onChange={(zero) => change({ zero })}
        />
        <Stepper
          name="sample"
          label="Sample is at"
          kind="temperature"
          typed={draft.sample}
          onChange={(sample) => change({ sample })}
        />
      </div>
      <div className="row">
        <Stepper
          name="value"
          label="The line stands at"
          kind="temperature"
          step={instrument?.resolution ?? 1}
          decimals={(instrument?.resolution ?? 1) < 1 ? 1 : 0}
          start={-30}
          placeholder="set"
          typed={draft.value}
          refused={refused}
          onChange={(value) => change({ value })}
        />
        <div className="fill">
          <Check
            label="Taken after a hot run, cooled"
            detail="thermostat open, heater full hot"
            checked={draft.afterHotRun}
            onChange={(afterHotRun) => change({ afterHotRun })}
          />
        </div>
      </div>
    </>
  );
}

function Taken({ state, next }: { state: Schemas['LoopState']; next: number }) {
  const { temperature, kelvin } = useUnits();
  return (
    <>
      <p className="rulehead">
        <b>Readings, corrected</b>{' '}
        {state.repeats && state.repeats.count > 1
          ? `${kelvin(state.repeats.range_k)} between them. They share one zero: agreement says nothing about the zero.`
          : `Take ${REPEATS} of one sample, wiping the prism between them.`}
      </p>
      <ul className="readings">
        {state.readings.map((row, i) => (
          <li key={row.entry_id}>
            <small>{i + 1}</small>
            {row.answer.freeze_c === null ? 'off scale' : temperature(row.answer.freeze_c)}
            <small>
              seen {temperature(row.value, 1)}
              {row.after_hot_run ? '' : ', not run hot'}
            </small>
          </li>
        ))}
        {next <= REPEATS && (
          <li className="ink2">
            <small>{next}</small>to take
          </li>
        )}
      </ul>
    </>
  );
}

function VerdictLine({ state, pending }: { state: Schemas['LoopState']; pending: boolean }) {
  const { system } = useUnits();
  const proof = state.proof;
  if (!proof) {
    return (
      <div className="verdict push">
        <span className="mark wait">?</span>
        <p>
          <b>Not proven yet.</b>
          {pending
            ? ' A reading before the hot run is kept, but proves nothing.'
            : ` ${sayIn(state.claim.said, system)}`}
        </p>
      </div>
    );
  }
  const proven = proof.verdict === 'proven';
  return (
    <div className="verdict push" data-testid="verdict">
      <span className={`mark${proven ? '' : ' not'}`}>{proven ? <Tick size={26} /> : '!'}</span>
      <p>
        <b>{PROOF[proof.verdict]}.</b> {sayIn(proof.said, system)}
      </p>
    </div>
  );
}

function Reason({ value, onChange }: { value: string; onChange: (value: string) => void }) {
  const id = useId();
  return (
    <div className="field wide" style={{ paddingTop: 8, flex: 'none' }}>
      <label className="lbl" htmlFor={id}>
        It leaves unproven because
      </label>
      <div className="box" style={{ height: 50 }}>
        <InputBase
          id={id}
          name="reason"
          fullWidth
          value={value}
          onChange={(event) => onChange(event.target.value)}
          inputProps={{ maxLength: 500 }}
        />
      </div>
    </div>
  );
}

function SignGlycolFree({ bench, recorder }: StageProps) {
  const { system } = useUnits();
  return (
    <StageFrame
      bench={bench}
      state={bench.state}
      marks={{ now: 0 }}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act="Sign off: glycol-free"
          then="keep it in, or drain it"
          busy={recorder.busy}
          onPress={() => recorder.record([{ kind: 'signed_off', facts: { proof: 'glycol_free', reason: '' } }])}
        />
      }
    >
      <h1 className="title">Nothing to read: no glycol is in it</h1>
      <div className="facts" style={{ marginTop: 12 }}>
        <div>
          <i className="tape" />
          <span>{sayIn(bench.state.claim.said, system)}</span>
        </div>
      </div>
    </StageFrame>
  );
}
