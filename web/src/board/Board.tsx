import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { type ReactNode, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Schemas } from '../api/client';
import { boardOptions, sessionOptions } from '../api/queries';
import { GoPlate } from '../controls/GoPlate';
import { Plus } from '../controls/icons';
import { NotHere } from '../controls/NotHere';
import { Segment } from '../controls/Segment';
import { MenuLine, TabBar } from '../controls/menu/Menu';
import { useTitle } from '../controls/menu/Page';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { dayOf } from '../language/time';
import { useServerNow } from '../clocks/useServerNow';
import '../between/between.css';
import { Bands } from './Bands';
import { BrokenRows } from './BrokenRows';
import { NightKey } from './NightKey';
import { Side } from './Side';
import './board.css';

type Whose = 'all' | 'mine';

/** In the band of those whose turn it is, one's own first; the rest as the server sorts it. */
function mineFirst(strips: Schemas['Strip'][], me: number | undefined): Schemas['Strip'][] {
  const mine = (strip: Schemas['Strip']) => strip.band === 'your_turn' && strip.by?.id === me;
  const other = (strip: Schemas['Strip']) => strip.band === 'your_turn' && !mine(strip);
  return [
    ...strips.filter((strip) => strip.band === 'act_now'),
    ...strips.filter(mine),
    ...strips.filter(other),
    ...strips.filter((strip) => strip.band !== 'act_now' && strip.band !== 'your_turn'),
  ];
}

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

/** children: what is said above the bands, to whoever is new. */
export function Board({ children }: { children?: ReactNode }) {
  useTitle('Board');
  const board = useQuery(boardOptions);
  const session = useQuery(sessionOptions).data;
  const go = useNavigate();
  const { system } = useUnits();
  const nowMs = useServerNow(board.data?.server_time);
  const [whose, setWhose] = useState<Whose>('all');
  if (board.isError && !board.data) {
    return <NotHere head="The board cannot be shown." text={board.error.message} retry={() => void board.refetch()} />;
  }
  const zone = session?.depot?.time_zone;
  const me = session?.person?.id;
  const all = mineFirst(board.data?.strips ?? [], me);
  const strips = whose === 'all' ? all : all.filter((strip) => strip.by?.id === me || strip.band === 'act_now');
  const first = strips[0];
  return (
    <div className="board">
      <div className="boardmenu">
        <MenuLine />
      </div>
      <div className="boardhead">
        <h1 tabIndex={-1}>
          Board
          <span>
            {session?.depot?.name}, {dayOf(new Date(nowMs).toISOString(), zone)}
          </span>
        </h1>
        {board.data && <NightKey night={board.data.night} />}
        <Segment
          label="Whose jobs"
          hideLabel
          value={whose}
          onChange={setWhose}
          options={[
            { value: 'all', label: 'All' },
            { value: 'mine', label: 'Mine' },
          ]}
        />
        <ButtonBase className="key small newjob" component={Link} to="/machines">
          <Plus />
          &nbsp;New job
        </ButtonBase>
      </div>
      <main className="strips" id="work">
        {children}
        <BrokenRows rows={board.data?.broken ?? []} />
        {board.isPending && (
          <p className="empty" role="status">
            Loading …
          </p>
        )}
        <Bands strips={strips} now={nowMs} />
        {board.data && strips.length + board.data.broken.length === 0 && (
          <p className="empty">
            <b>{all.length > 0 ? 'No job is yours.' : 'No job is in progress.'}</b>
            {all.length > 0
              ? 'Press All to see the other jobs.'
              : 'Start a job when a machine arrives; a new one is taken in first.'}
          </p>
        )}
      </main>
      <Side board={board.data} zone={zone} />
      <div className="gocorner">
        {first ? (
          <GoPlate
            act={`Go to ${first.machine.fleet_number}`}
            then={first.row.act ? lower(sayIn(first.row.act, system)) : 'look'}
            onPress={() => void go(`/loops/${first.loop_id}`)}
          />
        ) : (
          <GoPlate act="Start job" then="choose a machine" onPress={() => void go('/machines')} />
        )}
      </div>
      <TabBar at="/" />
    </div>
  );
}
