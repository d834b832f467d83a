import { useQuery } from '@tanstack/react-query';
import { usePreview } from '../../api/calculators';
import type { Schemas } from '../../api/client';
import { inspectionOptions } from '../../api/queries';
import type { StageProps } from '../../bench/BenchPage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { GoPlate } from '../../parts/GoPlate';
import { Segment } from '../../parts/Segment';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../words/say';
import { ROUTE } from '../../words/trade';
import { Cautions } from '../Cautions';
import { ChecksPanel } from './ChecksPanel';
import { DecidePanel } from './DecidePanel';
import { EMPTY, pendingOf, RECORDED, type TestDraft } from './draft';
import { Photos } from './Photos';
import { SamplePanel } from './SamplePanel';
import './test.css';
import { sampleWords, testWords } from './words';

type Advice = Schemas['Advice'];

/** What is in it, and is anything wrong? Looked at, recorded, judged; the person decides the route. */
export function TestStage({ bench, recorder }: StageProps) {
  const units = useUnits();
  const { state, loop } = bench;
  const { inspection } = state;
  const words = useQuery(inspectionOptions).data;
  const { draft, change, settle, touched } = useDraft<TestDraft>(bench, 'test', EMPTY);
  const made = new Set(inspection.seen.map((row) => row.tested?.check));
  const pending = pendingOf(draft, words?.checks ?? [], units.system);
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
  const after = draft.panel === 'sample' && missing.length > 0 ? 'checks' : 'decide';

  const finding = (entryId: string): number | null => {
    const at = inspection.seen.findIndex((row) => row.entry_id === entryId);
    return at < 0 ? null : at + 1;
  };
  const decide = (route: Schemas['Route'], counsel: Advice) => {
    const facts: Fact[] = [];
    if (missing.length > 0 && inspection.skipped.length === 0)
      facts.push({ kind: 'skipped', facts: { checks: missing.map((row) => row.check), reason: draft.leftOut } });
    facts.push({ kind: 'routed', facts: { route, advised: counsel.route, reason: draft.reason } });
    recorder.record(facts, settle);
  };
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={stateMarks(shown, state.plan?.coldest_c ?? bench.coldest_c)}
      drafted={
        touched && (pending.facts.length > 0 || pending.waits !== null || draft.route !== null || draft.reason !== '')
      }
      refusal={recorder.refusal ?? (pending.facts.length > 0 ? preview.refusal : null)}
      go={
        pending.facts.length > 0 || pending.waits ? (
          <GoPlate
            act="Record what was found"
            then={after === 'checks' ? 'the checks' : 'decide the route'}
            waits={pending.waits ?? (preview.refusal ? 'Correct what is refused' : null)}
            busy={recorder.busy}
            onPress={() => recorder.record(pending.facts, () => change({ ...RECORDED, panel: after }))}
          />
        ) : (
          advice && (
            <NextPlate
              state={state}
              advice={advice}
              draft={draft}
              busy={recorder.busy}
              onLook={(panel) => change({ panel })}
              onDecide={(route) => decide(route, advice)}
              onSign={() => recorder.record([{ kind: 'signed_off', facts: { proof: 'checked', reason: '' } }], settle)}
            />
          )
        )
      }
    >
      <Cautions cautions={bench.cautions} />
      <h1 className="title">What is in it, and is anything wrong?</h1>
      <Seen bench={bench} words={words} />
      {shown.flags.map((flag) => (
        <p key={flag.code} className="ink2" data-testid="found-flag">
          <b>Look: </b>
          {sayIn(flag, units.system)}
        </p>
      ))}
      <div className="panelpick">
        <Segment
          label="What to show"
          hideLabel
          value={draft.panel}
          options={[
            { value: 'sample', label: 'Look at a sample' },
            { value: 'checks', label: `Checks${missing.length ? `, ${missing.length} open` : ''}` },
            { value: 'decide', label: 'Decide' },
          ]}
          onChange={(panel) => change({ panel })}
        />
      </div>
      {words && draft.panel === 'sample' && <SamplePanel words={words} draft={draft} onChange={change} />}
      {draft.panel === 'checks' && <ChecksPanel rows={rows} advised={advised} draft={draft} onChange={change} />}
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

interface PlateProps {
  state: Schemas['LoopState'];
  advice: Advice;
  draft: TestDraft;
  busy: boolean;
  onLook: (panel: TestDraft['panel']) => void;
  onDecide: (route: Schemas['Route']) => void;
  onSign: () => void;
}

/** With nothing left to record: on to the next look, the test that is asked for, and only then the decision. */
function NextPlate({ onLook, ...rest }: PlateProps) {
  const { advice, draft } = rest;
  const [test] = advice.tests;
  if (draft.panel === 'sample')
    return <GoPlate act="On to the checks" then="decide the route" onPress={() => onLook('checks')} />;
  if (draft.panel === 'checks')
    return (
      <GoPlate
        act="Decide the route"
        then={`counselled: ${ROUTE[advice.route].toLowerCase()}`}
        onPress={() => onLook('decide')}
      />
    );
  if (test && draft.route === null && !rest.state.inspection.routed)
    return (
      <GoPlate act={`Test: ${test.name.toLowerCase()}`} then="it decides the route" onPress={() => onLook('checks')} />
    );
  return <DecidePlate {...rest} />;
}

function DecidePlate({ state, advice, draft, busy, onDecide, onSign }: Omit<PlateProps, 'onLook'>) {
  if (state.inspection.routed && state.route === 'check' && (draft.route ?? 'check') === 'check')
    return <GoPlate act="Sign off the check" then="back to the board" busy={busy} onPress={onSign} />;
  const route = draft.route ?? advice.route;
  const against = route !== advice.route;
  const after = { check: 'sign it off', top_up: 'pour, to the cold mark' }[route as string];
  return (
    <GoPlate
      act={`${ROUTE[route]}, ${against ? 'against the counsel' : 'as counselled'}`}
      then={after ?? 'open it cold, drain'}
      waits={against && draft.reason.trim() === '' ? 'Say why, against the counsel' : null}
      busy={busy}
      onPress={() => onDecide(route)}
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
