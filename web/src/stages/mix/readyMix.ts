import type { Schemas } from '../../api/client';
import type { MixController } from './useMixController';

/** The depot's ready-mix of the same base and family as the concentrate, if it has one that may go in. */
export function readyMixChoice(
  bench: Schemas['Bench'],
  product: Schemas['ProductOut'] | undefined,
): Schemas['Choice'] | undefined {
  return bench.choices.find(
    (row) =>
      row.product.form === 'ready_mix' &&
      row.judged.verdict !== 'no' &&
      row.product.base === product?.base &&
      row.product.family === product.family,
  );
}

/** What would a ready-mix of this strength come to in the loop of the worksheet? Null while something is missing. */
export function readyMixQuestion(c: MixController, strengthPercent: number | null): Schemas['ReadyMixIn'] | null {
  if (!c.question || strengthPercent === null) return null;
  const { glycol, loop_volume_l, inside, target_freeze_c, concentrate } = c.question;
  return {
    glycol,
    loop_volume_l,
    inside,
    target_freeze_c,
    ready_mix: { strength_percent: strengthPercent },
    ...(concentrate ? { concentrate } : {}),
  };
}
