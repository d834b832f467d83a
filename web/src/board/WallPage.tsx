import { useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { wallOptions } from '../api/queries';
import { useServerNow } from '../clocks/useServerNow';
import { useTitle } from '../controls/menu/Page';
import { LOW_SOURCE } from '../language/names';
import { useUnits } from '../units/UnitsContext';
import { Bands } from './Bands';
import './wall.css';

/** The board on a screen in the bay: large, only to be read, by a link that a lead may revoke. */
export default function WallPage({ token }: { token: string }) {
  useTitle('Board on the wall');
  const options = useMemo(() => wallOptions(token), [token]);
  const board = useQuery(options);
  const now = useServerNow(board.data?.server_time);
  const { temperature } = useUnits();
  if (!board.data)
    return (
      <main className="wall" id="work">
        <h1>{board.isError ? board.error.message : 'Loading …'}</h1>
      </main>
    );
  const { strips, night, broken, coming } = board.data;
  const due = coming.filter((row) => row.overdue || row.today).length;
  return (
    <main className="wall" id="work">
      <div className="wallhead">
        <h1>Board</h1>
        {night.low && (
          <span>
            Tonight {temperature(night.low.low_c, 0)}, {LOW_SOURCE[night.low.source]}
          </span>
        )}
        <span>{due === 0 ? 'No check due today' : due === 1 ? '1 check due today' : `${due} checks due today`}</span>
        {broken.length > 0 && <b>{broken.length} records cannot be calculated</b>}
        {board.isError && <b role="status">No answer: shown as last heard</b>}
      </div>
      <Bands strips={strips} now={now} fixed />
      {strips.length === 0 && <p className="empty">No job is in progress.</p>}
    </main>
  );
}
