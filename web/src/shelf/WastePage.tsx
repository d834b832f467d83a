import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { v4 as uuid } from 'uuid';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { sessionOptions, wasteOptions } from '../api/queries';
import { Check } from '../controls/Check';
import { GoPlate } from '../controls/GoPlate';
import { NotHere } from '../controls/NotHere';
import { Page, Waiting } from '../controls/menu/Page';
import { Refusal } from '../controls/Refusal';
import { TextField } from '../controls/TextField';
import { WASTE } from '../language/names';
import { timeOf } from '../language/time';
import { useUnits } from '../units/UnitsContext';
import './shelf.css';

type Waste = Schemas['Waste'];

/** Waste to its end: what stands full and where, who took it with which paper, the register by month. */
export default function WastePage() {
  const waste = useQuery(wasteOptions);
  const client = useQueryClient();
  const zone = useQuery(sessionOptions).data?.depot?.time_zone;
  const { volume } = useUnits();
  const [picked, pick] = useState<string[]>([]);
  const [takenBy, setTakenBy] = useState('');
  const [paper, setPaper] = useState('');
  const [id, setId] = useState(() => uuid());
  const hand = useMutation<Waste, RefusalError, Schemas['HandoverIn']>({
    mutationFn: (body) => unwrap(api.POST('/api/waste/handovers', { body })),
    onSuccess: (fresh) => {
      client.setQueryData(wasteOptions.queryKey, fresh);
      pick([]);
      setTakenBy('');
      setPaper('');
      setId(uuid());
    },
  });
  if (waste.isError)
    return <NotHere head="The waste cannot be shown." text={waste.error.message} retry={() => void waste.refetch()} />;
  if (!waste.data) return <Waiting title="Waste" />;
  const { standing, handovers, months, too_long: tooLong, days_allowed: allowed } = waste.data;
  const going = standing.filter((row) => picked.includes(row.entry_id));
  const litres = going.reduce((sum, row) => sum + row.litres, 0);
  const toggle = (entryId: string) =>
    pick(picked.includes(entryId) ? picked.filter((one) => one !== entryId) : [...picked, entryId]);
  return (
    <Page
      title="Waste"
      line={
        tooLong > 0
          ? `${tooLong} ${tooLong === 1 ? 'container stands' : 'containers stand'} full longer than ${allowed} days`
          : 'Local rules decide where it goes'
      }
      tools={
        <>
          <Link className="key small" to="/shelf">
            Shelf
          </Link>
          <a className="key small" href="/api/waste.csv" download>
            Register as CSV
          </a>
        </>
      }
      mainClass="shelf"
      go={
        going.length > 0 && (
          <GoPlate
            act={`Record ${volume(litres)} handed over`}
            then="off the list, into the register"
            waits={takenBy.trim() === '' ? 'Who takes it?' : null}
            busy={hand.isPending}
            onPress={() =>
              hand.mutate({
                id,
                entry_ids: going.map((row) => row.entry_id),
                taken_by: takenBy.trim(),
                paper: paper.trim(),
                note: '',
              })
            }
          />
        )
      }
    >
      <section aria-label="Standing">
        <h2>
          Stands full <span>tick what is taken away</span>
        </h2>
        {standing.length === 0 && <p className="empty">No full container stands here.</p>}
        {standing.map((row) => (
          <Check
            key={row.entry_id}
            label={`${volume(row.litres)} ${WASTE[row.kind].toLowerCase()}, ${row.fleet_number}`}
            detail={[
              `${row.containers} ${row.containers === 1 ? 'container' : 'containers'}`,
              row.stands,
              row.too_long ? `full for ${row.days} days: hand it over` : `since ${timeOf(row.at, zone)}`,
            ]
              .filter(Boolean)
              .join(', ')}
            checked={picked.includes(row.entry_id)}
            onChange={() => toggle(row.entry_id)}
          />
        ))}
        {going.length > 0 && (
          <div className="row">
            <TextField
              name="taken-by"
              label="Taken by"
              value={takenBy}
              max={80}
              refused={hand.error?.field === 'taken_by' ? hand.error.message : undefined}
              onChange={setTakenBy}
            />
            <TextField name="paper" label="Number of their paper" value={paper} max={40} onChange={setPaper} />
          </div>
        )}
        {hand.error && hand.error.field !== 'taken_by' && (
          <Refusal which="Not recorded." allowed={hand.error.message} />
        )}
      </section>
      <section aria-label="Register">
        <h2>
          Register <span>by month and kind</span>
        </h2>
        <table className="ledger" data-testid="register">
          <thead>
            <tr>
              <th>month</th>
              <th>what</th>
              <th>filled</th>
              <th>handed over</th>
              <th className="wide">standing then</th>
            </tr>
          </thead>
          <tbody>
            {months.map((row) => (
              <tr key={`${row.month} ${row.kind}`}>
                <td className="nw">{row.month.slice(0, 7)}</td>
                <td>{WASTE[row.kind]}</td>
                <td className="nw">{volume(row.filled_l)}</td>
                <td className="nw">{volume(row.handed_l)}</td>
                <td className="wide nw">{volume(row.stands_l)}</td>
              </tr>
            ))}
          </tbody>
        </table>
        {handovers.length > 0 && <h2>Handed over</h2>}
        {handovers.map((one) => (
          <Handover key={one.id} one={one} />
        ))}
      </section>
    </Page>
  );
}

/** One handover, with the photo of its paper; a lead may undo it. */
function Handover({ one }: { one: Schemas['HandoverOut'] }) {
  const client = useQueryClient();
  const session = useQuery(sessionOptions).data;
  const { volume } = useUnits();
  const keep = (fresh: Waste) => client.setQueryData(wasteOptions.queryKey, fresh);
  const undo = useMutation<Waste, RefusalError>({
    mutationFn: () =>
      unwrap(api.DELETE('/api/waste/handovers/{handover_id}', { params: { path: { handover_id: one.id } } })),
    onSuccess: keep,
  });
  const photo = useMutation<Waste, RefusalError, File>({
    mutationFn: (file) => {
      const form = new FormData();
      form.append('file', file);
      return unwrap(
        api.POST('/api/waste/handovers/{handover_id}/photo', {
          params: { path: { handover_id: one.id } },
          body: form as never,
          bodySerializer: (body) => body as never,
        }),
      );
    },
    onSuccess: keep,
  });
  return (
    <div className={`handover${one.undone ? ' gone' : ''}`} data-testid="handover">
      <p>
        <b>
          {volume(one.litres)} to {one.taken_by}
        </b>
        {one.undone && ' (undone)'}
        <br />
        <span className="ink2">
          {timeOf(one.at, session?.depot?.time_zone)}, {one.person.name}
          {one.paper && `, paper ${one.paper}`}; {one.rows.map((row) => row.fleet_number).join(', ')}
        </span>
      </p>
      {one.photo && (
        <a href={`/api/photos/${one.photo}`}>
          <img src={`/api/photos/${one.photo}`} alt={`Paper ${one.paper}`} />
        </a>
      )}
      {!one.undone && (
        <span className="handkeys">
          {!one.photo && (
            <label className="key small">
              Photo of the paper
              <input
                type="file"
                accept="image/*"
                className="visually-hidden"
                onChange={(event) => {
                  const file = event.target.files?.[0];
                  if (file) photo.mutate(file);
                }}
              />
            </label>
          )}
          {session?.person?.role === 'lead' && (
            <ButtonBase className="key small" aria-disabled={undo.isPending} onClick={() => undo.mutate()}>
              Undo
            </ButtonBase>
          )}
        </span>
      )}
      {(photo.error ?? undo.error) && (
        <Refusal which="Not recorded." allowed={(photo.error ?? undo.error)?.message ?? ''} />
      )}
    </div>
  );
}
