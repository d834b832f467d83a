import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import { usePreview } from '../../api/calculators';
import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { AnswerNumber } from '../../controls/AnswerNumber';
import { HowSure } from '../../controls/HowSure';
import { Check } from '../../controls/Check';
import { GoPlate } from '../../controls/GoPlate';
import { QuantityField } from '../../controls/QuantityField';
import { Refusal } from '../../controls/Refusal';
import { Segment } from '../../controls/Segment';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { MEASURED, RAN } from '../../language/names';
import { Cautions } from '../../bench/Cautions';
import { CaughtRows } from './CaughtRows';
import './drain.css';
import { askDrain, type DrainDraft, startDrain } from './draft';

type Measured = Schemas['Measured'];

const MEASURED_OPTIONS = (Object.keys(MEASURED) as Measured[]).map((value) => ({ value, label: MEASURED[value] }));
const MODES = [
  { value: 'weighed', label: 'weighed' },
  { value: 'marks', label: 'by marks' },
  { value: 'contents_reported', label: 'litres known' },
] as const;

/** What may have warmed it since it was felt: the preheater only where there is one. */
const warmers = (gate: Schemas['Gate']): Schemas['Ran'][] => [
  'engine',
  ...(gate.asked.some((row) => row.ready === 'preheater_off') ? (['preheater'] as const) : []),
];

/** Which container a refusal speaks of. */
function refusedCaught(refusal: { field: string; message: string } | null | undefined) {
  const index = /caught\.(\d+)\./.exec(refusal?.field ?? '')?.[1];
  return refusal && index !== undefined ? { index: Number(index), message: refusal.message } : null;
}

/** What came out, point by point and by weight, by marks, or as known; what is still inside follows at once. */
export function DrainStage({ bench, recorder }: StageProps) {
  const { system, volume } = useUnits();
  const { state, loop, drain } = bench;
  const round = state.flush?.step === 'plan' ? null : (state.flush?.rounds.at(-1) ?? null);
  const { draft, change, settle, touched } = useDraft<DrainDraft>(
    bench,
    round ? 'flush' : 'drain',
    startDrain(drain),
    round?.entry_id,
  );
  const asked = askDrain(draft, system);
  const facts: Fact[] | null = asked.facts && [{ kind: 'drained', facts: asked.facts }];
  const preview = usePreview(loop.id, state.last_entry_id, facts && asPreview(facts));
  const shown = facts && preview.answer && !preview.refusal ? preview.answer.state : state;
  const refused = facts ? preview.refusal : null;
  const out = facts && !refused ? outOf(shown) : null;
  const drains = (loop.layout.drains ?? []).map((row) => row.letter).join(' and ');
  const waits = asked.bad || refused ? 'Fix the marked fields' : facts ? null : (asked.asks ?? 'How much was drained?');
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={stateMarks(shown, state.plan?.coldest_c ?? null)}
      drafted={touched}
      firstField={drain.points[0] ? `gross-${drain.points[0].where}-0` : undefined}
      refusal={recorder.refusal}
      drainsNext
      go={
        <GoPlate
          act={out === null ? 'Record litres drained' : `Record ${volume(out)} out`}
          then={state.job_type === 'change_type' || state.job_type === 'clean' ? 'look at a sample' : 'plan the mix'}
          waits={waits}
          asks=".caught input, .huge input"
          busy={recorder.busy || (facts !== null && out === null && !refused)}
          onPress={() => facts && recorder.record(facts, settle)}
        />
      }
    >
      <Cautions bench={bench} at="drain" />
      <div className="facts" style={{ borderTop: 0 }}>
        <div>
          <i className="tape" />
          <span>
            <b>Put a rag over the cap, turn slowly to the first stop,</b> wait until the hissing ends.
          </span>
          {warmers(state.gate).map((by) => (
            <ButtonBase
              key={by}
              className="key small"
              aria-disabled={recorder.busy}
              onClick={() => recorder.record([{ kind: 'engine_run', facts: { by, neck_open: false } }])}
            >
              {RAN[by]}
            </ButtonBase>
          ))}
        </div>
      </div>
      <div className="drainhead">
        <div>
          <h1 className="title">
            {round ? `Round ${round.number}: drain` : 'Drain'}
            {drains && ` at ${drains}`}, and measure what you drain
          </h1>
          <p className="ink2">{drain.hints.map((hint) => sayIn(hint, system)).join(' ')}</p>
          <div className="row" style={{ alignItems: 'flex-end' }}>
            <Segment label="Measured" value={draft.mode} options={MODES} onChange={(mode) => change({ mode })} />
            {draft.mode === 'marks' && (
              <QuantityField
                name="at"
                label="The fluid is at"
                kind="temperature"
                typed={draft.at}
                onChange={(at) => change({ at })}
              />
            )}
            {draft.mode === 'contents_reported' ? (
              <Segment
                label="That is"
                value={draft.measured}
                options={MEASURED_OPTIONS}
                onChange={(measured) => change({ measured })}
              />
            ) : (
              <QuantityField
                name="spilled"
                label="Spilled, about"
                kind="volume"
                typed={draft.spilled}
                onChange={(spilled) => change({ spilled })}
              />
            )}
          </div>
        </div>
        {out !== null && <Left state={shown} bench={bench} out={out} />}
      </div>
      <HowSure state={shown} of={['inside']} />
      {draft.mode === 'contents_reported' ? (
        <div className="row">
          <QuantityField
            name="drained"
            label="Drained in total"
            kind="volume"
            size="huge"
            typed={draft.total}
            refused={refused?.message}
            onChange={(total) => change({ total })}
          />
        </div>
      ) : (
        <CaughtRows
          drain={drain}
          draft={draft}
          refused={refusedCaught(refused)}
          onChange={(next) => change((before) => ({ caught: next(before.caught) }))}
        />
      )}
      {draft.mode !== 'contents_reported' && refused && !refusedCaught(refused) && <Refusal which={refused.message} />}
      <div className="facts push">
        <div>
          <Check label="Drained freely with the cap on" checked={draft.capOn} onChange={(capOn) => change({ capOn })} />
        </div>
      </div>
    </StageFrame>
  );
}

/** Litres of the drain that is being recorded. */
const outOf = (state: Schemas['LoopState']): number | null => state.flush?.rounds.at(-1)?.out_l ?? state.drained_l;

/** What stays: litres with their spread, and how much of the old the finished loop would hold. */
function Left({ state, bench, out }: { state: Schemas['LoopState']; bench: Schemas['Bench']; out: number }) {
  const { volume } = useUnits();
  const { inside } = state;
  const choice = bench.choices.find((row) => row.product.id === Number(state.plan?.product.id));
  const limit = choice?.judged.old_limit_percent ?? null;
  const over = limit !== null && inside.finished_old_percent > limit;
  return (
    <div className="drainleft">
      <AnswerNumber
        second
        litres={inside.litres}
        spread={inside.half_l ?? 0}
        caption={`still inside; ${volume(out)} drained`}
      />
      <div>
        <p className={over ? 'hot' : ''} style={{ fontWeight: 700 }}>
          After refill the loop holds {number(inside.finished_old_percent, 1)} % old
        </p>
        <p className="ink2">
          {limit === null
            ? 'Same coolant type: old coolant may stay. Its age still counts.'
            : over
              ? `Over the limit of ${number(limit, 0)} %: rinse, or the new coolant lasts only as long as the shorter-lived one.`
              : `Under the limit of ${number(limit, 0)} %.`}
        </p>
      </div>
    </div>
  );
}
