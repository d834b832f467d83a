import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { catalogueOptions, sessionOptions } from '../api/queries';
import { AddFromList, type StarterList } from '../controls/AddFromList';
import { FindField, hasWords } from '../controls/FindField';
import { GoPlate } from '../controls/GoPlate';
import { Plus } from '../controls/icons';
import { NotHere } from '../controls/NotHere';
import { Refusal } from '../controls/Refusal';
import { Page, Waiting } from '../controls/menu/Page';
import { chemistry } from '../language/names';
import { useUnits } from '../units/UnitsContext';
import './products.css';
import { type Body, emptyOf, formOf, type LineForm, lineFromForm, type Noun } from './lineForm';
import { LineFields } from './LineFields';
import { AgentRow, ProductRow, WaterRow } from './Rows';

type Data = Schemas['Catalogue'];

async function keep(form: LineForm, body: Body): Promise<Data> {
  const params = { path: { line_id: form.lineId ?? 0 } };
  if (form.noun === 'product') {
    const given = body as Schemas['ProductIn'];
    return unwrap(
      form.lineId === null
        ? api.POST('/api/products', { body: given })
        : api.PUT('/api/products/{line_id}', { params, body: given }),
    );
  }
  if (form.noun === 'agent') {
    const given = body as Schemas['AgentIn'];
    return unwrap(
      form.lineId === null
        ? api.POST('/api/agents', { body: given })
        : api.PUT('/api/agents/{line_id}', { params, body: given }),
    );
  }
  const given = body as Schemas['WaterIn'];
  return unwrap(
    form.lineId === null
      ? api.POST('/api/waters', { body: given })
      : api.PUT('/api/waters/{line_id}', { params, body: given }),
  );
}

/** What can go into a loop here, and into how many of them: coolants, cleaners and additives, water. */
export default function ProductsPage() {
  const catalogue = useQuery(catalogueOptions);
  const session = useQuery(sessionOptions).data;
  const client = useQueryClient();
  const { system } = useUnits();
  const [words, look] = useState('');
  const [list, openList] = useState<StarterList | null>(null);
  const [form, setForm] = useState<LineForm | null>(null); // never kept: a line is set in one go or not suitable
  const save = useMutation<Data, RefusalError, { form: LineForm; body: Body }>({
    mutationFn: ({ form: line, body }) => keep(line, body),
    onSuccess: (fresh) => {
      client.setQueryData(catalogueOptions.queryKey, fresh);
      void client.invalidateQueries({ queryKey: ['bench'] });
      setForm(null);
    },
  });
  if (catalogue.isError)
    return (
      <NotHere
        head="The products cannot be shown."
        text={catalogue.error.message}
        retry={() => void catalogue.refetch()}
      />
    );
  if (!catalogue.data) return <Waiting title="Products" />;
  const lead = session?.person?.role === 'lead';
  const currency = session?.depot?.currency ?? '';
  const { products, agents, waters } = catalogue.data;
  const body = form ? lineFromForm(form, system) : null;
  const edit = (next: LineForm) => {
    save.reset();
    setForm(next);
  };
  const editor = form && (
    <LineFields
      form={form}
      currency={currency}
      wrong={typeof body === 'string' ? body : null}
      refusal={save.error}
      onChange={(part) => setForm({ ...form, ...part } as LineForm)}
      onLeave={() => setForm(null)}
    />
  );
  const slot = (noun: Noun, id: number | null) => (form?.noun === noun && form.lineId === id ? editor : null);
  const add = (noun: Noun, words: string) =>
    lead && (
      <ButtonBase className="key small" onClick={() => edit(emptyOf(noun))}>
        <Plus />
        &nbsp;{words}
      </ButtonBase>
    );
  const listKey = (of: StarterList) =>
    lead && (
      <ButtonBase className="key small" onClick={() => openList(of)}>
        Add from the list
      </ButtonBase>
    );
  const waits = form?.name.trim() === '' ? 'Give it a name' : typeof body === 'string' ? 'Fix the marked fields' : null;
  const press = () => {
    if (form && body && typeof body !== 'string') save.mutate({ form, body });
  };
  return (
    <Page
      title="Products"
      line={lead ? 'Coolant already poured keeps its composition' : 'A lead edits this; the label comes first'}
      tools={
        <>
          <FindField name="find-product" label="Name, family or base" value={words} onChange={look} />
          <nav className="jumps" aria-label="Groups">
            <a href="#coolants">Coolants</a>
            <a href="#agents">Cleaners and additives</a>
            <a href="#waters">Water</a>
          </nav>
        </>
      }
      mainClass="catalogue"
      go={
        form && (
          <GoPlate
            act={`Save ${form.name.trim() || 'product'}`}
            then="used when a coolant is chosen"
            waits={waits}
            busy={save.isPending}
            onPress={press}
          />
        )
      }
    >
      <section aria-label="Coolants" id="coolants">
        <h2>
          Coolants <span>and how many of this depot’s loops they suit</span>
          {add('product', 'Coolant')}
          {listKey('coolants')}
        </h2>
        {slot('product', null)}
        {products.length === 0 && (
          <p className="empty">
            <b>No coolant yet.</b> {lead ? 'Add from the list what stands on the shelf.' : 'Ask a lead to add it.'}
          </p>
        )}
        {products
          .filter(({ product }) => hasWords(`${product.name} ${chemistry(product.family, product.base)}`, words))
          .map((line) => (
            <ProductRow
              key={line.product.id}
              line={line}
              currency={currency}
              onEdit={lead ? () => edit(formOf('product', line, system)) : null}
            >
              {slot('product', line.product.id)}
            </ProductRow>
          ))}
      </section>
      <section aria-label="Cleaners and additives" id="agents">
        <h2>
          Cleaners and additives <span>used as the label says; no frost protection while a cleaner is inside</span>
          {add('agent', 'Cleaner or additive')}
        </h2>
        {slot('agent', null)}
        {agents
          .filter((line) => hasWords(line.name, words))
          .map((line) => (
            <AgentRow
              key={line.id}
              line={line}
              currency={currency}
              onEdit={lead ? () => edit(formOf('agent', line, system)) : null}
            >
              {slot('agent', line.id)}
            </AgentRow>
          ))}
      </section>
      <section aria-label="Water" id="waters">
        <h2>
          Water <span>for mixes, or only for rinsing?</span>
          {add('water', 'Water')}
          {listKey('waters')}
        </h2>
        {slot('water', null)}
        {waters
          .filter((line) => hasWords(line.name, words))
          .map((line) => (
            <WaterRow
              key={line.id}
              line={line}
              currency={currency}
              onEdit={lead ? () => edit(formOf('water', line, system)) : null}
            >
              {slot('water', line.id)}
            </WaterRow>
          ))}
      </section>
      {list && <AddFromList of={list} onClose={() => openList(null)} />}
      {save.isError && !form && <Refusal which="Not saved." allowed={save.error.message} />}
    </Page>
  );
}
