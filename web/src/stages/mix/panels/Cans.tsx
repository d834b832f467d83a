import { useBatch } from '../../../api/calculators';
import type { Schemas } from '../../../api/client';
import { CountStepper } from '../../../controls/CountStepper';
import { number } from '../../../units/units';
import { useUnits } from '../../../units/UnitsContext';
import { batchQuestion } from '../batch';
import type { MixController } from '../useMixController';

interface Props {
  bench: Schemas['Bench'];
  c: MixController;
  mix: Schemas['MixOut'];
}

const MOST = 99;

/** What stands here, what to fetch or buy, what is left over and what it costs. */
export function Cans({ bench, c, mix }: Props) {
  const { volume, size } = useUnits();
  const { answer, refusal } = useBatch(batchQuestion(bench, c, mix));
  const sizes = [...(c.product?.container_sizes_l ?? [])].sort((a, b) => a - b);
  const counted = Object.keys(c.draft.atHand).length > 0;
  const list = (rows: Schemas['Whole'][]) => rows.map((row) => `${row.count} × ${size(row.size_l)}`).join(' + ');
  if (sizes.length === 0) return <p>No container sizes are known for {c.product?.name}. A lead can add them.</p>;
  return (
    <div className="cans">
      {sizes.slice(0, 4).map((litres) => (
        <CountStepper
          key={litres}
          name={`at-hand-${litres}`}
          label={`${size(litres)} cans in stock`}
          value={c.draft.atHand[String(litres)] ?? 0}
          most={MOST}
          onChange={(count) => c.change({ atHand: { ...c.draft.atHand, [String(litres)]: count } })}
        />
      ))}
      <p>
        {refusal && <span className="hot">{refusal.message}</span>}
        {answer && (
          <>
            <b data-testid="to-buy">
              {!counted
                ? `Needs ${list(answer.needed)}.`
                : answer.to_buy.length > 0
                  ? `Not enough: fetch or buy ${list(answer.to_buy)}.`
                  : 'The stock is enough.'}
            </b>{' '}
            {answer.left_over_l > 0 ? `${volume(answer.left_over_l)} is left over.` : 'Nothing is left over.'}
            {typeof answer.cost_used === 'number' && ` ${number(answer.cost_used, 2)} ${bench.currency} poured.`}
            {counted &&
              typeof answer.cost_bought === 'number' &&
              answer.cost_bought > 0 &&
              ` ${number(answer.cost_bought, 2)} ${bench.currency} to buy.`}
          </>
        )}
      </p>
    </div>
  );
}
