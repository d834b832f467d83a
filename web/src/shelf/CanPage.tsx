import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import ButtonBase from '@mui/material/ButtonBase';
import { useParams } from 'react-router';
import { v4 as uuid } from 'uuid';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { canOptions, shelfOptions } from '../api/queries';
import { GoPlate } from '../controls/GoPlate';
import { NotHere } from '../controls/NotHere';
import { Page, Waiting } from '../controls/menu/Page';
import { QrCode } from '../controls/QrCode';
import { Refusal } from '../controls/Refusal';
import { Stepper } from '../controls/Stepper';
import { dateOf } from '../language/time';
import { parseTyped, type Typed } from '../units/parse';
import { useUnits } from '../units/UnitsContext';
import { Draws } from './Draws';
import '../controls/labels.css';
import './shelf.css';

/** One container: what is left, a count by hand, where it went, and its label to print. */
export default function CanPage() {
  const canId = Number(useParams().canId);
  const page = useQuery({ ...canOptions(canId), enabled: Number.isInteger(canId) });
  if (page.isError || !Number.isInteger(canId))
    return (
      <NotHere
        head="No such container."
        text={page.error?.message ?? 'Check the address.'}
        retry={() => void page.refetch()}
      />
    );
  if (!page.data) return <Waiting title="Container" />;
  return <Container page={page.data} />;
}

function Container({ page }: { page: Schemas['CanPage'] }) {
  const { can } = page;
  const { volume, system } = useUnits();
  const client = useQueryClient();
  const [typed, setTyped] = useState<Typed>({ text: '', unit: 'l' });
  const [countId, setCountId] = useState(() => uuid());
  const litres = parseTyped(typed, 'volume', system);
  const count = useMutation<Schemas['Shelf'], RefusalError, number>({
    mutationFn: (left) =>
      unwrap(
        api.POST('/api/cans/{can_id}/count', {
          params: { path: { can_id: can.id } },
          body: { id: countId, litres: left },
        }),
      ),
    onSuccess: (fresh) => {
      client.setQueryData(shelfOptions.queryKey, fresh);
      void client.invalidateQueries(canOptions(can.id));
      void client.invalidateQueries({ queryKey: ['bench'] });
      setTyped({ text: '', unit: 'l' });
      setCountId(uuid());
    },
  });
  return (
    <Page
      title="Container"
      number={can.number}
      line={`${can.name}${can.lot && `, lot ${can.lot}`}`}
      mainClass="shelf canpage"
      go={
        <GoPlate
          act={litres.ok ? `Record ${volume(litres.base)} in it` : 'Record what is in it'}
          then="pours take from this on"
          waits={litres.ok ? null : litres.empty ? 'Look in it: how much is left?' : 'Fix the litres'}
          busy={count.isPending}
          onPress={() => litres.ok && count.mutate(litres.base)}
        />
      }
    >
      <section className="noprint" aria-label="Left">
        <p className="leftnow" data-testid="can-left">
          {can.emptied ? 'Empty, off the shelf.' : `${volume(can.left_l)} of ${volume(can.size_l)} left`}
          {!can.emptied && can.left_half_l > 0 && ` ±${volume(can.left_half_l)}`}
        </p>
        {can.over && <p className="hot">More was poured than was counted. Count it.</p>}
        <Stepper
          name="count"
          label="Counted by hand: in it now"
          kind="volume"
          step={0.5}
          decimals={1}
          start={Math.round(can.left_l)}
          low={0}
          placeholder="not counted"
          typed={typed}
          refused={count.error?.message}
          onChange={setTyped}
        />
        {count.error && count.error.field !== 'litres' && (
          <Refusal which="Not recorded." allowed={count.error.message} />
        )}
      </section>
      <article className="printlabel machinelabel" data-testid="can-label">
        <div>
          <p className="plateword">{can.number}</p>
          <h2>{can.name}</h2>
          <p>
            {can.lot && <b>Lot {can.lot}. </b>}
            {can.strength_percent !== null && `${can.strength_percent} % by volume. `}
            {can.from_machine && `From ${can.from_machine}. `}
            {can.opened_on && `Opened ${dateOf(can.opened_on)}.`}
          </p>
          <p>Never mix. Maker’s label and local rules first.</p>
        </div>
        <QrCode rows={page.qr} says={page.address} />
      </article>
      <p className="noprint">
        <ButtonBase className="key" onClick={() => window.print()}>
          Print the label
        </ButtonBase>
      </p>
      <section className="noprint" aria-label="Poured">
        <h2>Where it went</h2>
        <Draws draws={page.draws} />
      </section>
    </Page>
  );
}
