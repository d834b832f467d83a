import { useBatch } from '../../api/calculators';
import type { Schemas } from '../../api/client';
import { useUnits } from '../../units/UnitsContext';

interface Props {
  bench: Schemas['Bench'];
}

/** The cans of the plan, one after the other: emptied, in the hand, and where the last one is stopped. */
export function CansLeft({ bench }: Props) {
  const { volume, size } = useUnits();
  const { state } = bench;
  const plan = state.plan;
  const sizes = bench.choices.find((row) => String(row.product.id) === plan?.product.id)?.product.container_sizes_l;
  const { from_cans_l: poured = 0, cans_l: whole = 0 } = state.poured;
  const { answer } = useBatch(
    plan && whole > 0 && sizes && sizes.length > 0
      ? {
          product_l: whole,
          water_l: plan.water_l ?? 0,
          containers: sizes.slice(0, 4).map((litres) => ({ size_l: litres })),
          poured_product_l: poured,
          poured_water_l: state.poured.planned_water_in_l ?? 0,
        }
      : null,
  );
  if (!answer || (answer.cans ?? []).length === 0) return null;
  const { buckets } = answer;
  const fresh = poured < 0.05;
  const cans = answer.cans ?? [];
  const now = cans.findIndex((can) => can.poured_l < can.pour_l - 0.05);
  return (
    <section className="cansleft" aria-label="Cans and marks">
      {fresh && buckets && (
        <p className="marks">
          {buckets.count === 1 ? 'Bucket' : `${buckets.count} equal buckets`}: product to{' '}
          <b>{volume(buckets.product_mark_l)}</b>, water to <b>{volume(buckets.full_mark_l)}</b>.
        </p>
      )}
      {!fresh && (answer.water_left_l ?? 0) > 0.05 && (
        <p className="marks">
          Water still to pour: <b>{volume(answer.water_left_l ?? 0)}</b>.
        </p>
      )}
      {cans.map((can, i) => {
        const done = can.poured_l >= can.pour_l - 0.05;
        const part = can.poured_l / can.size_l;
        return (
          <div key={i} className={`can${done ? ' done' : i === now ? ' now' : ''}`}>
            <span className="canbody" aria-hidden="true">
              <i style={{ height: `${100 * part}%` }} />
              {can.stays_l > 0 && <u style={{ bottom: `${(100 * can.stays_l) / can.size_l}%` }} />}
            </span>
            <span>
              <b>{size(can.size_l)}</b>
              {done
                ? can.stays_l > 0
                  ? `${volume(can.stays_l)} stays`
                  : 'empty'
                : can.stays_l > 0
                  ? `stop: ${volume(can.stays_l)} stays`
                  : can.poured_l > 0
                    ? `${volume(can.pour_l - can.poured_l)} to go`
                    : 'all'}
            </span>
          </div>
        );
      })}
    </section>
  );
}
