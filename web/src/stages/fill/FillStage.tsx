import type { Schemas } from '../../api/client';
import { usePreview } from '../../api/calculators';
import type { StageProps } from '../../bench/BenchPage';
import { strengthTag } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { Check } from '../../parts/Check';
import { ClockKey } from '../../waiting/ClockKey';
import { GoPlate } from '../../parts/GoPlate';
import { IntervalMark } from '../../parts/icons';
import { QuantityField } from '../../parts/QuantityField';
import { Segment } from '../../parts/Segment';
import { parseTyped, type Typed, typedFrom } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../words/say';

interface FillDraft {
  product: Typed;
  water: Typed;
  kind: Schemas['Water'];
  atMark: boolean;
}

const WATERS = [
  { value: 'demineralised', label: 'demineralised' },
  { value: 'tap', label: 'tap' },
] as const;

/** What was really poured, which may differ from the plan; what the loop then comes to follows at once. */
export function FillStage({ bench, recorder }: StageProps) {
  const { system, volume, temperature } = useUnits();
  const { state, loop } = bench;
  const plan = state.plan;
  const { draft, change, settle, touched } = useDraft<FillDraft>(bench, 'fill', {
    product: typedFrom(state.poured.left_product_l, 'volume', system),
    water: typedFrom(state.poured.left_water_l, 'volume', system),
    kind: 'demineralised',
    atMark: false,
  });
  const product = parseTyped(draft.product, 'volume', system);
  const water = parseTyped(draft.water, 'volume', system);
  const bad = (!product.ok && !product.empty) || (!water.ok && !water.empty);
  const [productL, waterL] = [product.ok ? product.base : 0, water.ok ? water.base : 0];
  const facts: Fact[] | null =
    plan && !bad && productL + waterL > 0
      ? [
          {
            kind: 'poured',
            facts: {
              product_id: productL > 0 ? Number(plan.product.id) : null,
              product_l: productL,
              water_l: waterL,
              water: draft.kind,
              at_mark: draft.atMark,
            },
          },
        ]
      : null;
  const preview = usePreview(loop.id, state.last_entry_id, facts && asPreview(facts));
  const shown = facts && preview.answer && !preview.refusal ? preview.answer.state : state;
  const topUp = state.route === 'top_up';
  const letters = (loop.layout.drains ?? []).map((drain) => drain.letter).join(' and ');
  const waits = bad || preview.refusal ? 'Correct the litres first' : facts ? null : 'How many litres went in?';
  const act = [productL > 0 ? volume(productL) : '', waterL > 0 ? volume(waterL) : ''].filter(Boolean).join(' + ');
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={{
        coldest: plan?.coldest_c ?? null,
        now: shown.claim.freeze_c,
        target: plan?.target_freeze_c ?? null,
        strength: shown.inside.strength_percent === null ? '' : strengthTag(shown.inside.strength_percent),
        likely: shown.predicted_likely_c,
        safe: shown.predicted_safe_c,
      }}
      drafted={touched}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={act ? `Record ${act} poured` : 'Record the pour'}
          then={draft.atMark ? 'run hot, cool, read' : 'pour on to the cold mark'}
          waits={waits}
          busy={recorder.busy}
          onPress={() => facts && recorder.record(facts, settle)}
        />
      }
    >
      <h1 className="title">
        {letters && !topUp ? `Shut ${letters}. ` : ''}
        {state.next_action ? sayIn(state.next_action.act, system) : 'Pour'}
      </h1>
      <p className="ink2">
        {topUp
          ? 'Cold only, and never on a loop under pressure. Plain water thins it: the same mix as inside keeps it as it is.'
          : `${volume(state.poured.room_l)} of room up to the cold mark. If poured one after the other: all the concentrate before the last of the water.`}
      </p>
      <div className="row" style={{ alignItems: 'flex-start' }}>
        <QuantityField
          name="product"
          label={`Really poured, ${plan?.product.name ?? 'product'}`}
          kind="volume"
          size="huge"
          typed={draft.product}
          refused={preview.refusal?.message}
          onChange={(typed) => change({ product: typed })}
        />
        <QuantityField
          name="water"
          label="Really poured, water"
          kind="volume"
          size="huge"
          typed={draft.water}
          onChange={(typed) => change({ water: typed })}
        />
        <Segment label="Which water" value={draft.kind} options={WATERS} onChange={(kind) => change({ kind })} />
      </div>
      <div className="row">
        <Check
          label="The level stands at the cold mark"
          detail="cold, engine off; no more goes in"
          checked={draft.atMark}
          onChange={(atMark) => change({ atMark })}
        />
      </div>
      <div className="row">
        <ClockKey bench={bench} recorder={recorder} clock="vacuum_hold" minutes={bench.policy.vacuum_hold_min ?? 10} />
      </div>
      {draft.kind === 'tap' && (
        <p style={{ paddingTop: 8 }}>Tap water brings minerals in with it: demineralised is the safer last water.</p>
      )}
      {facts && <Outcome state={shown} plan={plan} temperature={temperature} />}
      {shown.flags.map((flag) => (
        <p key={flag.code} className="refusal" style={{ marginTop: 10 }}>
          <b>Look: </b>
          {sayIn(flag, system)}
        </p>
      ))}
      <div className="facts push">
        <div>
          <i className="tape" />
          <span>{sayIn(shown.claim.said, system)}</span>
        </div>
      </div>
    </StageFrame>
  );
}

interface OutcomeProps {
  state: Schemas['LoopState'];
  plan: Schemas['PlanState'] | null;
  temperature: (celsius: number, decimals?: number) => string;
}

function Outcome({ state, plan, temperature }: OutcomeProps) {
  const at = state.predicted_freeze_c;
  const likely = state.predicted_likely_c;
  if (at === null || !likely) return null;
  const target = plan?.target_freeze_c ?? null;
  const off = target === null ? 0 : at - target;
  return (
    <div className="answers">
      <div className="answer">
        <span className="big num" data-testid="predicted">
          {temperature(at).replace(/ .*/, '')}
        </span>
        <span className="pm">
          <span />
          <span className="unit">{temperature(at).replace(/.* /, '')}</span>
        </span>
        <span className="cap">once mixed, predicted</span>
      </div>
      <div style={{ minWidth: 0, maxWidth: 320, fontSize: 18 }}>
        <p>
          <span style={{ float: 'left', paddingRight: 8 }}>
            <IntervalMark />
          </span>
          Likely {temperature(likely.low, 0)} to {temperature(likely.high, 0)}
          {state.predicted_safe_c !== null && `; safe to about ${temperature(state.predicted_safe_c, 0)}`}.
        </p>
        {target !== null && Math.abs(off) > 1 && (
          <p className="hot" style={{ fontWeight: 700 }}>
            {off > 0 ? 'Weaker' : 'Stronger'} than the plan ({temperature(target, 0)}).
          </p>
        )}
      </div>
    </div>
  );
}
