import { useMix, usePreview } from '../../api/calculators';
import type { Schemas } from '../../api/client';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { parseTyped, type Typed, typedFrom } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';

interface MixDraft {
  target: Typed;
  out: Typed;
  productId: number;
  /** Plan so that the warm end, the curve's doubt in it, meets the target. */
  beSure: boolean;
  /** A ready-mix is thinned with water: somebody's choice, never the default. */
  dilute: boolean;
  /** Containers that stand here, by size in litres; what was not said is not known. */
  atHand: Record<string, number>;
}

export type MixController = ReturnType<typeof useMixController>;

/** Everything the mix worksheet computes with; no drawing here. The arithmetic is the server's. */
export function useMixController(bench: Schemas['Bench']) {
  const { system } = useUnits();
  const { state, loop } = bench;
  const recordedL = state.drained_l ?? 0;
  const { draft, change, settle, touched } = useDraft<MixDraft>(bench, 'mix', {
    target: typedFrom(state.suggested_target_c, 'temperature', system, 0),
    out: typedFrom(recordedL, 'volume', system),
    productId: Number(state.plan?.product.id),
    beSure: false,
    dilute: state.plan?.dilute ?? false,
    atHand: {},
  });
  const choice = bench.choices.find((row) => row.product.id === draft.productId);
  const product = choice?.product;
  const target = parseTyped(draft.target, 'temperature', system);
  const out = parseTyped(draft.out, 'volume', system);
  // As prefilled means as recorded: a rounded display must not count as a correction.
  const prefilled = parseTyped(typedFrom(recordedL, 'volume', system), 'volume', system);
  const same = out.ok && prefilled.ok && Math.abs(out.base - prefilled.base) < 0.005;

  const readyMix = product?.form === 'ready_mix';
  const asItIs = readyMix && !draft.dilute;
  const correction = same || !out.ok ? [] : correctedDrain(bench, out.base);
  const planned = planFact(bench, draft.productId);
  const changed = correction.length > 0 || draft.productId !== Number(state.plan?.product.id);
  const before: Fact[] = planned && changed ? [...correction, planned] : [];
  const preview = usePreview(loop.id, state.last_entry_id, before.length ? asPreview(before) : null);
  const basis = before.length ? preview.answer?.state : state;

  const glycol = product && product.base !== 'none' ? product.base : null;
  const question: Schemas['MixIn'] | null =
    basis && glycol && target.ok && product
      ? {
          glycol,
          loop_volume_l: basis.mix_capacity_l,
          inside: basis.mix_inside,
          target_freeze_c: target.base,
          concentrate: { glycol_mass_percent: product.glycol_mass_percent },
          be_sure: draft.beSure && !asItIs,
          as_it_is: asItIs,
          spread: basis.spread,
        }
      : null;
  const mix = useMix(question);
  return {
    draft,
    change,
    settle,
    touched,
    choice,
    product,
    target,
    out,
    basis,
    preview,
    question,
    mix,
    correction,
    glycol,
    asItIs,
  };
}

/**
 * The last drain as recorded, with other litres: the old entry is taken back and a new one recorded in its place, at its
 * time, so that the rounds keep their order. litres: what is then missing up to the cold mark.
 */
function correctedDrain(bench: Schemas['Bench'], litres: number): Fact[] {
  const { flush, drained_l } = bench.state;
  const entry = bench.recent.find((row) => row.kind === 'drained');
  const drained = flush?.rounds.findLast((row) => row.out_l !== null && !SWEPT.includes(row.method ?? ''));
  if (!entry || drained_l === null || typeof drained?.out_l !== 'number') return [];
  const recorded = entry.facts as unknown as Schemas['DrainedFacts'];
  const out = Number((drained.out_l + litres - drained_l).toFixed(6));
  const [caught, before, vessels] = [recorded.caught ?? [], amount(recorded.drained_l), recorded.by_vessel ?? {}];
  // containers stay as they were recorded, their sum is corrected; litres told by vessel keep their parts
  const parts =
    before > 0 ? Object.entries(vessels).map(([vessel, part]) => [vessel, (amount(part) * out) / before]) : [];
  const facts =
    caught.length > 0
      ? { drained_l: null, measured: null, by_vessel: {}, caught, corrected_l: out }
      : {
          drained_l: out,
          measured: recorded.measured ?? ('marks' as const),
          by_vessel: Object.fromEntries(parts) as Record<string, number>,
          caught: [],
        };
  return [
    { kind: 'voided', facts: { entry_id: entry.id, reason: 'litres corrected at the mix' } },
    {
      kind: 'drained',
      happened_at: entry.happened_at,
      facts: { ...facts, ran_with_cap_on: recorded.ran_with_cap_on ?? false },
    },
  ];
}

/** As it was stored: a bare number. */
const amount = (value: unknown): number => (typeof value === 'number' ? value : 0);

const SWEPT = ['open_rinse', 'hose_flow', 'parts', 'blow_out'];

function planFact(bench: Schemas['Bench'], productId: number): Fact | null {
  const plan = bench.state.plan;
  return (
    plan && {
      kind: 'planned',
      facts: {
        product_id: productId,
        coldest_c: plan.coldest_c,
        margin_k: plan.margin_k,
        reason: plan.reason,
        dilute: false,
      },
    }
  );
}
