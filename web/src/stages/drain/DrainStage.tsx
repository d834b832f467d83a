import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import { usePreview } from '../../api/calculators';
import type { StageProps } from '../../bench/BenchPage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { AnswerNumber } from '../../parts/AnswerNumber';
import { CountStepper } from '../../parts/CountStepper';
import { GoPlate } from '../../parts/GoPlate';
import { QuantityField } from '../../parts/QuantityField';
import { Segment } from '../../parts/Segment';
import { parseTyped, type Parsed, type Typed } from '../../units/parse';
import { number, type System } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { MEASURED } from '../../words/trade';

type Measured = Schemas['Measured'];

interface DrainDraft {
  mode: 'all' | 'vessels';
  total: Typed;
  vessels: Record<string, Typed>;
  measured: Measured;
  rinses: number;
}

const EMPTY: Typed = { text: '', unit: 'l' };
const MEASURED_OPTIONS = (Object.keys(MEASURED) as Measured[]).map((value) => ({ value, label: MEASURED[value] }));
const MODES = [
  { value: 'all', label: 'in all' },
  { value: 'vessels', label: 'per vessel' },
] as const;

const RAN: Record<Schemas['Ran'], string> = { engine: 'Engine ran since', preheater: 'Preheater ran since' };

/** What may have warmed it since it was felt: the preheater only where there is one. */
const warmers = (gate: Schemas['Gate']): Schemas['Ran'][] => [
  'engine',
  ...(gate.asked.some((row) => row.ready === 'preheater_off') ? (['preheater'] as const) : []),
];

interface Asked {
  litres: number | null;
  byVessel: Record<string, number>;
  bad: boolean;
}

function ask(draft: DrainDraft, system: System): Asked {
  if (draft.mode === 'all') {
    const parsed = parseTyped(draft.total, 'volume', system);
    return { litres: parsed.ok ? parsed.base : null, byVessel: {}, bad: !parsed.ok && !parsed.empty };
  }
  const parsed: [string, Parsed][] = Object.entries(draft.vessels).map(([id, typed]) => [
    id,
    parseTyped(typed, 'volume', system),
  ]);
  const byVessel = Object.fromEntries(parsed.flatMap(([id, value]) => (value.ok ? [[id, value.base] as const] : [])));
  const bad = parsed.some(([, value]) => !value.ok && !value.empty);
  const litres = Object.values(byVessel);
  return { litres: litres.length ? litres.reduce((sum, value) => sum + value, 0) : null, byVessel, bad };
}

/** How much came out, in all or per vessel; what is still inside follows at once, drawn and in figures. */
export function DrainStage({ bench, recorder }: StageProps) {
  const { system, volume } = useUnits();
  const { state, loop } = bench;
  const { draft, change, settle, touched } = useDraft<DrainDraft>(bench, 'drain', {
    mode: 'all',
    total: EMPTY,
    vessels: {},
    measured: 'weighed',
    rinses: 0,
  });
  const asked = ask(draft, system);
  const facts: Fact[] | null =
    asked.litres === null || asked.bad
      ? null
      : [
          {
            kind: 'drained',
            facts: {
              drained_l: asked.litres,
              measured: draft.measured,
              by_vessel: asked.byVessel,
              rinses: draft.rinses,
            },
          },
        ];
  const preview = usePreview(loop.id, state.last_entry_id, facts && asPreview(facts));
  const refused = preview.refusal?.message;
  const shown = facts && preview.answer ? preview.answer.state : state;
  const drains = (loop.layout.drains ?? []).map((drain) => drain.letter).join(' and ');
  const waits =
    asked.bad || refused ? 'Correct the litres first' : asked.litres === null ? 'How many litres came out?' : null;
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={stateMarks(shown, state.plan?.coldest_c ?? null)}
      drafted={touched}
      refusal={recorder.refusal}
      drainsNext
      go={
        <GoPlate
          act={asked.litres === null ? 'Record what came out' : `Record ${volume(asked.litres)} out`}
          then="Mix, on top of what stays inside"
          waits={waits}
          busy={recorder.busy}
          onPress={() => facts && recorder.record(facts, settle)}
        />
      }
    >
      <div className="facts" style={{ borderTop: 0 }}>
        <div>
          <i className="tape" />
          <span>
            <b>Rag over the cap, slowly to the first stop,</b> wait until the hissing ends.
            {loop.high_voltage && ' High voltage: trained people only.'}
          </span>
          {warmers(state.gate).map((by) => (
            <ButtonBase
              key={by}
              className="key small"
              aria-disabled={recorder.busy}
              onClick={() => recorder.record([{ kind: 'engine_run', facts: { by } }])}
            >
              {RAN[by]}
            </ButtonBase>
          ))}
        </div>
      </div>
      <h1 className="title">
        {drains
          ? `Drain at ${drains}, open the cap for air, and measure what comes out`
          : 'Drain, and measure what comes out'}
      </h1>
      <div className="row" style={{ alignItems: 'flex-start' }}>
        <Segment label="Litres known" value={draft.mode} options={MODES} onChange={(mode) => change({ mode })} />
        <Segment
          label="How measured"
          value={draft.measured}
          options={MEASURED_OPTIONS}
          onChange={(measured) => change({ measured })}
        />
      </div>
      <div className="row" style={{ alignItems: 'flex-start' }}>
        {draft.mode === 'all' ? (
          <QuantityField
            name="drained"
            label="Came out"
            kind="volume"
            size="huge"
            typed={draft.total}
            refused={refused}
            onChange={(total) => change({ total })}
          />
        ) : (
          <div className="vessels fill">
            {state.vessels.map((vessel) => (
              <QuantityField
                key={vessel.id}
                name={`drained-${vessel.id}`}
                label={`${vessel.name}, ${volume(vessel.litres)} in it`}
                kind="volume"
                typed={draft.vessels[vessel.id] ?? EMPTY}
                refused={preview.refusal?.field.endsWith(`.${vessel.id}`) ? refused : undefined}
                onChange={(typed) => change({ vessels: { ...draft.vessels, [vessel.id]: typed } })}
              />
            ))}
          </div>
        )}
        <CountStepper
          label="Water rinses after it, run hot, same litres out each time"
          name="rinses"
          value={draft.rinses}
          most={20}
          onChange={(rinses) => change({ rinses })}
        />
      </div>
      {facts && !refused && <Left state={shown} bench={bench} />}
      <div className="facts push">
        <div>
          <i className="tape" />
          <span>
            <b>Poison, and it tastes sweet.</b> Catch all of it, lid it, label it. Local rules decide where the old
            stuff goes.
          </span>
        </div>
      </div>
    </StageFrame>
  );
}

/** What stays: litres with their spread, and how much of the old the finished loop would hold. */
function Left({ state, bench }: { state: Schemas['LoopState']; bench: Schemas['Bench'] }) {
  const { inside } = state;
  const choice = bench.choices.find((row) => row.product.id === Number(state.plan?.product.id));
  const limit = choice?.judged.old_limit_percent ?? null;
  const over = limit !== null && inside.finished_old_percent > limit;
  return (
    <div className="answers">
      <AnswerNumber litres={inside.litres} spread={1.96 * inside.sd_l} caption="still inside" />
      <div style={{ maxWidth: 340, minWidth: 0 }}>
        <p className={over ? 'hot' : ''} style={{ fontSize: 20, fontWeight: 700 }}>
          The finished loop would hold {number(inside.finished_old_percent, 1)} % old
        </p>
        <p className="ink2">
          {limit === null
            ? 'Same chemistry goes in: no limit applies.'
            : over
              ? `Over the limit of ${number(limit, 0)} %: rinse again, or the life of the new coolant falls to the shorter.`
              : `Under the limit of ${number(limit, 0)} %.`}
        </p>
      </div>
    </div>
  );
}
