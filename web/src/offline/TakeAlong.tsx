import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import { useDepot } from '../api/useDepot';
import { Segment } from '../controls/Segment';
import { timeOf } from '../language/time';
import { pick, picked, refreshKit, setTakesAlong, takesAlong } from './kit';
import { useBay } from './state';

/** The switch of a device: whether it takes a kit along for work without a network. */
export function TakeAlong() {
  const bay = useBay();
  const depot = useDepot();
  const [yes, setYes] = useState(takesAlong());
  return (
    <>
      <Segment
        label="Take a kit along"
        value={yes ? 'yes' : 'no'}
        options={[
          { value: 'yes', label: 'Yes' },
          { value: 'no', label: 'No' },
        ]}
        onChange={(value) => {
          setTakesAlong(value === 'yes');
          setYes(value === 'yes');
        }}
      />
      <p className="ink2">
        {bay.kitAt === null
          ? 'No kit here yet. It is fetched in the background while the server answers.'
          : `Kit of ${timeOf(bay.kitAt, depot?.time_zone)}: loops in work and due, machines you picked, lists and rules.`}
      </p>
    </>
  );
}

/** Takes one machine along on this device, or leaves it; the kit follows at once. */
export function TakeMachineAlong({ machineId }: { machineId: number }) {
  const [along, setAlong] = useState(picked().includes(machineId));
  if (!takesAlong()) return null;
  const press = () => {
    pick(machineId, !along);
    setAlong(!along);
    void refreshKit().catch(() => undefined); // without a network it follows with the next kit
  };
  return (
    <ButtonBase className="key" aria-pressed={along} onClick={press}>
      {along ? 'Taken along, leave it' : 'Take along'}
    </ButtonBase>
  );
}
