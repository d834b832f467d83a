import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { usePreview } from '../../api/calculators';
import type { Schemas } from '../../api/client';
import { catalogueOptions } from '../../api/queries';
import type { StageProps } from '../../bench/stage';
import { strengthTag } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { Check } from '../../controls/Check';
import { GoPlate } from '../../controls/GoPlate';
import { QuantityField } from '../../controls/QuantityField';
import { Segment } from '../../controls/Segment';
import { parseTyped, typedFrom } from '../../units/parse';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { Cautions } from '../../bench/Cautions';
import { CansLeft } from './CansLeft';
import type { FillDraft } from './draft';
import { Methods } from './Methods';
import { HowSure } from '../../controls/HowSure';
import { OutOf } from './OutOf';
import { Outcome } from './Outcome';
import { PourLedger } from './PourLedger';
import { SlipPanel } from './SlipPanel';
import { lastWater } from './topUp';

type Kind = FillDraft['kind'];
const WATERS: { value: Kind; label: string }[] = [
  { value: 'demineralised', label: 'demineralised' },
  { value: 'tap', label: 'tap' },
];

/** What water may go into a mix: demineralised, tap, and what the depot has whose analysis passes. */
function useMixingWaters(): { value: Kind; label: string }[] {
  const listed = useQuery(catalogueOptions).data?.waters ?? [];
  const fit = listed.filter((row) => row.kind !== 'demineralised' && row.judged.verdict === 'fit');
  return [...WATERS, ...fit.map((row) => ({ value: `of ${row.id}` as const, label: row.name }))];
}

/** What still has to go in: the new plan after a slip (or the best there is), else what is left of the accepted one. */
export function toPour(state: Schemas['LoopState']): { product: number; water: number } {
  const again = state.fill?.slip?.replan;
  if (again) return { product: again.product_l, water: again.water_l };
  return { product: state.poured.left_product_l, water: state.poured.left_water_l };
}

/** What keeps the strength as it is, where it is known. */
const sameMix = (state: Schemas['LoopState']): string =>
  state.top_up_share === null
    ? ': the same mix keeps the strength'
    : `; the same strength is about ${number(100 * state.top_up_share, 0)}\u00a0% ${state.plan?.product.name ?? 'product'}, ` +
      `${number(100 - 100 * state.top_up_share, 0)}\u00a0% water`;

/** How it goes in, until somebody picks: as the last pour did, by the vacuum that was pulled, or as advised. */
export function wayOf(fill: Schemas['FillState'] | null): Schemas['FillMethod'] {
  const offered = (fill?.methods ?? []).map((row) => row.method);
  const last = fill?.pours.at(-1)?.method;
  const way = fill?.vacuum && !last ? 'vacuum' : last === 'vacuum' ? undefined : last;
  return way && offered.includes(way) ? way : (offered[0] ?? 'gravity');
}

/** What was really poured, which may differ from the plan; what is then in the loop follows at once. */
export function PourSheet({ bench, recorder }: StageProps) {
  const { system, volume, temperature } = useUnits();
  const { state, loop } = bench;
  const { plan, fill } = state;
  const left = toPour(state);
  const topUp = state.job_type === 'top_up';
  const { draft, change, settle, touched } = useDraft<FillDraft>(
    bench,
    'fill',
    {
      product: typedFrom(left.product, 'volume', system),
      water: typedFrom(left.water, 'volume', system),
      kind: lastWater(bench),
      atMark: false,
      method: wayOf(fill),
      point: '',
      mistake: false,
      productId: String(plan?.product.id ?? ''),
      canId: '',
      vacuum: { text: '', unit: 'kpa' },
      drop: { text: '', unit: 'kpa' },
      heldMin: '',
      loopC: { text: '', unit: 'degC' },
    },
    `pour ${fill?.pours.length ?? 0}`,
  );
  const pickCan = useCallback(
    (canId: string, productId: string | null) => change({ canId, ...(productId === null ? {} : { productId }) }),
    [change],
  );
  const waters = useMixingWaters();
  const product = parseTyped(draft.product, 'volume', system);
  const water = parseTyped(draft.water, 'volume', system);
  const bad = (!product.ok && !product.empty) || (!water.ok && !water.empty);
  const [productL, waterL] = [product.ok ? product.base : 0, water.ok ? water.base : 0];
  const poured = bench.choices.find((row) => String(row.product.id) === draft.productId)?.product ?? plan?.product;
  const points = bench.loop.layout.fill_points ?? [];
  const pointOk = draft.method !== 'points' || points.length < 2 || draft.point !== '';
  const facts: Fact[] | null =
    plan && !bad && productL + waterL > 0 && !(waterL > 0 && draft.kind === '') && pointOk
      ? [
          {
            kind: 'poured',
            facts: {
              product_id: productL > 0 ? Number(poured?.id) : null,
              product_l: productL,
              water_l: waterL,
              water: draft.kind === '' || draft.kind.startsWith('of ') ? null : (draft.kind as Schemas['Water']),
              water_id: draft.kind.startsWith('of ') && waterL > 0 ? Number(draft.kind.slice(3)) : null,
              at_mark: draft.atMark,
              method: draft.method,
              point: draft.method === 'points' && draft.point ? Number(draft.point) : null,
              mistake: draft.mistake,
              bleeding: false,
              taken: productL > 0 && draft.canId ? [{ can_id: Number(draft.canId), litres: productL }] : [],
            },
          },
        ]
      : null;
  const vacuumFirst = draft.method === 'vacuum' && fill?.vacuum?.answer.tight !== true;
  const preview = usePreview(loop.id, state.last_entry_id, facts && !vacuumFirst ? asPreview(facts) : null);
  const shown = facts && preview.answer && !preview.refusal ? preview.answer.state : state;
  const refused = vacuumFirst ? undefined : preview.refusal?.message;
  const waits = vacuumFirst
    ? 'First pull a vacuum and hold it'
    : bad || refused
      ? 'Fix the litres'
      : facts
        ? null
        : waterL > 0 && draft.kind === ''
          ? 'Which water went in?'
          : productL + waterL > 0 && !pointOk
            ? 'At which fill point?'
            : 'How many litres went in?';
  const act = [productL > 0 ? volume(productL) : '', waterL > 0 ? volume(waterL) : ''].filter(Boolean).join(' + ');
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={{
        coldest: plan?.coldest_c ?? null,
        now: shown.claim.freeze_c,
        target: plan?.target_freeze_c ?? null,
        // beside the target stands the result of this pour, never what happens to be inside before it
        strength:
          shown === state || shown.inside.strength_percent === null ? '' : strengthTag(shown.inside.strength_percent),
        likely: shown.predicted_likely_c,
        safe: shown.predicted_safe_c,
      }}
      drafted={touched}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={act ? `Record ${act} poured` : 'Record the pour'}
          then={draft.atMark ? (topUp ? 'run hot, cool, read' : 'bleed') : 'fill up to the cold mark'}
          waits={waits}
          busy={recorder.busy}
          onPress={() => facts && recorder.record(facts, settle)}
        />
      }
    >
      <Cautions bench={bench} at="fill" />
      <h1 className="title">{state.next_action ? sayIn(state.next_action.act, system) : 'Pour'}</h1>
      <SlipPanel state={state} recorder={recorder} />
      <p className="ink2">
        {topUp
          ? `Only when cold, never under pressure. Plain water dilutes it${sameMix(state)}.`
          : `${volume(state.poured.room_l)} of room up to the cold mark. If poured separately: all the product before the last water.`}
      </p>
      <Methods bench={bench} recorder={recorder} draft={draft} change={change} />
      <div className="row pourrow">
        <QuantityField
          name="product"
          label={`Poured, ${poured?.name ?? 'product'}`}
          kind="volume"
          size="huge"
          typed={draft.product}
          refused={refused}
          onChange={(typed) => change({ product: typed })}
        />
        <QuantityField
          name="water"
          label="Poured, water"
          kind="volume"
          size="huge"
          typed={draft.water}
          onChange={(typed) => change({ water: typed })}
        />
        <div className="poursides">
          <Segment label="Which water" value={draft.kind} options={waters} onChange={(kind) => change({ kind })} />
          <OtherCan bench={bench} picked={draft.productId} onPick={(productId) => change({ productId, canId: '' })} />
          <OutOf productId={draft.productId} picked={draft.canId} onPick={pickCan} />
        </div>
      </div>
      <div className="row">
        <Check
          label="Level is at the cold mark"
          detail="cold, engine off; filling is finished"
          checked={draft.atMark}
          onChange={(atMark) => change({ atMark })}
        />
      </div>
      {preview.refusal?.code === 'no_water' && (
        <div className="row">
          <Check
            label="Water went in by mistake"
            detail="recorded as a mistake; then drain the loop"
            checked={draft.mistake}
            onChange={(mistake) => change({ mistake })}
          />
        </div>
      )}
      {draft.kind === 'tap' && (
        <p style={{ paddingTop: 8 }}>Tap water brings minerals. Use demineralised water for the last fill.</p>
      )}
      {facts && !vacuumFirst && (
        <Outcome
          state={shown}
          plan={plan}
          temperature={temperature}
          recorded={shown.fill?.slip?.entry_id === fill?.slip?.entry_id && Boolean(fill?.slip)}
        />
      )}
      <HowSure state={shown} of={['predicted']} />
      <PourLedger fill={fill} />
      <CansLeft bench={bench} />
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

interface OtherProps {
  bench: Schemas['Bench'];
  picked: string;
  onPick: (id: string) => void;
}

/** The can in the hand, where it is not the planned one: it happened, so it can be said. */
function OtherCan({ bench, picked, onPick }: OtherProps) {
  const planned = String(bench.state.plan?.product.id ?? '');
  const others = bench.choices.filter((row) => row.product.base !== 'none' || planned === String(row.product.id));
  if (others.length < 2) return null;
  return (
    <label className="othercan">
      Which coolant{' '}
      <select value={picked} onChange={(event) => onPick(event.target.value)} name="can">
        {others.map((row) => (
          <option key={row.product.id} value={row.product.id}>
            {row.product.name}
            {String(row.product.id) === planned ? ', as planned' : ''}
          </option>
        ))}
      </select>
    </label>
  );
}
