import '../fill/fill.css';
import { useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import type { Schemas } from '../../api/client';
import { usePreview, useReading } from '../../api/calculators';
import { instrumentsOptions, sessionOptions } from '../../api/queries';
import type { StageProps } from '../../bench/stage';
import { LearnedCapacity } from '../../bench/LearnedCapacity';
import { strengthTag } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { SightGlass } from '../../controls/reading/SightGlass';
import { GoPlate } from '../../controls/GoPlate';
import { HowSure } from '../../controls/HowSure';
import {
  divisionOf,
  firstFor,
  kindFor,
  parsedOn,
  type ScaleRow,
  scaleText,
  seenText,
  typedOn,
} from '../../controls/reading/scale';
import { parseTyped, type Typed, typedFrom } from '../../units/parse';
import type { System } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { isSafe, PROOF, SCALE } from '../../language/names';
import { type Instrument, type VerifyDraft, REPEATS } from './draft';
import { Controls, NextKeys, RanHot, Reason, Taken, VerdictLine } from './VerifyParts';
import { Check } from '../../controls/Check';
import { Cautions } from '../../bench/Cautions';
import { standsFor } from '../open/gate';
import { OpenStage } from '../open/OpenStage';
import { Conductivity } from './Conductivity';
import { Causes } from './Causes';
import { CorrectSheet } from './CorrectSheet';
import { FinalCheck } from './FinalCheck';
import { type Doing, useDoing } from './useDoing';
import { ReadingSum, StepsSum } from './ReadingSum';
import { ThreeFigures } from './ThreeFigures';

export function VerifyStage(props: StageProps) {
  const instruments = useQuery(instrumentsOptions);
  const [doing, goDo] = useDoing();
  const back = () => goDo('read');
  if (doing === 'open') return <OpenStage {...props} purpose="cap" onBack={back} />;
  if (doing === 'look') return <FinalCheck {...props} onBack={back} />;
  if (doing === 'correct' && props.bench.state.correction) return <CorrectSheet {...props} onBack={back} />;
  if (!instruments.data) return <main className="sheet">{instruments.error?.message ?? 'Loading …'}</main>;
  if (props.bench.state.inside.base === 'none' && !props.bench.state.proof) return <SignGlycolFree {...props} />;
  return <Verify {...props} instruments={instruments.data.instruments} scales={instruments.data.scales} />;
}

/** Readings logged, corrected, repeated; target, predicted and measured compared; the verdict in a sentence. */
function Verify({
  bench,
  recorder,
  instruments,
  scales,
}: StageProps & { instruments: Instrument[]; scales: ScaleRow[] }) {
  const { system, volume } = useUnits();
  const go = useNavigate();
  const [, goDo] = useDoing();
  const { state, loop } = bench;
  const last = state.readings.at(-1);
  const { draft, change, settle, touched } = useDraft<VerifyDraft>(bench, 'verify', {
    instrumentId: firstFor(instruments, state.inside.base, last?.instrument)?.id ?? null,
    value: { text: '', unit: 'degC' },
    sample: last ? typedFrom(last.sample_c, 'temperature', system, 0) : { text: '', unit: 'degC' },
    zero: null,
    afterHotRun: last?.after_hot_run ?? state.ran_hot,
    reason: '',
    edge: 'sharp',
    live: false,
  });
  const instrument = instruments.find((row) => row.id === draft.instrumentId) ?? null;
  const value = parsedOn(instrument, draft.value, system);
  const sample = parseTyped(draft.sample, 'temperature', system);
  const steps = instrument?.kind === 'steps';
  const zeroTyped = draft.zero ?? (instrument ? zeroOn(instrument, system) : { text: '0', unit: 'degC' });
  const zero = parsedOn(instrument, zeroTyped, system);
  const glycol = state.inside.base === 'propylene' ? 'propylene' : 'ethylene';
  const complete = instrument !== null && value.ok && sample.ok && (steps || zero.ok);

  const corrected = useReading(
    complete && !steps && instrument.scale && zero.ok
      ? {
          glycol,
          scale: instrument.scale,
          value: value.base,
          sample_c: sample.base,
          zero: zero.base,
          resolution: instrument.resolution,
          compensated: instrument.compensated,
        }
      : null,
  );
  const person = useQuery(sessionOptions).data?.person;
  const lead = person?.role === 'lead';
  const facts: Fact[] | null = complete
    ? [
        {
          kind: 'read',
          facts: {
            value: value.base,
            place: 'finished',
            instrument_id: instrument.id,
            zero: steps || !zero.ok ? null : zero.base,
            sample_c: sample.base,
            after_hot_run: draft.afterHotRun,
            edge: draft.edge,
          },
        },
      ]
    : null;
  const preview = usePreview(loop.id, state.last_entry_id, facts && asPreview(facts));
  const shown = facts && preview.answer && !preview.refusal ? preview.answer.state : state;
  // a reading after a hot run asks for a check made after that run
  const again = preview.refusal?.code.startsWith('gate') === true;
  const safe = standsFor(state.gate, person?.id, 'cap') && !again;
  const plate = plateFor({
    draft,
    state,
    facts,
    instrument,
    system,
    refused: corrected.refusal ?? (again ? null : preview.refusal),
    volume,
    safe,
    lead,
  });
  const press = () => {
    if (plate.goes) goDo(plate.goes);
    else if (facts) recorder.record(facts, settle);
    else if (state.proof && state.proof.verdict !== 'not_measured') {
      const signed: Fact = {
        kind: 'signed_off',
        facts: {
          proof: state.proof.verdict,
          reason: draft.reason,
          service_mode_ended: state.isolated && draft.live,
        },
      };
      recorder.record([signed], () => {
        settle();
        void go(`/loops/${loop.id}`);
      });
    }
  };
  const scale = instrument?.kind === 'optical' ? scales.find((row) => row.scale === instrument.scale) : undefined;
  const reading = draft.value.text.trim() !== '' || state.readings.length < REPEATS;
  const glass =
    reading && instrument && scale
      ? {
          name: 'Eyepiece',
          says: value.ok ? scaleText(scale.scale, value.base, system) : 'set the edge',
          inside: (
            <>
              <div className="ctitle">
                <b>Set the edge where you see it</b>
                <span className="ink2">{SCALE[scale.scale]}</span>
              </div>
              <SightGlass
                scale={scale}
                value={value.ok ? value.base : null}
                division={instrument.resolution}
                zero={zero.ok ? zero.base : scale.water}
                edge={draft.edge}
                onChange={(at) => change({ value: typedOn(instrument, at, system) })}
                onEdge={(edge) => change({ edge })}
              />
            </>
          ),
        }
      : null;
  const ranHot = () =>
    recorder.record([
      { kind: 'engine_run', facts: { by: 'engine', opened: true, heater_full: true, neck_open: false } },
    ]);
  const proof = shown.proof;
  return (
    <StageFrame
      bench={bench}
      state={shown}
      firstField={last ? 'value' : 'sample'}
      marks={{
        coldest: state.plan?.coldest_c ?? null,
        target: state.plan?.target_freeze_c ?? null,
        likely: shown.predicted_likely_c,
        safe: proof?.safe_to_c ?? shown.predicted_safe_c,
        reading: proof?.freeze_c ?? null,
        readingStrength: shown.repeats ? strengthTag(shown.repeats.strength_percent) : '',
      }}
      {...(glass ? { figure: glass } : {})}
      drafted={touched}
      refusal={recorder.refusal}
      go={<GoPlate act={plate.act} then={plate.then} waits={plate.waits} busy={recorder.busy} onPress={press} />}
    >
      <Cautions bench={bench} at="verify" />
      {bench.wants_conductivity && <Conductivity bench={bench} recorder={recorder} />}
      <Controls
        {...{ draft, change, instruments, instrument, zeroTyped }}
        refused={(corrected.refusal ?? (again ? null : preview.refusal))?.message}
      />
      {complete && corrected.answer && !corrected.refusal && instrument?.scale && !steps && zero.ok ? (
        <ReadingSum
          answer={corrected.answer}
          value={value.base}
          zero={zero.base}
          glycol={glycol}
          scale={instrument.scale}
        />
      ) : (
        <ThreeFigures state={shown} />
      )}
      {steps && facts && preview.answer && <StepsSum row={preview.answer.state.readings.at(-1) ?? null} />}
      {!state.ran_hot && state.readings.length === 0 && <RanHot busy={recorder.busy} onRan={ranHot} />}
      <Taken state={state} next={state.readings.length + 1} inDoubt={bench.in_doubt} />
      {!facts && <Causes state={state} />}
      {!facts && state.proof && isSafe(state.proof.verdict) && <LearnedCapacity bench={bench} />}
      <HowSure state={shown} of={['predicted', 'read']} />
      <VerdictLine state={shown} pending={facts !== null && !draft.afterHotRun} />
      {!facts && state.proof && <NextKeys state={state} onGo={goDo} />}
      {state.proof && !facts && state.isolated && (
        <Check
          label="Service mode ended, pump works again"
          checked={draft.live}
          onChange={(live) => change({ live })}
        />
      )}
      {state.proof && !facts && (!isSafe(state.proof.verdict) || (state.finish?.missing.length ?? 0) > 0) && (
        <Reason
          label={isSafe(state.proof.verdict) ? 'Reason for no final check' : 'Reason to sign off without a verdict'}
          value={draft.reason}
          onChange={(reason) => change({ reason })}
        />
      )}
    </StageFrame>
  );
}

/** Its zero with a decimal more than its divisions: it is read between them. */
const zeroOn = (instrument: Instrument, system: System): Typed =>
  typedFrom(instrument.zero, kindFor(instrument), system, Math.max(1, divisionOf(instrument).decimals));

interface PlateInput {
  draft: VerifyDraft;
  state: Schemas['LoopState'];
  facts: Fact[] | null;
  instrument: Instrument | null;
  system: System;
  refused: Error | null;
  volume: (litres: number) => string;
  /** The safe-to-open check stands, and is this person's. */
  safe: boolean;
  lead: boolean;
}

function plateFor({ draft, state, facts, instrument, system, refused, volume, safe, lead }: PlateInput): {
  act: string;
  then: string;
  waits: string | null;
  goes?: Doing;
} {
  const count = state.repeats?.count ?? 0;
  if (!safe && !state.proof && state.ran_hot)
    return {
      act: 'Check it is safe to open',
      then: 'let it cool, then read',
      waits: null,
      goes: 'open',
    };
  if (facts && !safe) return { act: 'Check it is safe to open', then: 'record the reading', waits: null, goes: 'open' };
  if (facts) {
    const value = (facts[0]?.facts as { value: number }).value;
    return {
      act: `Record ${seenText({ scale: instrument?.scale ?? null, value, steps: instrument?.kind === 'steps' }, system)}`,
      then:
        instrument?.kind === 'steps'
          ? 'saved; steps do not verify'
          : count < REPEATS
            ? `reading ${count + 1} of ${REPEATS}`
            : 'one more reading',
      waits: refused ? 'Fix the marked fields' : null,
    };
  }
  if (draft.value.text.trim() !== '') return { act: '', then: 'it is recorded', waits: 'Fix the reading' };
  if (!state.proof)
    return {
      act: '',
      then: 'three readings, then the verdict',
      waits: state.ran_hot ? 'Let it cool, set the line' : 'Run it hot, let it cool, set the line',
    };
  const verdict = (PROOF[state.proof.verdict] ?? '').toLowerCase();
  if (isSafe(state.proof.verdict) && (state.finish?.missing.length ?? 0) > 0 && !draft.reason.trim()) {
    const few = count < REPEATS ? `, with ${count} of ${REPEATS} readings` : '';
    return { act: 'Final check: level, leaks, covers', then: `sign off: ${verdict}${few}`, waits: null, goes: 'look' };
  }
  if (isSafe(state.proof.verdict)) {
    const few = count < REPEATS ? `, with ${count} of ${REPEATS} readings` : '';
    return { act: `Sign off: ${verdict}${few}`, then: 'label the tank', waits: endService(draft, state) };
  }
  if (state.proof.verdict === 'not_measured' && !draft.reason.trim())
    return { act: '', then: 'the verdict', waits: 'Measure the conductivity' };
  if (LEADS_ONLY.includes(state.proof.verdict) && !lead)
    return { act: '', then: 'a lead may sign off with a reason', waits: `${PROOF[state.proof.verdict]}: ask a lead` };

  if (state.correction?.feasible && !draft.reason.trim())
    return {
      act: `Adjust: swap ${volume(state.correction.out_l)}`,
      then: 'safe to open first, then run hot, read',
      waits: null,
      goes: 'correct',
    };
  return {
    act: `Sign off anyway: ${verdict}`,
    then: 'a lead sees it',
    waits: draft.reason.trim()
      ? endService(draft, state)
      : `${PROOF[state.proof.verdict]}: ${LEADS_ONLY.includes(state.proof.verdict) ? 'say why' : 'read again, or say why'}`,
  };
}

const LEADS_ONLY: string[] = ['mixed_bases', 'wrong_product', 'water_in', 'use_unknown', 'conducts'];

/** What was made dead works again before it leaves. */
const endService = (draft: VerifyDraft, state: Schemas['LoopState']): string | null =>
  state.isolated && !draft.live ? 'End service mode, then tick it' : null;

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
          then="keep indoors, or drain it"
          busy={recorder.busy}
          onPress={() => recorder.record([{ kind: 'signed_off', facts: { proof: 'glycol_free', reason: '' } }])}
        />
      }
    >
      <h1 className="title">Nothing to read: no glycol inside</h1>
      <div className="facts" style={{ marginTop: 12 }}>
        <div>
          <i className="tape" />
          <span>{sayIn(bench.state.claim.said, system)}</span>
        </div>
      </div>
    </StageFrame>
  );
}
