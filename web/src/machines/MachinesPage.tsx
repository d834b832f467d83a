import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useLocation, useSearchParams } from 'react-router';
import type { Schemas } from '../api/client';
import { loopsOptions, ownersFoundOptions } from '../api/queries';
import { useSettled } from '../api/calculators';
import { FindField } from '../controls/FindField';
import { Plus } from '../controls/icons';
import { matching } from '../controls/menu/match';
import { Page } from '../controls/menu/Page';
import { NotHere } from '../controls/NotHere';
import { LOOP_SIGN } from '../language/names';
import { LoopListRow } from './LoopListRow';
import './machines.css';

type Row = Schemas['LoopRow'];
type Sign = Schemas['LoopSign'];

const SIGNS: readonly Sign[] = ['in_work', 'due', 'not_protected', 'not_read'];

const has = (row: Row, sign: string | null): boolean =>
  sign === null || (row.line?.signs.some((one) => one === sign) ?? false);

/** The list again for every scan that comes in; what is typed by hand stays in the field, however fast it is typed. */
export default function MachinesPage() {
  const { key } = useLocation();
  const [params] = useSearchParams();
  return <Machines key={params.get('show') === null ? key : 'shown'} find={params.get('find') ?? ''} />;
}

/** Every loop of the depot: what is inside, how far it protects, what is due, and the keys for what is done about it. */
function Machines({ find }: { find: string }) {
  const loops = useQuery(loopsOptions);
  const [params, setParams] = useSearchParams();
  const [words, setWords] = useState(find);
  const show = SIGNS.find((sign) => sign === params.get('show')) ?? null;
  const rows = loops.data?.loops ?? [];
  const owned = new Set(useQuery(ownersFoundOptions(useSettled(words.trim(), 200))).data?.machine_ids);
  const named = new Set(matching(rows, words));
  const found = rows.filter((row) => (named.has(row) || owned.has(row.machine.id)) && has(row, show));
  if (loops.isError && !loops.data)
    return (
      <NotHere head="The machines cannot be shown." text={loops.error.message} retry={() => void loops.refetch()} />
    );
  const only = (sign: Sign | null) => {
    const left = new URLSearchParams(params);
    if (sign) left.set('show', sign);
    else left.delete('show');
    setParams(left, { replace: true });
  };
  return (
    <Page
      title="Machines"
      line="What is inside, how far it protects, what is due"
      tools={
        <>
          <FindField
            name="find"
            label="Number, name, owner, loop, coolant or state"
            value={words}
            onChange={setWords}
          />
          <div className="filters" role="group" aria-label="Only">
            {[null, ...SIGNS].map((sign) => (
              <ButtonBase
                key={sign ?? 'all'}
                className="key chip"
                aria-pressed={show === sign}
                onClick={() => only(sign)}
              >
                {sign ? LOOP_SIGN[sign] : 'All'} {loops.data && rows.filter((row) => has(row, sign)).length}
              </ButtonBase>
            ))}
          </div>
          <Link className="key" to="/frost-plan">
            Frost plan
          </Link>
          <Link className="key" to="/machines/new">
            <Plus />
            &nbsp;Machine
          </Link>
        </>
      }
      mainClass="looplist"
    >
      <div className="loophead" aria-hidden="true">
        <span>Number</span>
        <span>Machine</span>
        <span>Loop and coolant</span>
        <span>Protects to</span>
        <span>Next due</span>
      </div>
      {loops.isPending && (
        <p className="empty" role="status">
          Loading …
        </p>
      )}
      {loops.data && found.length === 0 && (
        <p className="empty" role="status">
          <b>
            {rows.length === 0
              ? 'No machine yet.'
              : words.trim()
                ? `No machine by “${words.trim()}”.`
                : 'No machine here.'}
          </b>
          {rows.length === 0
            ? 'Take the first one in: number or plate, and its kind.'
            : 'Try the number without the dash, part of the kind, or All.'}
        </p>
      )}
      {loops.data && rows.length === 0 && (
        <p className="empty">
          <Link className="key" to="/machines/new">
            Take in a machine
          </Link>
        </p>
      )}
      <ul>
        {found.map((row) => (
          <LoopListRow key={row.loop_id} row={row} starts={String(row.loop_id) === params.get('start')} />
        ))}
      </ul>
    </Page>
  );
}
