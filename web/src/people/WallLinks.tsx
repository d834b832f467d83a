import ButtonBase from '@mui/material/ButtonBase';
import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { useDepot } from '../api/useDepot';
import { Refusal } from '../controls/Refusal';
import { TextField } from '../controls/TextField';
import { timeOf } from '../language/time';

const linksOptions = queryOptions({
  queryKey: ['wall-links'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/wall-links', { signal })),
});

/** Boards on a wall: a link each, made and revoked by a lead. */
export function WallLinks() {
  const client = useQueryClient();
  const zone = useDepot()?.time_zone;
  const links = useQuery(linksOptions);
  const [name, setName] = useState('');
  const keep = (links: Schemas['WallLinkOut'][]) => client.setQueryData(linksOptions.queryKey, { links });
  const make = useMutation<Schemas['WallLinkMade'], RefusalError, string>({
    mutationFn: (given) => unwrap(api.POST('/api/wall-links', { body: { name: given } })),
    onSuccess: (made) => {
      keep(made.links);
      setName('');
    },
  });
  const revoke = useMutation<Schemas['WallLinks'], RefusalError, number>({
    mutationFn: (id) => unwrap(api.DELETE('/api/wall-links/{link_id}', { params: { path: { link_id: id } } })),
    onSuccess: (answer) => keep(answer.links),
  });
  const good = links.data?.links.filter((row) => row.revoked_at === null) ?? [];
  const ready = name.trim() !== '' && !make.isPending;
  return (
    <section className="account" aria-labelledby="wall-links">
      <h2 id="wall-links">Screens in the bay</h2>
      <p className="ink2">
        A link shows the board on a screen, only to be read, without signing in. Whoever has the link can read it:
        revoke it when the screen goes.
      </p>
      <ul className="devices">
        {good.map((row) => (
          <li key={row.id} className="wallrow">
            <div>
              <b>{row.name}</b>
              <span>
                made by {row.by.name}, {timeOf(row.made_at, zone)}
              </span>
            </div>
            <ButtonBase
              className="key small"
              aria-label={`Revoke ${row.name}`}
              aria-disabled={revoke.isPending}
              onClick={() => !revoke.isPending && revoke.mutate(row.id)}
            >
              Revoke link
            </ButtonBase>
          </li>
        ))}
      </ul>
      {make.data && (
        <p role="status">
          Open this on the screen; it is shown only now:{' '}
          <a href={make.data.path} data-testid="wall-link">
            {window.location.origin}
            {make.data.path}
          </a>
        </p>
      )}
      <div className="wallform">
        <TextField name="wall-name" label="Which screen is it for?" value={name} max={60} wide onChange={setName} />
        <ButtonBase className="key" aria-disabled={!ready} onClick={() => ready && make.mutate(name.trim())}>
          Make link
        </ButtonBase>
      </div>
      {make.error && <Refusal which="Not made." allowed={make.error.message} />}
    </section>
  );
}
