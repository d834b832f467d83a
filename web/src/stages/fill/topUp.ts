import type { Schemas } from '../../api/client';
import type { Fact } from '../../bench/useRecorder';

/** A top-up to the mark as a fact: of so many litres, this share is product and the rest water, of this kind. */
export function topUpFact(
  litres: number,
  share: number,
  product: Schemas['Product'] | null,
  bleeding: boolean,
  water: Schemas['Water'] | null,
): Fact {
  const productL = product ? litres * share : 0;
  return {
    kind: 'poured',
    facts: {
      product_id: productL > 0 && product ? Number(product.id) : null,
      product_l: productL,
      water_l: litres - productL,
      water: litres - productL > 0 ? water : null,
      at_mark: true,
      method: 'gravity',
      point: null,
      bleeding,
    },
  };
}

/** The water of this filling's last pour; unset before the first. */
export const lastWater = (bench: Schemas['Bench']): Schemas['Water'] | '' => {
  const last = bench.recent.find((row) => row.kind === 'poured' && row.facts.water);
  return (last?.facts.water as Schemas['Water'] | undefined) ?? '';
};
