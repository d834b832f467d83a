import { useRef } from 'react';
import { v4 as uuid } from 'uuid';
import type { Schemas } from '../api/client';
import { useRecord } from '../api/queries';
import { Refusal } from '../controls/Refusal';
import { type Parking, ParkedKeys } from './ParkedKeys';
import { offerUndo } from './undo';

/** Where a machine is parked, once nobody works on it: pressed, it is recorded. */
export function ParkedNow({ bench }: { bench: Schemas['Bench'] }) {
  const loopId = bench.loop.id;
  const between = bench.state.job_id === null || bench.state.signed_at !== null;
  const record = useRecord(loopId);
  const id = useRef(uuid()); // kept until it is stored: a double press stores it once
  const press = (where: Parking) => {
    if (record.isPending) return;
    const entry = id.current;
    record.mutate(
      { entries: [{ id: entry, kind: 'parked', facts: { where } }], seen: null, between },
      {
        onSuccess: () => {
          id.current = uuid();
          offerUndo({ loopId, between, entryIds: [entry] });
        },
      },
    );
  };
  return (
    <>
      <ParkedKeys value={bench.state.parked ?? ''} onChange={press} />
      {record.error && <Refusal which="Not recorded." allowed={record.error.message} />}
    </>
  );
}
