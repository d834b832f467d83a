import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { usePreview } from '../../api/calculators';
import type { Schemas } from '../../api/client';
import { inspectionOptions, instrumentsOptions, sessionOptions } from '../../api/queries';
import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { Check } from '../../controls/Check';
import { GoPlate } from '../../controls/GoPlate';
import { Segment } from '../../controls/Segment';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { JOB_TYPE } from '../../language/names';
import { Cautions } from '../../bench/Cautions';
import { standsFor } from '../open/gate';
import { OpenStage } from '../open/OpenStage';
import { ChecksPanel } from './ChecksPanel';
import { DoseSheet } from './dose/DoseSheet';
import { DecidePanel } from './DecidePanel';
import { cleared, EMPTY, pendingOf, type TestDraft } from './draft';
import { Photos } from '../../bench/Photos';
import { SamplePanel } from './SamplePanel';
import './inspect.css';
import { sampleWords, testWords } from './words';

type Advice = Schemas['Advice'];

/** What is in it, and is anything wrong? Looked at, recorded, judged; the person decides the job type. */
export function InspectStage({ bench, recorder }: StageProps) {
  const units = useUnits();
  const { state, loop } = bench;
  const { inspection } = state;
  const words = useQuery(inspectionOptions).data;
  const { draft, change, settle, touched } = useDraft<TestDraft>(bench, 'inspect', EMPTY);
  const me = useQuery(sessionOptions).data?.person?.id;
  const [opening, open] = useState(false);
  const [live, goLive] = useState(false);
  const safe = standsFor(state.gate, me, 'cap');
  const made = new Set(inspection.seen.map((row) => row.tested?.check));
  const strips = (useQuery(instrumentsOptions).data?.instruments ?? []).find(
    (row) => row.kind === 'strips' && !row.retired,
  );
  const pending = pendingOf(draft, words?.checks ?? [], units.system, strips?.bands);
  const preview = usePreview(
    loop.id,
    state.last_entry_id,
    pending.facts.length > 0 && !pending.waits ? asPreview(pending.facts) : null,
  );
  const shown = pending.facts.length > 0 && preview.answer && !preview.refusal ? preview.answer.state : state;
  const advice = shown.advice;
  const advised = advice?.tests ?? [];
  const rows = (words?.checks ?? []).filter(
    (row) => inspection.asked.includes(row.check) || advised.some((test) => test.check === row.check),
  );
  const missing = rows.filter((row) => !made.has(row.check));
  const opens = new Set(inspection.opening ?? []);
  const outside = rows.filter((row) => !opens.has(row.check));
  const inside = rows.filter((row) => opens.has(row.check));
  const closed = inspection.opening_spots ?? [];
  const spots = (words?.spots ?? []).map((row) => row.spot).filter((spot) => safe || !closed.includes(spot));
  const after = ({ outside: 'sample', sample: 'checks', checks: 'decide', decide: 'decide' } as const)[draft.panel];

  const finding = (entryId: string): number | null => {
    const at = inspection.seen.findIndex((row) => row.entry_id === entryId);
    return at < 0 ? null : at + 1;
  };
  const decide = (job_type: Schemas['JobType'], advice: Advice) => {
    const facts: Fact[] = [];
    if (missing.length > 0 && inspection.skipped.length === 0)
      facts.push({ kind: 'skipped', facts: { checks: missing.map((row) => row.check), reason: draft.leftOut } });
    facts.push({ kind: 'job_type_chosen', facts: { job_type, advised: advice.job_type, reason: draft.reason } });
    recorder.record(facts, settle);
  };
  if (opening && !safe) return <OpenStage bench={bench} recorder={recorder} purpose="cap" onBack={() => open(false)} />;
  if (state.dose && draft.panel === 'decide' && pending.facts.length === 0 && draft.job_type === null)
    return (
      <DoseSheet
        bench={bench}
        recorder={recorder}
        dose={state.dose}
        draft={draft}
        onChange={change}
        settle={settle}
        safe={safe}
        onOpen={() => open(true)}
      />
    );
  const toOpen = (draft.panel === 'sample' || draft.panel === 'checks') && !safe;
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={stateMarks(shown, state.plan?.coldest_c ?? bench.coldest_c)}
      drafted={
        touched &&
        (pending.facts.length > 0 || pending.waits !== null || draft.job_type !== null || draft.reason !== '')
      }
      refusal={recorder.refusal ?? (pending.facts.length > 0 ? preview.refusal : null)}
      go={
        pending.facts.length > 0 || pending.waits ? (
          <GoPlate
            act="Record what was found"
            then={{ sample: 'look at a sample', checks: 'the inside checks', decide: 'choose the job' }[after]}
            waits={pending.waits ?? (preview.refusal ? 'Fix the marked fields' : null)}
            busy={recorder.busy}
            onPress={() =>
              recorder.record(pending.facts, () => change((now) => ({ ...cleared(now, draft), panel: after })))
            }
          />
        ) : (
          advice && (
            <NextPlate
              state={state}
              advice={advice}
              draft={draft}
              toOpen={toOpen}
              onOpen={() => open(true)}
              inside={opens}
              live={live}
              leftOut={missing.length > 0 && inspection.skipped.length === 0}
              busy={recorder.busy || words === undefined /* what was left out is not known yet */}
              onLook={(panel) => change({ panel })}
              onDecide={(job_type) => decide(job_type, advice)}
              onSign={() => recorder.record([signedCheck(state, live)], settle)}
            />
          )
        )
      }
    >
      <Cautions bench={bench} at="inspect" />
      <h1 className="title">What is inside, and is anything wrong?</h1>
      <Seen bench={bench} words={words} />
      {shown.flags.map((flag) => (
        <p key={flag.code} className="ink2" data-testid="found-flag">
          <b>Look: </b>
          {sayIn(flag, units.system)}
        </p>
      ))}
      <div className="panelpick">
        <Segment
          label="Show"
          hideLabel
          value={draft.panel}
          options={[
            { value: 'outside', label: `Outside${count(outside.filter((row) => !made.has(row.check)))}` },
            { value: 'sample', label: 'Sample' },
            { value: 'checks', label: `Inside${count(inside.filter((row) => !made.has(row.check)))}` },
            { value: 'decide', label: 'Decide' },
          ]}
          onChange={(panel) => change({ panel })}
        />
      </div>
      {toOpen && (
        <p className="title" data-testid="to-open">
          This opens the loop. Check it is safe to open first.
        </p>
      )}
      {words && draft.panel === 'sample' && spots.length > 0 && (
        <SamplePanel spots={spots} words={words} draft={draft} onChange={change} />
      )}
      {draft.panel === 'outside' && (
        <ChecksPanel reading={false} rows={outside} advised={advised} draft={draft} onChange={change} />
      )}
      {draft.panel === 'checks' && safe && (
        <ChecksPanel reading rows={inside} advised={advised} draft={draft} onChange={change} />
      )}
      {draft.panel === 'decide' && state.isolated && state.inspection.job_type_chosen && (
        <Check label="Service mode ended, pump works again" checked={live} onChange={goLive} />
      )}
      {advice && draft.panel === 'decide' && (
        <DecidePanel
          advice={advice}
          missing={inspection.skipped.length > 0 ? [] : missing.map((row) => row.name)}
          draft={draft}
          finding={finding}
          onChange={change}
        />
      )}
    </StageFrame>
  );
}

const count = (rows: unknown[]): string => (rows.length > 0 ? `, ${rows.length} open` : '');

const signedCheck = (state: Schemas['LoopState'], live: boolean): Fact => ({
  kind: 'signed_off',
  facts: { proof: 'checked', reason: '', service_mode_ended: state.isolated && live },
});

interface PlateProps {
  toOpen: boolean;
  onOpen: () => void;
  /** Checks that open the loop. */
  inside: Set<Schemas['Check']>;
  state: Schemas['LoopState'];
  advice: Advice;
  draft: TestDraft;
  /** Checks were asked for and not made, and nobody said why yet. */
  leftOut: boolean;
  /** Service mode is ended. */
  live: boolean;
  busy: boolean;
  onLook: (panel: TestDraft['panel']) => void;
  onDecide: (job_type: Schemas['JobType']) => void;
  onSign: () => void;
}

/** With nothing left to record: on to the next look, the test that is asked for, and only then the decision. */
function NextPlate({ onLook, toOpen, onOpen, inside, ...rest }: PlateProps) {
  const { advice, draft } = rest;
  const [test] = advice.tests;
  if (draft.panel === 'outside')
    return <GoPlate act="Next: sample" then="check it is safe to open first" onPress={() => onLook('sample')} />;
  if (toOpen) return <GoPlate act="Check it is safe to open" then="look at a sample" onPress={onOpen} />;
  if (draft.panel === 'sample')
    return <GoPlate act="Next: inside checks" then="choose the job" onPress={() => onLook('checks')} />;
  if (draft.panel === 'checks')
    return (
      <GoPlate
        act="Choose the job"
        then={`advised: ${JOB_TYPE[advice.job_type].toLowerCase()}`}
        onPress={() => onLook('decide')}
      />
    );
  if (test && draft.job_type === null && !rest.state.inspection.job_type_chosen)
    return (
      <GoPlate
        act={`Test: ${test.name.toLowerCase()}`}
        then="needed to choose the job"
        onPress={() => onLook(inside.has(test.check) ? 'checks' : 'outside')}
      />
    );
  return <DecidePlate {...rest} />;
}

function DecidePlate({
  state,
  advice,
  draft,
  leftOut,
  live,
  busy,
  onDecide,
  onSign,
}: Omit<PlateProps, 'onLook' | 'toOpen' | 'onOpen' | 'inside'>) {
  if (state.inspection.job_type_chosen && state.job_type === 'check' && (draft.job_type ?? 'check') === 'check')
    return (
      <GoPlate
        act="Sign off the check"
        then="back to the board"
        waits={state.isolated && !live ? 'End service mode, then tick it' : null}
        busy={busy}
        onPress={onSign}
      />
    );
  const job_type = draft.job_type ?? advice.job_type;
  const against = job_type !== advice.job_type;
  const after = { check: 'sign it off', dose: 'dose by the strips', top_up: 'pour, to the cold mark' }[
    job_type as string
  ];
  return (
    <GoPlate
      act={`${JOB_TYPE[job_type]}, ${against ? 'against advice' : 'as advised'}`}
      then={after ?? 'check it is safe, drain'}
      waits={
        against && draft.reason.trim() === ''
          ? 'Say why, against advice'
          : leftOut && draft.leftOut === ''
            ? 'Not checked: say why'
            : null
      }
      busy={busy}
      onPress={() => onDecide(job_type)}
    />
  );
}

/** What was recorded on this test, each with its photos. */
function Seen({ bench, words }: { bench: Schemas['Bench']; words: Schemas['InspectionWords'] | undefined }) {
  const units = useUnits();
  const { seen } = bench.state.inspection;
  if (seen.length === 0) return null;
  return (
    <ul className="seen" aria-label="Recorded findings">
      {seen.map((row, i) => {
        const text = row.sampled
          ? sampleWords(row.sampled, words)
          : row.tested
            ? testWords(row.tested, words, units)
            : '';
        return (
          <li key={row.entry_id}>
            <span>
              <span className="nr">{i + 1}</span> {text}
            </span>
            {row.sampled && (
              <Photos
                loopId={bench.loop.id}
                entryId={row.entry_id}
                photos={bench.photos}
                open={bench.state.signed_at === null}
                what={text}
              />
            )}
          </li>
        );
      })}
    </ul>
  );
}
