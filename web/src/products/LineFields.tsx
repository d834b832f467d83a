import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import type { Refusal as RefusalError } from '../api/client';
import { starterOptions } from '../api/queries';
import { Check } from '../controls/Check';
import { Chips } from '../controls/Chips';
import { DateField } from '../controls/DateField';
import { NumberField } from '../controls/NumberField';
import { QuantityField } from '../controls/QuantityField';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { TextField } from '../controls/TextField';
import { AGENT_KIND, BASE, FAMILY, FORM, WATER_KIND } from '../language/names';
import type { AgentForm, LineForm, ProductForm, WaterForm } from './lineForm';

const options = <T extends string>(names: Record<T, string>) =>
  (Object.keys(names) as T[]).map((value) => ({ value, label: names[value] }));

interface Props {
  form: LineForm;
  currency: string;
  /** The first thing typed that cannot be read. */
  wrong: string | null;
  refusal: RefusalError | null;
  onChange: (part: Partial<LineForm>) => void;
  onLeave: () => void;
}

/** One line of the catalogue, as a lead enters it from data sheet or label. */
export function LineFields({ form, currency, wrong, refusal, onChange, onLeave }: Props) {
  const per = form.noun === 'agent' ? 'per container' : 'per litre';
  return (
    <div className="editor">
      <TextField
        name="name"
        label="Name"
        value={form.name}
        max={60}
        wide
        refused={refusal?.field === 'name' ? refusal.message : undefined}
        onChange={(name) => onChange({ name })}
      />
      {form.noun === 'product' && <ProductFields form={form} onChange={onChange} />}
      {form.noun === 'agent' && <AgentFields form={form} onChange={onChange} />}
      {form.noun === 'water' && <WaterFields form={form} onChange={onChange} />}
      <NumberField
        name="price"
        label={`Price ${per}`}
        unit={currency}
        value={form.price}
        low={0}
        high={100000}
        onChange={(price) => onChange({ price })}
      />
      <QuantityField
        name="minimum"
        label="Order below, on the shelf"
        kind="volume"
        typed={form.minimum}
        onChange={(minimum) => onChange({ minimum })}
      />
      <ButtonBase className="key" onClick={onLeave}>
        Discard changes
      </ButtonBase>
      {wrong && form.name.trim() !== '' && <Refusal which={wrong} />}
      {refusal && refusal.field !== 'name' && <Refusal which="Not saved." allowed={refusal.message} />}
    </div>
  );
}

function ProductFields({ form, onChange }: { form: ProductForm; onChange: (part: Partial<ProductForm>) => void }) {
  return (
    <>
      <Segment label="Base" value={form.base} options={options(BASE)} onChange={(base) => onChange({ base })} />
      {form.base !== 'none' && (
        <>
          <Segment
            label="Sold as"
            value={form.form}
            options={options(FORM)}
            onChange={(sold) => onChange({ form: sold })}
          />
          <Chips
            label="Inhibitor family"
            options={options(FAMILY).filter((row) => row.value !== 'glycol_free')}
            picked={[form.family]}
            onChange={(picked) => onChange({ family: picked.at(-1) ?? form.family })}
          />
          {!form.silent && (
            <NumberField
              name="glycol"
              label="Glycol by mass, as the label states it"
              unit="%"
              value={form.glycol}
              low={5}
              high={100}
              onChange={(glycol) => onChange({ glycol })}
            />
          )}
          <Check
            label="The label does not state its glycol"
            detail="What is usual counts, with a wider uncertainty in every mix."
            checked={form.silent}
            onChange={(silent) => onChange({ silent })}
          />
        </>
      )}
      <TextField
        name="standards"
        label="Standards, with commas"
        value={form.standards}
        max={160}
        wide
        onChange={(standards) => onChange({ standards })}
      />
      <TextField
        name="sizes"
        label="Container sizes in litres, such as 5; 20"
        value={form.sizes}
        max={60}
        wide
        onChange={(sizes) => onChange({ sizes })}
      />
    </>
  );
}

const TAKES_NO_ADDITIVE = new Set(['glycol_free', 'low_conductivity']);

function AgentFields({ form, onChange }: { form: AgentForm; onChange: (part: Partial<AgentForm>) => void }) {
  const minutes = (key: 'light' | 'heavy' | 'limit', label: string) => (
    <NumberField
      name={key}
      label={label}
      unit="min"
      value={form[key]}
      low={1}
      high={14400}
      onChange={(value) => onChange({ [key]: value })}
    />
  );
  const sorts = useQuery({ ...starterOptions, enabled: form.lineId === null }).data?.agents ?? [];
  return (
    <>
      {form.lineId === null && (
        <Chips
          label="A usual sort: its figures are on the label"
          options={sorts.filter((row) => !row.here).map((row) => ({ value: row.key, label: row.name }))}
          picked={sorts.filter((row) => row.name === form.name).map((row) => row.key)}
          onChange={(picked) => {
            const sort = sorts.find((row) => row.key === picked.at(-1));
            if (sort) onChange({ name: sort.name, kind: sort.says as AgentForm['kind'] });
          }}
        />
      )}
      <Segment label="Kind" value={form.kind} options={options(AGENT_KIND)} onChange={(kind) => onChange({ kind })} />
      <NumberField
        name="container"
        label={form.kind === 'additive' ? 'One label dose' : 'One container treats'}
        unit="ml"
        value={form.container}
        low={1}
        high={250000}
        onChange={(container) => onChange({ container })}
      />
      <QuantityField
        name="treats"
        label="treats"
        kind="volume"
        typed={form.treats}
        onChange={(treats) => onChange({ treats })}
      />
      {form.kind === 'cleaner' && (
        <>
          {minutes('light', 'Light run')}
          {minutes('heavy', 'Heavy run')}
          {minutes('limit', 'Longest time inside')}
          <NumberField
            name="below"
            label="Rinse until below"
            unit="%"
            value={form.below}
            low={0.01}
            high={50}
            onChange={(below) => onChange({ below })}
          />
        </>
      )}
      {form.kind === 'additive' && (
        <>
          {(['nitrite', 'molybdate'] as const).map((key) => (
            <NumberField
              key={key}
              name={key}
              label={`raises ${key} by`}
              unit="mg/l"
              value={form[key]}
              low={1}
              high={20000}
              onChange={(value) => onChange({ [key]: value })}
            />
          ))}
          <Chips
            label="For coolants, by its label"
            options={options(FAMILY).filter((row) => !TAKES_NO_ADDITIVE.has(row.value))}
            picked={form.families}
            onChange={(families) => onChange({ families })}
          />
        </>
      )}
    </>
  );
}

const FIGURES = [
  ['chloride', 'Chloride', 'mg/l', 50000],
  ['sulphate', 'Sulphate', 'mg/l', 50000],
  ['hardness', 'Hardness, as CaCO3', 'mg/l', 50000],
  ['solids', 'Total solids', 'mg/l', 50000],
  ['ph', 'pH', '', 14],
] as const;

function WaterFields({ form, onChange }: { form: WaterForm; onChange: (part: Partial<WaterForm>) => void }) {
  return (
    <>
      <Segment label="Kind" value={form.kind} options={options(WATER_KIND)} onChange={(kind) => onChange({ kind })} />
      {FIGURES.map(([key, label, unit, high]) => (
        <NumberField
          key={key}
          name={key}
          label={label}
          unit={unit}
          value={form[key]}
          low={0}
          high={high}
          onChange={(value) => onChange({ [key]: value })}
        />
      ))}
      <DateField
        name="analysedOn"
        label="Analysed on"
        value={form.analysedOn}
        onChange={(analysedOn) => onChange({ analysedOn })}
      />
    </>
  );
}
