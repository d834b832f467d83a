import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { machineOptions, ownerOptions } from '../api/queries';
import { DialogFrame } from '../controls/DialogFrame';
import { Refusal } from '../controls/Refusal';

interface Props {
  owner: Schemas['OwnerOut'];
  machineId: number;
  lead: boolean;
}

/** Whom the machine belongs to: to call, to write to; a lead erases them when they ask for it. */
export function OwnerBox({ owner, machineId, lead }: Props) {
  const [asking, ask] = useState(false);
  return (
    <section className="ownerbox" aria-label="Owner">
      <p>
        <span>
          Belongs to <b>{owner.name}</b>
        </span>
        {owner.telephone && <a href={`tel:${owner.telephone.replace(/[^\d+]/g, '')}`}>{owner.telephone}</a>}
        {owner.email && <a href={`mailto:${owner.email}`}>{owner.email}</a>}
      </p>
      {lead && (
        <ButtonBase className="key small" onClick={() => ask(true)}>
          Erase owner
        </ButtonBase>
      )}
      {asking && <EraseOwner owner={owner} machineId={machineId} onClose={() => ask(false)} />}
    </section>
  );
}

function EraseOwner({ owner, machineId, onClose }: { owner: Props['owner']; machineId: number; onClose: () => void }) {
  const client = useQueryClient();
  const shown = useQuery(ownerOptions(owner.uuid)).data;
  const erase = useMutation<Schemas['OwnerErased'], RefusalError>({
    mutationFn: () => unwrap(api.DELETE('/api/owners/{owner_uuid}', { params: { path: { owner_uuid: owner.uuid } } })),
  });
  const close = () => {
    if (erase.data) for (const key of ['machines', 'loops']) void client.invalidateQueries({ queryKey: [key] });
    if (erase.data) void client.invalidateQueries(machineOptions(machineId));
    onClose();
  };
  const named = erase.data?.named_in ?? shown?.named_in ?? [];
  return (
    <DialogFrame open title={erase.data ? 'Owner erased' : `Erase ${owner.name}?`} onClose={close}>
      {erase.data ? (
        <p>Name, telephone and e-mail are gone, also from a backup that is restored here later.</p>
      ) : (
        <p>
          Name, telephone and e-mail go for good, on {shown?.machines.map((row) => row.fleet_number).join(', ') ?? '…'}.
          Records and figures of the machines stay. Backups, archives and printed sheets made before still have them.
        </p>
      )}
      {named.length > 0 && (
        <>
          <p>
            <b>Free text still says it; a record is not rewritten:</b>
          </p>
          <ul className="namedin">
            {named.map((row, n) => (
              <li key={n}>
                <Link to={row.to}>{row.where}</Link>: {row.said}
              </li>
            ))}
          </ul>
        </>
      )}
      {erase.error && <Refusal which="Not erased." allowed={erase.error.message} />}
      <ButtonBase
        className="key"
        aria-disabled={erase.isPending || (!erase.data && !shown)}
        onClick={() => {
          if (erase.data) close();
          else if (!erase.isPending && shown) erase.mutate();
        }}
      >
        {erase.data ? 'Done' : 'Erase for good'}
      </ButtonBase>
    </DialogFrame>
  );
}
