import { v4 as uuid } from 'uuid';
import type { Schemas } from '../api/client';
import { numberOf, wrongNumber } from '../controls/NumberField';
import { parseTyped, type Typed, typedFrom } from '../units/parse';
import type { System } from '../units/units';
import { orSentence, Unreadable } from '../units/unreadable';

export type Noun = 'product' | 'agent' | 'water';
export type Body = Schemas['ProductIn'] | Schemas['AgentIn'] | Schemas['WaterIn'];

interface Line {
  /** null: a new line. */
  lineId: number | null;
  id: string;
  seen: string | null;
  name: string;
  price: string;
  /** Order below this much on the shelf. */
  minimum: Typed;
}

export interface ProductForm extends Line {
  noun: 'product';
  base: Schemas['Base'];
  family: Schemas['Family'];
  form: Schemas['Form'];
  glycol: string;
  /** The label is silent of its glycol: what is usual counts, with a wider doubt. */
  silent: boolean;
  standards: string;
  sizes: string;
}

export interface AgentForm extends Line {
  noun: 'agent';
  kind: Schemas['AgentKind'];
  container: string;
  treats: Typed;
  light: string;
  heavy: string;
  limit: string;
  below: string;
  /** Of an additive: what one label dose raises [mg/l], and the coolants its label names. */
  nitrite: string;
  molybdate: string;
  families: Schemas['Family'][];
}

export interface WaterForm extends Line {
  noun: 'water';
  kind: Schemas['WaterKind'];
  chloride: string;
  sulphate: string;
  hardness: string;
  solids: string;
  ph: string;
  analysedOn: string;
}

export type LineForm = ProductForm | AgentForm | WaterForm;

const fresh = (): Line => ({
  lineId: null,
  id: uuid(),
  seen: null,
  name: '',
  price: '',
  minimum: { text: '', unit: 'l' },
});

export function emptyOf(noun: Noun): LineForm {
  if (noun === 'product')
    return {
      ...fresh(),
      noun,
      base: 'ethylene',
      family: 'oat',
      form: 'concentrate',
      glycol: '',
      silent: false,
      standards: '',
      sizes: '5',
    };
  if (noun === 'agent')
    return {
      ...fresh(),
      noun,
      kind: 'cleaner',
      container: '',
      treats: { text: '', unit: 'l' },
      light: '',
      heavy: '',
      limit: '',
      below: '',
      nitrite: '',
      molybdate: '',
      families: [],
    };
  return {
    ...fresh(),
    noun,
    kind: 'tap',
    chloride: '',
    sulphate: '',
    hardness: '',
    solids: '',
    ph: '',
    analysedOn: '',
  };
}

const least = (litres: number | null | undefined, system: System): Typed =>
  litres == null ? { text: '', unit: 'l' } : typedFrom(litres, 'volume', system, 1);

const plain = (value: number | string | null | undefined): string => (value == null ? '' : String(value));

export function formOf(
  noun: Noun,
  given: Schemas['ProductLine'] | Schemas['AgentOut'] | Schemas['WaterOut'],
  system: System,
): LineForm {
  if (noun === 'product') {
    const { product, edited_at: seen } = given as Schemas['ProductLine'];
    return {
      noun,
      lineId: product.id,
      id: uuid(),
      seen,
      name: product.name,
      price: plain(product.price_per_l),
      minimum: least(product.minimum_l, system),
      base: product.base,
      family: product.family,
      form: product.form,
      glycol: product.glycol_stated !== false ? plain(product.glycol_mass_percent) : '',
      silent: product.glycol_stated === false && product.label_entered !== false,
      standards: product.standards.join(', '),
      sizes: product.container_sizes_l.join('; '),
    };
  }
  if (noun === 'agent') {
    const agent = given as Schemas['AgentOut'];
    return {
      noun,
      lineId: agent.id,
      id: uuid(),
      seen: agent.edited_at,
      name: agent.name,
      price: plain(agent.price),
      minimum: least(agent.minimum_l, system),
      kind: agent.kind,
      container: plain(agent.container_ml),
      treats: typedFrom(agent.treats_l, 'volume', system, 2),
      light: plain(agent.light_min),
      heavy: plain(agent.heavy_min),
      limit: plain(agent.limit_min),
      below: plain(agent.rinse_below_percent),
      nitrite: plain(agent.nitrite_mg_l),
      molybdate: plain(agent.molybdate_mg_l),
      families: agent.families,
    };
  }
  const water = given as Schemas['WaterOut'];
  return {
    noun,
    lineId: water.id,
    id: uuid(),
    seen: water.edited_at,
    name: water.name,
    price: plain(water.price_per_l),
    minimum: least(water.minimum_l, system),
    kind: water.kind,
    chloride: plain(water.chloride_mg_l),
    sulphate: plain(water.sulphate_mg_l),
    hardness: plain(water.hardness_mg_l),
    solids: plain(water.solids_mg_l),
    ph: plain(water.ph),
    analysedOn: plain(water.analysed_on),
  };
}

function figure(typed: string, what: string): number | null {
  const wrong = wrongNumber(typed, '');
  if (wrong) throw new Unreadable(`${what}: ${wrong}`);
  return numberOf(typed);
}

function needed(typed: string, what: string): number {
  const value = figure(typed, what);
  if (value === null) throw new Unreadable(`${what} is missing.`);
  return value;
}

function price(typed: string): string | null {
  const value = figure(typed, 'Price');
  if (value !== null && value < 0) throw new Unreadable('Price: it cannot be negative.');
  return value === null ? null : value.toFixed(2);
}

const words = (typed: string, by: RegExp): string[] =>
  typed
    .split(by)
    .map((one) => one.trim())
    .filter(Boolean);

/** What is typed as a line of the catalogue, or the first sentence about what cannot be read. */
export function lineFromForm(form: LineForm, system: System): Body | string {
  return orSentence((): Body | string => {
    const least = parseTyped(form.minimum, 'volume', system);
    if (!least.ok && !least.empty) throw new Unreadable(`Order below: cannot read ${least.which}.`);
    const line = {
      id: form.id,
      seen: form.seen,
      name: form.name.trim(),
      minimum_l: least.ok ? least.base : null,
    };
    if (line.name === '') return 'The name is missing.';
    if (form.noun === 'product') return { ...line, ...productOf(form) };
    if (form.noun === 'agent') return { ...line, ...agentOf(form, system) };
    return {
      ...line,
      kind: form.kind,
      chloride_mg_l: figure(form.chloride, 'Chloride'),
      sulphate_mg_l: figure(form.sulphate, 'Sulphate'),
      hardness_mg_l: figure(form.hardness, 'Hardness'),
      solids_mg_l: figure(form.solids, 'Total solids'),
      ph: figure(form.ph, 'pH'),
      analysed_on: form.analysedOn || null,
      price_per_l: price(form.price),
    };
  });
}

function productOf(form: ProductForm): Omit<Schemas['ProductIn'], 'id' | 'seen' | 'name' | 'minimum_l'> {
  return {
    base: form.base,
    family: form.base === 'none' ? 'glycol_free' : form.family,
    form: form.base === 'none' ? 'ready_mix' : form.form,
    glycol_mass_percent: form.base === 'none' ? 0 : form.silent ? null : needed(form.glycol, 'Glycol'),
    standards: words(form.standards, /,/),
    container_sizes_l: words(form.sizes, /;/).map((one) => needed(one, 'Containers')),
    price_per_l: price(form.price),
  };
}

function agentOf(form: AgentForm, system: System): Omit<Schemas['AgentIn'], 'id' | 'seen' | 'name' | 'minimum_l'> {
  const treats = parseTyped(form.treats, 'volume', system);
  if (!treats.ok) throw new Unreadable('One container treats how many litres?');
  const adds = form.kind === 'additive';
  return {
    kind: form.kind,
    nitrite_mg_l: adds ? figure(form.nitrite, 'Nitrite') : null,
    molybdate_mg_l: adds ? figure(form.molybdate, 'Molybdate') : null,
    families: adds ? form.families : [],
    container_ml: needed(form.container, 'Container'),
    treats_l: treats.base,
    light_min: figure(form.light, 'Light run'),
    heavy_min: figure(form.heavy, 'Heavy run'),
    limit_min: figure(form.limit, 'Limit'),
    rinse_below_percent: figure(form.below, 'Rinse below'),
    price: price(form.price),
  };
}
