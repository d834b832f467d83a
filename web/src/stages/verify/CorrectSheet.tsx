import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { usePreview } from '../../api/calculators';
import { sessionOptions } from '../../api/queries';
import type { StageProps } from '../../bench/stage';
import { strengthTag } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { GoPlate } from '../../controls/GoPlate';
import { QuantityField } from '../../controls/QuantityField';
import { parseTyped, type Typed, typedFrom } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { standsFor } from '../open/gate';
import { OpenStage } from '../open/OpenStage';
import { OutOf } from '../fill/OutOf';
import { Outcome } from '../fill/Outcome';

interface Props extends StageProps {
  onBack: () => void;
}

interface CorrectDraft {
  out: Typed;
  product: Typed;
  water: Typed;
  canId: string;
}

/** Some out, something else in, up to the mark: behind the gate, for the loop has run hot. */
export function CorrectSheet({ bench, recorder, onBack }: Props) {
  const me = useQuery(sessionOptions).data?.person?.id;
  const { gate } = bench.state;
  if (!standsFor(gate, me, 'drain')) return <OpenStage bench={bench} recorder={recorder} onBack={onBack} />;
  return <Swap bench={bench} recorder={recorder} onBack={onBack} />;
}

function Swap({ bench, recorder, onBack }: Props) {
  const { system, volume, temperature } = useUnits();
  const { state, loop } = bench;
  const plan = state.correction;
  const { draft, change, settle, touched } = useDraft<CorrectDraft>(
    bench,
    'verify',
    {
      out: typedFrom(plan?.out_l ?? 0, 'volume', system),
      product: typedFrom(plan?.product_l ?? 0, 'volume', system),
      water: typedFrom(plan?.water_l ?? 0, 'volume', system),
      canId: '',
    },
    'correct',
  );
  const [out, product, water] = [draft.out, draft.product, draft.water].map((typed) =>
    parseTyped(typed, 'volume', system),
  ) as [ReturnType<typeof parseTyped>, ReturnType<typeof parseTyped>, ReturnType<typeof parseTyped>];
  const bad = [out, product, water].some((row) => !row.ok && !row.empty);
  const [outL, productL, waterL] = [out, product, water].map((row) => (row.ok ? row.base : 0)) as [
    number,
    number,
    number,
  ];
  const facts: Fact[] | null =
    state.plan && !bad && outL > 0 && productL + waterL > 0
      ? [
          {
            kind: 'strength_adjusted',
            facts: {
              out_l: outL,
              product_id: productL > 0 ? Number(state.plan.product.id) : null,
              product_l: productL,
              water_l: waterL,
              taken: productL > 0 && draft.canId !== '' ? [{ can_id: Number(draft.canId), litres: productL }] : [],
            },
          },
        ]
      : null;
  const preview = usePreview(loop.id, state.last_entry_id, facts && asPreview(facts));
  const shown = facts && preview.answer && !preview.refusal ? preview.answer.state : state;
  const waits = bad || preview.refusal ? 'Fix the litres' : facts ? null : 'How much out, and what in?';
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={{
        coldest: state.plan?.coldest_c ?? null,
        target: state.plan?.target_freeze_c ?? null,
        likely: shown.predicted_likely_c,
        safe: shown.predicted_safe_c,
        now: shown.claim.freeze_c,
        strength: shown.inside.strength_percent === null ? '' : strengthTag(shown.inside.strength_percent),
      }}
      drafted={touched}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={outL > 0 ? `Record ${volume(outL)} out, ${volume(productL + waterL)} in` : 'Record the swap'}
          then="run it hot, cool, read again"
          waits={waits}
          busy={recorder.busy}
          onPress={() => facts && recorder.record(facts, () => (settle(), onBack()))}
        />
      }
    >
      <h1 className="title">{plan ? sayIn(plan.said, system) : 'Swap some coolant'}</h1>
      <p className="ink2">Drain the mixed coolant, then fill to the cold mark. What you drain is waste.</p>
      <div className="row pourrow">
        <QuantityField
          name="swap-out"
          label="Taken out"
          kind="volume"
          size="huge"
          typed={draft.out}
          refused={preview.refusal?.message}
          onChange={(typed) => change({ out: typed })}
        />
        <QuantityField
          name="swap-product"
          label={`In, ${state.plan?.product.name ?? 'product'}`}
          kind="volume"
          size="huge"
          typed={draft.product}
          onChange={(typed) => change({ product: typed })}
        />
        <QuantityField
          name="swap-water"
          label="In, water"
          kind="volume"
          size="huge"
          typed={draft.water}
          onChange={(typed) => change({ water: typed })}
        />
      </div>
      {productL > 0 && state.plan && (
        <OutOf productId={state.plan.product.id} picked={draft.canId} onPick={(canId) => change({ canId })} />
      )}
      {facts && <Outcome state={shown} plan={state.plan} temperature={temperature} />}
      <div className="row">
        <ButtonBase className="key small" onClick={onBack}>
          Back to the reading
        </ButtonBase>
      </div>
    </StageFrame>
  );
}
