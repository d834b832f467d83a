import type { Schemas } from '../../api/client';
import type { MixController } from './useMixController';

/** Which cans, marks and cost for this mix? The largest four sizes the product is sold in. */
export function batchQuestion(
  bench: Schemas['Bench'],
  c: MixController,
  mix: Schemas['MixOut'],
): Schemas['BatchIn'] | null {
  const sizes = c.product?.container_sizes_l ?? [];
  if (!c.product || sizes.length === 0) return null;
  const price = c.product.price_per_l;
  return {
    product_l: mix.concentrate_l,
    water_l: mix.water_l,
    kept_back_l: mix.kept_back_l,
    containers: [...sizes]
      .sort((a, b) => b - a)
      .slice(0, 4)
      .map((size) => ({ size_l: size, at_hand: c.draft.atHand[String(size)] ?? 0 })),
    ...(bench.policy.bucket_l === undefined ? {} : { bucket_l: bench.policy.bucket_l }),
    ...(bench.policy.jug_l === undefined ? {} : { jug_l: bench.policy.jug_l }),
    ...(price === null ? {} : { price_per_l: Number(price) }),
  };
}
