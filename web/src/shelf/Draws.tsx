import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { sessionOptions } from '../api/queries';
import { timeOf } from '../language/time';
import { useUnits } from '../units/UnitsContext';

/** Where litres went: machine, loop, day, who poured. */
export function Draws({ draws }: { draws: Schemas['DrawOut'][] }) {
  const { volume } = useUnits();
  const zone = useQuery(sessionOptions).data?.depot?.time_zone;
  if (draws.length === 0) return <p className="empty">Nothing was poured out of it yet.</p>;
  return (
    <table className="ledger">
      <thead>
        <tr>
          <th>when</th>
          <th>into</th>
          <th>litres</th>
          <th className="wide">out of</th>
          <th className="wide">by</th>
        </tr>
      </thead>
      <tbody>
        {draws.map((row) => (
          <tr key={`${row.at} ${row.can} ${row.loop_id}`}>
            <td className="nw">{timeOf(row.at, zone)}</td>
            <td>
              <Link to={`/loops/${row.loop_id}/record`}>
                {row.fleet_number}, {row.loop_name}
              </Link>
            </td>
            <td className="nw">{volume(row.litres)}</td>
            <td className="wide nw">{row.can}</td>
            <td className="wide">{row.person.name}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
