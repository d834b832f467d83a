import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Schemas } from '../api/client';
import { boardOptions, sessionOptions } from '../api/queries';
import { GoPlate } from '../controls/GoPlate';
import { Plus } from '../controls/icons';
import { NotHere } from '../controls/NotHere';
import { Segment } from '../controls/Segment';
import { MenuLine, TabBar } from '../controls/menu/Menu';
import { useTitle } from '../controls/menu/Page';
import type { System } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { clockOf, dayOf } from '../language/time';
import { PROOF } from '../language/names';
import { useServerNow } from '../clocks/useServerNow';
import '../between/between.css';
import { ComingCards, FrostLine, DueKeys } from '../between/ChecksDue';
import { BoardStrip } from './BoardStrip';
import { BrokenRows, RejudgedCards } from '../bench/Troubles';

type BoardData = Schemas['Board'];

export function Board() {
  useTitle('Board');
  const board = useQuery(boardOptions);
  const session = useQuery(sessionOptions).data;
  const go = useNavigate();
  const { system } = useUnits();
  const nowMs = useServerNow(board.data?.server_time);
  const now = new Date(nowMs);
  const [whose, setWhose] = useState('all');
  if (board.isError && !board.data) {
    return <NotHere head="The board cannot be shown." text={board.error.message} retry={() => void board.refetch()} />;
  }
  const zone = session?.depot?.time_zone;
  const all = board.data?.strips ?? [];
  const people = [...new Map(all.map((strip) => [strip.by.id, strip.by])).values()];
  const strips = whose === 'all' ? all : all.filter((strip) => String(strip.by.id) === whose);
  const first = strips[0];
  return (
    <div className="board">
      <div className="boardmenu">
        <MenuLine />
      </div>
      <div className="boardhead">
        <div className="t">
          <h1 tabIndex={-1}>Board</h1>
          <span>
            {session?.depot?.name}, {dayOf(now.toISOString(), zone)}. Longest waiting first.
          </span>
        </div>
        {people.length > 1 && (
          <Segment
            label="Whose jobs"
            hideLabel
            value={whose}
            onChange={setWhose}
            options={[
              { value: 'all', label: 'All' },
              ...people.map((person) => ({
                value: String(person.id),
                label: person.name.split(' ')[0] ?? person.name,
              })),
            ]}
          />
        )}
        <ButtonBase className="key" component={Link} to="/machines">
          <Plus />
          &nbsp;New job
        </ButtonBase>
        <span className="clock num">{clockOf(now.toISOString(), zone)}</span>
      </div>
      <div className="cols" aria-hidden="true">
        <span>waiting</span>
        <span>machine</span>
        <span />
        <span>stage</span>
        <span>next</span>
        <span>freezes at, target</span>
        <span>on it</span>
      </div>
      <main className="strips" id="work">
        <DueKeys rows={board.data?.coming ?? []} />
        <BrokenRows rows={board.data?.broken ?? []} />
        {board.isPending && (
          <p className="empty" role="status">
            Loading …
          </p>
        )}
        {strips.map((strip) => (
          <BoardStrip key={strip.loop_id} strip={strip} now={nowMs} />
        ))}
        {board.data && strips.length + board.data.broken.length === 0 && (
          <p className="empty">
            <b>No job is in progress.</b>
            Start a job when a machine arrives.
          </p>
        )}
      </main>
      <FinishedLane board={board.data} zone={zone} />
      <div className="gocorner">
        {first ? (
          <GoPlate
            act={`Go to ${first.machine.fleet_number}`}
            then={nextWords(first, system)}
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

const nextWords = (strip: Schemas['Strip'], system: System): string =>
  strip.row.act ? lower(sayIn(strip.row.act, system)) : 'look';

const lower = (text: string): string => text.charAt(0).toLowerCase() + text.slice(1);

function FinishedLane({ board, zone }: { board: BoardData | undefined; zone: string | undefined }) {
  const { temperature, system } = useUnits();
  const finished = board?.finished ?? [];
  return (
    <section className="lane" aria-label="Checks due, and jobs finished lately">
      <div className="shelfhead">
        <b>Checks due</b>
        <span>
          {board && <FrostLine frost={board.frost} />}
          {!board ? (
            'loading …'
          ) : board.coming.length > 0 ? (
            <a href="/api/calendar.ics" className="callink">
              calendar file
            </a>
          ) : (
            'no check is due'
          )}
        </span>
      </div>
      <ul>
        <RejudgedCards rows={board?.rejudged ?? []} />
        {(board?.overrides ?? []).map((row) => (
          <li key={row.override.entry_id}>
            <Link to={`/loops/${row.loop_id}/history`} className="lanecard not">
              <b>{row.machine.fleet_number}</b>
              against the advice
              <br />
              <span className="ink2">
                {row.override.person}: {row.override.said && sayIn(row.override.said, system)}
              </span>
            </Link>
          </li>
        ))}
        <ComingCards rows={board?.coming ?? []} />
        {finished.map((row) => (
          <li key={`${row.loop_id}${row.signed_at}`}>
            <Link
              to={`/loops/${row.loop_id}/record`}
              className={`lanecard${['proven', 'glycol_free', 'checked'].includes(row.proof) ? '' : ' not'}`}
            >
              <b>{row.machine.fleet_number}</b>
              {PROOF[row.proof] ?? row.proof}
              {row.freeze_c !== null && `, ${temperature(row.freeze_c)}`}
              <br />
              <span className="ink2">
                {dayOf(row.signed_at, zone)}, {row.loop_name}
              </span>
            </Link>
          </li>
        ))}
        {board && finished.length + board.coming.length === 0 && <li className="ink2">nothing yet</li>}
      </ul>
    </section>
  );
}
