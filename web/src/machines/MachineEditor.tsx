import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { Refusal as RefusalError, Schemas } from '../api/client';
import { GoPlate } from '../controls/GoPlate';
import { NumberField, numberOf } from '../controls/NumberField';
import { Refusal } from '../controls/Refusal';
import { TextField } from '../controls/TextField';
import { NO_OWNER, OwnerFields, ownerIn, type OwnerTyped } from './OwnerFields';

const SHOWN = ['fleet_number', 'kind', 'owner.name', 'owner.telephone', 'owner.email'];
/** Without what only the server knows of them. */
const sent = (owner: OwnerTyped): OwnerTyped | null =>
  ownerIn({ name: owner.name, telephone: owner.telephone, email: owner.email });

type Given = Omit<Schemas['MachineEdit'], 'seen'>;

interface Props {
  machine: Schemas['MachineOut'];
  owner: Schemas['OwnerOut'] | null;
  busy: boolean;
  refusal: RefusalError | null;
  onKeep: (given: Given) => void;
  onLeave: () => void;
}

/** Number, kind, description, year. */
export function MachineEditor({ machine, owner: before, busy, refusal, onKeep, onLeave }: Props) {
  const [number, setNumber] = useState(machine.fleet_number);
  const [kind, setKind] = useState(machine.kind);
  const [description, describe] = useState(machine.description);
  const [year, setYear] = useState(machine.year === null ? '' : String(machine.year));
  const [owner, setOwner] = useState<OwnerTyped>(before ?? NO_OWNER);
  const fieldError = (name: string) => (refusal?.field === name ? refusal.message : undefined);
  const typedYear = numberOf(year);
  const yearOk = year.trim() === '' || (typedYear !== null && Number.isInteger(typedYear));
  const waits = !number.trim() || !kind.trim() ? 'Give it a number and a kind' : yearOk ? null : 'Fix the year';
  return (
    <>
      <main id="work" className="onecolumn">
        <div className="formside">
          <div className="row machinekeys">
            <ButtonBase className="key" onClick={onLeave}>
              Discard changes
            </ButtonBase>
          </div>
          <div className="row">
            <TextField
              name="number"
              label="Fleet number"
              value={number}
              max={16}
              wide
              refused={fieldError('fleet_number')}
              onChange={setNumber}
            />
            <TextField
              name="kind"
              label="Description"
              value={kind}
              max={60}
              wide
              refused={fieldError('kind')}
              onChange={setKind}
            />
            <NumberField name="year" label="Built in" unit="" value={year} low={1900} high={2100} onChange={setYear} />
          </div>
          <TextField name="description" label="Description" value={description} max={120} wide onChange={describe} />
          <div className="row">
            <OwnerFields owner={owner} refused={fieldError} onChange={setOwner} />
          </div>
          {refusal && !SHOWN.includes(refusal.field) && <Refusal which="Not saved." allowed={refusal.message} />}
        </div>
      </main>
      <div className="gocorner">
        <GoPlate
          act="Save"
          waits={waits}
          busy={busy}
          onPress={() => onKeep({ fleet_number: number, kind, description, year: typedYear, owner: sent(owner) })}
        />
      </div>
    </>
  );
}
