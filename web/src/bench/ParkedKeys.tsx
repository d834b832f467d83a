import type { Schemas } from '../api/client';
import { Segment } from '../controls/Segment';
import { PARKING } from '../language/names';

export type Parking = Schemas['Parking'];

const OPTIONS = (Object.keys(PARKING) as Parking[]).map((value) => ({
  value,
  label: PARKING[value].charAt(0).toUpperCase() + PARKING[value].slice(1),
}));

interface Props {
  value: Parking | '';
  onChange: (where: Parking) => void;
}

/** Where the machine is parked: one press. Nothing is chosen for anybody. */
export function ParkedKeys({ value, onChange }: Props) {
  return (
    <div data-testid="parked">
      <Segment
        label="Where is it parked? Not answered counts as outdoors."
        value={value}
        options={OPTIONS}
        onChange={onChange}
      />
    </div>
  );
}
