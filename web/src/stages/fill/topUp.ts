import type { Schemas } from '../../api/client';
import type { Fact } from '../../bench/useRecorder';

/** A top-up to the mark as a fact: of so many litres, this share is product and the rest demineralised water. */
export function topUpFact(litres: number, share: number, product: Schemas['Product'] | null, bleeding: boolean): Fact {
  const productL = product ? litres * share : 0;
  return {
    kind: 'poured',
    facts: {
      product_id: productL > 0 && product ? Number(product.id) : null,
      product_l: productL,
      water_l: litres - productL,
      water: 'demineralised',
      at_mark: true,
      method: 'gravity',
      point: null,
      bleeding,
    },
  };
}
