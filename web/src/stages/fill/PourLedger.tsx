import type { Schemas } from '../../api/client';
import { coldEndText } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { clockOf } from '../../language/time';
import { useDepot } from '../../api/useDepot';

/** Each pour, the running total against what is expected, and what the loop came to after it. */
export function PourLedger({ fill }: { fill: Schemas['FillState'] | null }) {
  const { system, volume, temperature } = useUnits();
  const zone = useDepot()?.time_zone;
  if (!fill || fill.pours.length === 0) return null;
  return (
    <section className="pours" aria-label="Poured so far">
      <p className="rulehead">
        <b>Poured so far</b>
        {fill.expected_l > 0 && ` of about ${volume(fill.expected_l)}`}
      </p>
      <table>
        <thead>
          <tr>
            <th>at</th>
            <th>what</th>
            <th className="n">in all</th>
            <th className="n">so far freezes at, likely</th>
          </tr>
        </thead>
        <tbody>
          {fill.pours.map((row) => (
            <tr key={row.entry_id}>
              <td>{clockOf(row.at, zone)}</td>
              <td>
                {[
                  row.product_l > 0 ? `${volume(row.product_l)} ${row.product}` : '',
                  row.water_l > 0 ? `${volume(row.water_l)} water` : '',
                ]
                  .filter(Boolean)
                  .join(' + ')}
                {row.point !== null && `, fill point ${row.point}`}
                {row.bleeding && ', while bleeding'}
                {row.at_mark && ', at the mark'}
              </td>
              <td className="n">
                <b>{volume(row.total_l)}</b>
              </td>
              <td className="n">
                <b>{row.freeze_c === null ? 'not tabulated' : temperature(row.freeze_c)}</b>{' '}
                {row.likely && (
                  <small>
                    {coldEndText(row.likely.low, system)} to {temperature(row.likely.high, 0)}
                  </small>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
