import ButtonBase from '@mui/material/ButtonBase';
import type { Refusal as RefusalError, Schemas } from '../api/client';
import { Check } from '../controls/Check';
import { DateField } from '../controls/DateField';
import { NumberField } from '../controls/NumberField';
import { QuantityField } from '../controls/QuantityField';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { TextField } from '../controls/TextField';
import { CAN_KIND } from '../language/names';
import type { CanForm } from './canForm';

interface Props {
  form: CanForm;
  catalogue: Schemas['Catalogue'];
  refusal: RefusalError | null;
  onChange: (part: Partial<CanForm>) => void;
  onLeave: () => void;
}

/** A container as it comes off the lorry, or as it stands: what is in it, its lot, how much. */
export function CanFields({ form, catalogue, refusal, onChange, onLeave }: Props) {
  const lines = {
    coolant: catalogue.products.map((line) => line.product),
    recovered: catalogue.products.map((line) => line.product),
    agent: catalogue.agents,
    water: catalogue.waters,
  }[form.kind];
  const kinds = Object.keys(CAN_KIND) as Schemas['CanKind'][];
  return (
    <div className="editor">
      <Segment
        label="It holds"
        value={form.kind}
        options={kinds.map((value) => ({ value, label: CAN_KIND[value] }))}
        onChange={(kind) => onChange({ kind, held: '' })}
      />
      <label className="othercan">
        Of Products{' '}
        <select name="held" value={form.held} onChange={(event) => onChange({ held: event.target.value })}>
          <option value="">{form.kind === 'recovered' ? 'not known' : 'choose'}</option>
          {lines.map((row) => (
            <option key={row.id} value={row.id}>
              {row.name}
            </option>
          ))}
        </select>
      </label>
      <TextField name="lot" label="Lot, as printed" value={form.lot} max={40} onChange={(lot) => onChange({ lot })} />
      <QuantityField
        name="size"
        label="Holds"
        kind="volume"
        typed={form.size}
        onChange={(size) => onChange({ size })}
      />
      {form.canId === null && (
        <QuantityField
          name="left"
          label="In it now (empty: full)"
          kind="volume"
          typed={form.left}
          onChange={(left) => onChange({ left })}
        />
      )}
      {(form.kind === 'coolant' || form.kind === 'recovered') && (
        <NumberField
          name="strength"
          label="Strength by volume, if measured"
          unit="%"
          value={form.strength}
          low={0}
          high={100}
          onChange={(strength) => onChange({ strength })}
        />
      )}
      {form.kind === 'recovered' && (
        <DateField
          name="since"
          label="First in a loop since"
          value={form.since}
          onChange={(since) => onChange({ since })}
        />
      )}
      <DateField
        name="opened"
        label="Opened on"
        value={form.openedOn}
        onChange={(openedOn) => onChange({ openedOn })}
      />
      <TextField name="place" label="Kept at" value={form.place} max={60} onChange={(place) => onChange({ place })} />
      <TextField
        name="number"
        label="Number (empty: the next)"
        value={form.number}
        max={20}
        refused={refusal?.field === 'number' ? refusal.message : undefined}
        onChange={(number) => onChange({ number })}
      />
      {form.canId !== null && (
        <Check
          label="Empty, off the shelf"
          detail="its lot can still be traced"
          checked={form.emptied}
          onChange={(emptied) => onChange({ emptied })}
        />
      )}
      <ButtonBase className="key" onClick={onLeave}>
        Discard changes
      </ButtonBase>
      {refusal && refusal.field !== 'number' && <Refusal which="Not saved." allowed={refusal.message} />}
    </div>
  );
}
