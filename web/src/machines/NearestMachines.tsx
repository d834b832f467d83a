import { useState } from 'react';
import type { Schemas } from '../api/client';
import { FindField } from '../controls/FindField';
import { Start } from './BuildFields';

const NEAREST = 6; // of five hundred machines, so many that are like what was typed

/** A number without what people leave out when they type it. */
export const plain = (number: string): string => number.replace(/[\s.-]/g, '').toLowerCase();

interface Props {
  label: string;
  machines: Schemas['MachineCard'][];
  picked: number | null;
  /** What a machine's key says. */
  say: (number: string) => string;
  none: string;
  onPick: (machineId: number, kind: string) => void;
}

/** The machines nearest to what was typed, one of them picked. */
export function NearestMachines({ label, machines, picked, say, none, onPick }: Props) {
  const [words, look] = useState('');
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean);
  const near = machines.filter(({ machine }) => {
    const text =
      `${machine.fleet_number} ${plain(machine.fleet_number)} ${machine.kind} ${machine.description}`.toLowerCase();
    return asked.every((word) => text.includes(word));
  });
  return (
    <>
      <FindField name="like" label={label} value={words} onChange={look} />
      <div className="starts" role="radiogroup" aria-label={label}>
        {near.slice(0, NEAREST).map(({ machine }) => (
          <Start
            key={machine.id}
            name={say(machine.fleet_number)}
            says={machine.kind}
            picked={picked === machine.id}
            onPick={() => onPick(machine.id, machine.kind)}
          />
        ))}
      </div>
      <p role="status" className="ink2">
        {near.length === 0 ? none : near.length > NEAREST ? `${near.length} found: type more of it.` : ''}
      </p>
    </>
  );
}
