import { isKind, type Schemas } from '../../api/client';
import type { Fact } from '../../bench/useRecorder';

/** A top-up, to the mark or short of it, as a fact: so many litres of a mixture with this share of product, and which water is in it. */
export function topUpFact(
  litres: number,
  share: number,
  product: Schemas['Product'] | null,
  bleeding: boolean,
  water: Schemas['Water'] | null,
  atMark = true,
): Fact {
  return {
    kind: 'poured',
    facts: {
      product_id: share > 0 && product ? Number(product.id) : null,
      mixture_l: litres,
      product_share: product ? share : 0,
      water,
      at_mark: atMark,
      method: 'gravity',
      point: null,
      bleeding,
    },
  };
}

/** The water of this filling's last pour; unset before the first. */
export const lastWater = (bench: Schemas['Bench']): Schemas['Water'] | '' => {
  const last = bench.recent.filter(isKind('poured')).find((row) => row.facts.water);
  return last?.facts.water ?? '';
};
