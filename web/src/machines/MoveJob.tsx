import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { benchOptions, machinesOptions } from '../api/queries';
import { DialogFrame } from '../controls/DialogFrame';
import { Refusal } from '../controls/Refusal';
import { NearestMachines } from './NearestMachines';

interface Props {
  machine: Schemas['MachineOut'];
  loopId: number;
  onClose: () => void;
}

/** A job that was begun on the wrong machine: to which one it belongs. A lead's. */
export function MoveJob({ machine, loopId, onClose }: Props) {
  const client = useQueryClient();
  const go = useNavigate();
  const jobId = useQuery(benchOptions(loopId)).data?.state.job_id ?? null;
  const machines = (useQuery(machinesOptions).data?.machines ?? []).filter((card) => card.machine.id !== machine.id);
  const [to, pick] = useState<number | null>(null);
  const move = useMutation<Schemas['JobOpenedOut'], RefusalError, { job_id: string; machine_id: number }>({
    mutationFn: ({ job_id, machine_id }) =>
      unwrap(api.POST('/api/jobs/{job_id}/move', { params: { path: { job_id } }, body: { machine_id } })),
    onSuccess: async (moved) => {
      await client.invalidateQueries();
      await go(`/loops/${moved.loop_ids[0]}`);
    },
  });
  const number = machines.find((card) => card.machine.id === to)?.machine.fleet_number;
  const ready = to !== null && jobId !== null && !move.isPending;
  return (
    <DialogFrame open title={`Move the job of ${machine.fleet_number}`} leave="Cancel" onClose={onClose}>
      <p>
        Everything recorded in it goes to the other machine, as it happened and under whoever recorded it, by that
        machine’s litres. Here it stays in the record, struck. What is signed cannot be moved.
      </p>
      <NearestMachines
        label="Which machine does it belong to?"
        machines={machines}
        picked={to}
        say={(name) => name}
        none="No machine by that. Take it in first."
        onPick={(machineId) => pick(machineId)}
      />
      {move.error && <Refusal which="Not moved." allowed={move.error.message} />}
      <ButtonBase
        className="key"
        aria-disabled={!ready}
        onClick={() => ready && move.mutate({ job_id: jobId, machine_id: to })}
      >
        {number ? `Move it to ${number}` : 'Choose a machine'}
      </ButtonBase>
    </DialogFrame>
  );
}
