import { Link } from 'react-router';
import type { Schemas } from '../api/client';

/** Over the bands, loud: loops whose record cannot be worked out. The board stands all the same. */
export function BrokenRows({ rows }: { rows: Schemas['Broken'][] }) {
  return rows.map((row) => (
    <Link key={row.loop_id} className="bstrip urgent" to={`/loops/${row.loop_id}/record`} data-testid="broken">
      <span className="when">
        <b>STOP</b>
        <span>no result</span>
      </span>
      <span className="pl">
        <span className="plate">
          <span>{row.machine.fleet_number}</span>
        </span>
      </span>
      <span className="u">
        <b>{row.machine.kind}</b>
        <span>{row.loop_name}</span>
      </span>
      <span className="nx">
        <b>This record cannot be calculated.</b>
        <span>{row.message}</span>
      </span>
    </Link>
  ));
}
