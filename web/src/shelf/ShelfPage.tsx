import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { catalogueOptions, lotOptions, shelfOptions } from '../api/queries';
import { FindField, hasWords } from '../controls/FindField';
import { GoPlate } from '../controls/GoPlate';
import { Plus } from '../controls/icons';
import { NotHere } from '../controls/NotHere';
import { Page, Waiting } from '../controls/menu/Page';
import { CAN_KIND } from '../language/names';
import { dateOf } from '../language/time';
import { useUnits } from '../units/UnitsContext';
import { CanFields } from './CanFields';
import { type CanForm, canFromForm, canToForm, emptyCan } from './canForm';
import { Draws } from './Draws';
import './shelf.css';

const keep = (canId: number | null, body: Schemas['CanIn']) =>
  unwrap(
    canId === null
      ? api.POST('/api/cans', { body })
      : api.PUT('/api/cans/{can_id}', { params: { path: { can_id: canId } }, body }),
  );

/** What stands on the shelf: what to order, every container with what is left in it, and where a lot went. */
export default function ShelfPage() {
  const shelf = useQuery(shelfOptions);
  const catalogue = useQuery(catalogueOptions);
  const client = useQueryClient();
  const { system } = useUnits();
  const [words, look] = useState('');
  const [form, setForm] = useState<CanForm | null>(null);
  const save = useMutation<Schemas['Shelf'], RefusalError, { canId: number | null; body: Schemas['CanIn'] }>({
    mutationFn: ({ canId, body }) => keep(canId, body),
    onSuccess: (fresh) => {
      client.setQueryData(shelfOptions.queryKey, fresh);
      void client.invalidateQueries({ queryKey: ['bench'] });
      setForm(null);
    },
  });
  if (shelf.isError)
    return <NotHere head="The shelf cannot be shown." text={shelf.error.message} retry={() => void shelf.refetch()} />;
  if (!shelf.data || !catalogue.data) return <Waiting title="Shelf" />;
  const { cans, lines } = shelf.data;
  const short = lines.filter((line) => line.short_l !== null);
  const body = form ? canFromForm(form, system) : null;
  const shown = cans.filter((can) => hasWords(`${can.number} ${can.name} ${can.lot} ${can.place}`, words));
  const lots = [...new Set(cans.map((can) => can.lot).filter(Boolean))];
  const lot = lots.find((one) => one.toLowerCase() === words.trim().toLowerCase());
  const edit = (next: CanForm) => {
    save.reset();
    setForm(next);
  };
  const editor = form && (
    <CanFields
      form={form}
      catalogue={catalogue.data}
      refusal={save.error}
      onChange={(part) => setForm({ ...form, ...part })}
      onLeave={() => setForm(null)}
    />
  );
  return (
    <Page
      title="Shelf"
      line={short.length === 0 ? 'Nothing is below its minimum' : `${short.length} to order`}
      tools={
        <>
          <Link className="key small" to="/shelf/waste">
            Waste
          </Link>
          <FindField name="find-can" label="Number, coolant or lot" value={words} onChange={look} />
          <ButtonBase className="key small" onClick={() => edit(emptyCan())}>
            <Plus />
            &nbsp;Container
          </ButtonBase>
        </>
      }
      mainClass="shelf"
      go={
        form && (
          <GoPlate
            act={form.canId === null ? 'Put it on the shelf' : `Save ${form.number}`}
            then="pours take from it"
            waits={typeof body === 'string' ? body : null}
            busy={save.isPending}
            onPress={() => {
              if (body && typeof body !== 'string') save.mutate({ canId: form.canId, body });
            }}
          />
        )
      }
    >
      {form?.canId === null && editor}
      {lot && <Lot lot={lot} />}
      {lines.length > 0 && (
        <section aria-label="Stock">
          <h2>
            In stock <span>all containers together, against the lead&rsquo;s minimum</span>
          </h2>
          <Stock lines={lines} />
        </section>
      )}
      <section aria-label="Containers">
        <h2>
          Containers <span>what was counted, less what was poured since</span>
        </h2>
        {cans.length === 0 && (
          <p className="empty">
            <b>No container yet.</b> Put one on the shelf: what a job needs is then checked before anything is opened.
          </p>
        )}
        {shown.map((can) => (
          <CanRow key={can.id} can={can} onEdit={() => edit(canToForm(can, system))}>
            {form?.canId === can.id && editor}
          </CanRow>
        ))}
      </section>
    </Page>
  );
}

function Stock({ lines }: { lines: Schemas['StockLine'][] }) {
  const { volume } = useUnits();
  return (
    <table className="ledger">
      <thead>
        <tr>
          <th>what</th>
          <th>here</th>
          <th className="wide">cans</th>
          <th className="wide">order below</th>
          <th>to order</th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line) => (
          <tr key={`${line.kind} ${line.line_id}`} className={line.short_l !== null ? 'hot' : ''}>
            <td>{line.name}</td>
            <td className="nw">{volume(line.left_l)}</td>
            <td className="wide nw">{line.cans}</td>
            <td className="wide nw">{line.minimum_l === null ? '' : volume(line.minimum_l)}</td>
            <td className="nw">{line.short_l === null ? '' : <b>{volume(line.short_l)} or more</b>}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface RowProps {
  can: Schemas['CanOut'];
  onEdit: () => void;
  children: React.ReactNode;
}

function CanRow({ can, onEdit, children }: RowProps) {
  const { volume } = useUnits();
  const more = [
    can.lot && `lot ${can.lot}`,
    can.opened_on ? `opened ${dateOf(can.opened_on)}` : can.emptied ? '' : 'sealed',
    can.strength_percent !== null && `${can.strength_percent} % by volume`,
    can.from_machine && `from ${can.from_machine}`,
    can.place,
  ].filter(Boolean);
  return (
    <div className={`canrow${can.emptied ? ' gone' : ''}`} data-testid={`can-${can.number}`}>
      <Link to={`/shelf/${can.id}`} className="cannumber">
        {can.number}
      </Link>
      <div className="what">
        <b>{can.name}</b>
        <span>
          {CAN_KIND[can.kind]}
          {more.length > 0 && `, ${more.join(', ')}`}
        </span>
      </div>
      <div className={can.over ? 'canleft hot' : 'canleft'}>
        {can.emptied ? (
          'empty'
        ) : (
          <>
            <b>{volume(can.left_l)}</b> of {volume(can.size_l)}
          </>
        )}
        {can.over && <small>more was poured than counted: count it</small>}
      </div>
      <ButtonBase className="key small" aria-label={`Edit: ${can.number}`} onClick={onEdit}>
        Edit
      </ButtonBase>
      {children}
    </div>
  );
}

/** Where one lot went. */
function Lot({ lot }: { lot: string }) {
  const trace = useQuery(lotOptions(lot)).data;
  const { volume } = useUnits();
  if (!trace) return null;
  return (
    <section aria-label="Lot" data-testid="lot">
      <h2>
        Lot {trace.lot}{' '}
        <span>
          {trace.cans.map((can) => can.number).join(', ')}; {volume(trace.poured_l)} poured
        </span>
      </h2>
      <Draws draws={trace.draws} />
    </section>
  );
}
