import { useReadyMix } from '../../api/calculators';
import type { Schemas } from '../../api/client';
import { Cross, Tick } from '../../controls/icons';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { readyMixChoice, readyMixQuestion } from './readyMix';
import type { MixController } from './useMixController';

/** Beside the answer: where the ready-mix of the same kind alone would end. */
export function ReadyMixBeside({ bench, c }: { bench: Schemas['Bench']; c: MixController }) {
  const { kelvin, temperature } = useUnits();
  const product = readyMixChoice(bench, c.product)?.product;
  const { answer } = useReadyMix('beside', readyMixQuestion(c, product?.strength_percent ?? null));
  if (!answer || !product || c.product?.form === 'ready_mix') return null;
  const misses = answer.misses_by_c ?? null;
  const ends = answer.final.freeze_c;
  const reaches = ends === null ? 'reaches it' : `reaches ${temperature(ends, 0)}`;
  return (
    <div className="beside" data-testid="ready-mix-beside">
      <span>Ready-mixed {number(product.strength_percent ?? 0, 0)} % alone:</span>
      <b>
        {misses === null ? <Tick size={15} /> : <Cross size={14} />}
        {misses === null ? reaches : `${kelvin(misses)} short`}
      </b>
    </div>
  );
}
