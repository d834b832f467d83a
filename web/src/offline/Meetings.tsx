import ButtonBase from '@mui/material/ButtonBase';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { sessionOptions } from '../api/queries';
import { useDepot } from '../api/useDepot';
import { DialogFrame } from '../controls/DialogFrame';
import { EditFields } from '../controls/EditFields';
import { changesOf, type Value } from '../controls/editValues';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { TextField } from '../controls/TextField';
import { sayIn } from '../language/say';
import { clockOf } from '../language/time';
import { useUnits } from '../units/UnitsContext';
import { inKnownNumbers, isLocal } from './became';
import { count } from './count';
import { refreshKit } from './kit';
import { choose, intoTheirJob, keepEdited, meetingOf, send } from './sender';
import { waiting, type Waiting } from './store';

interface Story {
  loopId: number;
  name: string;
  meeting: Schemas['Meeting'] | null;
  rows: Waiting[];
}

async function stories(me: number | undefined): Promise<Story[]> {
  const all = await Promise.all((await waiting()).map(inKnownNumbers));
  const rows = all.filter((row) => row.state === 'asks' && row.person === me);
  const found: Story[] = [];
  for (const loopId of new Set(rows.flatMap((row) => row.loops))) {
    const mine = all.filter((row) => row.loops.includes(loopId));
    if (isLocal(loopId)) {
      const name = (mine.find((row) => row.path === '/api/machines')?.body as { fleet_number?: string } | undefined)
        ?.fleet_number;
      found.push({ loopId, name: name ?? 'A machine taken in here', meeting: null, rows: mine });
      continue;
    }
    const { meeting, fresh } = await meetingOf(loopId, true);
    found.push({ loopId, name: `${fresh.machine.fleet_number} ${fresh.shown.name}`, meeting, rows: mine });
  }
  return found;
}

/** Others worked on the same loops meanwhile: both stories side by side, and a choice for each entry, before it is sent. */
export default function Meetings({ onClose }: { onClose: () => void }) {
  const client = useQueryClient();
  const me = useQuery(sessionOptions).data?.person?.id;
  const found = useQuery({
    queryKey: ['meetings', me],
    queryFn: () => stories(me),
    staleTime: 0,
    gcTime: 0,
    retry: false,
  });
  const again = async () => {
    await count();
    await client.invalidateQueries({ queryKey: ['meetings'] });
    await send({ done: () => void client.invalidateQueries(), all: refreshKit });
    await client.invalidateQueries({ queryKey: ['meetings'] });
  };
  return (
    <DialogFrame open title="Others worked here meanwhile" className="meeting" onClose={onClose}>
      {found.isPending && <p>Putting both stories side by side …</p>}
      {found.isError && <p role="alert">{found.error.message}</p>}
      {found.data?.length === 0 && <p>Nothing asks any more. It is sent.</p>}
      {found.data?.map((story) => (
        <OneLoop key={story.loopId} story={story} onChosen={() => void again()} />
      ))}
    </DialogFrame>
  );
}

function OneLoop({ story, onChosen }: { story: Story; onChosen: () => void }) {
  const { system } = useUnits();
  const depot = useDepot();
  const { meeting, rows } = story;
  return (
    <section className="meeting" aria-label={story.name}>
      <h2>{story.name}</h2>
      <div className="stories">
        <section>
          <h3>At the depot</h3>
          <ul>
            {meeting?.theirs.map((one) => (
              <li key={one.id}>
                {clockOf(one.happened_at, depot?.time_zone)} {sayIn(one.said, system)}, {one.person}
              </li>
            ))}
          </ul>
          <Stands of={meeting?.there ?? null} />
        </section>
        <section>
          <h3>On this tablet</h3>
          <ul>
            {meeting?.mine.map((one) => (
              <OneEntry
                key={one.met.entry_id}
                one={one}
                row={rows.find((row) => row.n === one.n)}
                onChosen={onChosen}
              />
            ))}
          </ul>
          {rows
            .filter((row) => row.path === '/api/machines' && row.state === 'asks')
            .map((row) => (
              <p key={row.n} className="why">
                {row.said} It stays on this tablet; show it to a lead.
              </p>
            ))}
          {rows
            .filter((row) => row.path === '/api/jobs' && row.state === 'asks')
            .map((row) => (
              <div key={row.n} className="bothways">
                <p className="why">{row.said}</p>
                <ButtonBase className="key" onClick={() => void intoTheirJob(row).then(onChosen)}>
                  Use the job that is open there
                </ButtonBase>
              </div>
            ))}
          <Stands of={meeting?.here ?? null} />
        </section>
      </div>
      <p>
        Both together, as it would stand: <Stands of={meeting?.together ?? null} />
      </p>
    </section>
  );
}

function Stands({ of }: { of: Schemas['Stands'] | null }) {
  const { system } = useUnits();
  if (!of) return <span className="ink2">It cannot be calculated.</span>;
  return (
    <span className="ink2">
      {sayIn(of.inside, system)}, {sayIn(of.protects, system)}
      {of.act && <>. Next: {sayIn(of.act, system)}</>}
    </span>
  );
}

type Choice = 'keep' | 'edit' | 'aside';

function OneEntry({
  one,
  row,
  onChosen,
}: {
  one: Schemas['MetEntry'];
  row: Waiting | undefined;
  onChosen: () => void;
}) {
  const { system } = useUnits();
  const depot = useDepot();
  const [picked, setPicked] = useState<Choice | ''>('');
  const [reason, setReason] = useState('');
  const may: { value: Choice; label: string }[] = [
    ...(one.met.can_follow ? [{ value: 'keep' as const, label: 'Keep it' }] : []),
    ...(one.form.length > 0 ? [{ value: 'edit' as const, label: 'Edit it' }] : []),
    { value: 'aside', label: 'Set it aside' },
  ];
  const take = (keep: boolean) => {
    if (row) void choose(row, one.met.entry_id, keep, one.said.sentence, reason).then(onChosen);
  };
  return (
    <li>
      {clockOf(one.happened_at, depot?.time_zone)} {sayIn(one.said, system)}
      {row?.state === 'asks' && (
        <>
          <p className="why">{one.met.why ? sayIn(one.met.why, system) : row.said}</p>
          <div className="bothways">
            <Segment label="Keep, edit, or set aside?" value={picked} options={may} onChange={setPicked} />
            {picked === 'aside' && (
              <TextField
                name={`why-${one.n}`}
                label="Why (a few words)"
                value={reason}
                max={300}
                onChange={setReason}
              />
            )}
            {picked === 'edit' && <EditWaiting one={one} row={row} onKept={onChosen} />}
            {(picked === 'keep' || picked === 'aside') && (
              <ButtonBase className="key" onClick={() => take(picked === 'keep')}>
                {picked === 'aside' ? 'Set aside; it stays in the record' : 'Send it'}
              </ButtonBase>
            )}
          </div>
        </>
      )}
    </li>
  );
}

/** Other figures for an entry that is not sent yet. It then asks again, with what it makes of the loop. */
function EditWaiting({ one, row, onKept }: { one: Schemas['MetEntry']; row: Waiting; onKept: () => void }) {
  const { system } = useUnits();
  const [values, setValues] = useState<Record<string, Value>>({});
  const [refused, setRefused] = useState('');
  const changes = changesOf(one.form, values, system);
  const keep = async () => {
    setRefused('');
    try {
      const edit = { entry_id: one.met.entry_id, changes: changes ?? [] };
      const { meeting } = await meetingOf(row.loops[0] as number, true, edit);
      if (meeting?.edited) await keepEdited(row, meeting.edited);
      onKept();
    } catch (error) {
      setRefused((error as Error).message);
    }
  };
  return (
    <>
      <EditFields
        fields={one.form}
        values={values}
        onChange={(path, value) => setValues((before) => ({ ...before, [path]: value }))}
      />
      {refused !== '' && <Refusal which="Not kept." allowed={refused} />}
      <ButtonBase className="key" disabled={changes === null || changes.length === 0} onClick={() => void keep()}>
        Keep these figures, and show what they make
      </ButtonBase>
    </>
  );
}
