import type { Schemas } from '../../api/client';
import type { MixController } from './useMixController';

/** The depot's product of this form, of the same base and family, if it has one that may go in. */
function kindred(
  bench: Schemas['Bench'],
  product: Schemas['ProductOut'] | undefined,
  form: Schemas['Form'],
): Schemas['Choice'] | undefined {
  return bench.choices.find(
    (row) =>
      row.product.form === form &&
      row.judged.verdict !== 'no' &&
      row.product.base === product?.base &&
      row.product.family === product.family,
  );
}

/** The ready-mix of the same kind. */
export const readyMixChoice = (bench: Schemas['Bench'], product: Schemas['ProductOut'] | undefined) =>
  kindred(bench, product, 'ready_mix');

/** The concentrate of the same kind: what a shot on top of a ready-mix would be. */
export const concentrateChoice = (bench: Schemas['Bench'], product: Schemas['ProductOut'] | undefined) =>
  kindred(bench, product, 'concentrate');

/** Where would a ready-mix of this strength end in the loop of the worksheet? Null while something is missing. */
export function readyMixQuestion(
  c: MixController,
  strengthPercent: number | null,
  shot?: Schemas['ProductOut'],
): Schemas['ReadyMixIn'] | null {
  if (!c.question || strengthPercent === null) return null;
  const { glycol, loop_volume_l, inside, target_freeze_c } = c.question;
  const concentrate = shot ? { glycol_mass_percent: shot.glycol_mass_percent } : c.question.concentrate;
  return {
    glycol,
    loop_volume_l,
    inside,
    target_freeze_c,
    ready_mix: { strength_percent: strengthPercent },
    ...(concentrate ? { concentrate } : {}),
  };
}
