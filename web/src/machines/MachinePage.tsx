import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useParams } from 'react-router';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { machineOptions, sessionOptions } from '../api/queries';
import { LoopWays } from '../controls/menu/LoopWays';
import { PageFrame, Waiting } from '../controls/menu/Page';
import { NotHere } from '../controls/NotHere';
import { Segment } from '../controls/Segment';
import { TakeMachineAlong } from '../offline/TakeAlong';
import { AddLoop } from './AddLoop';
import { LoopEditor } from './LoopEditor';
import { LoopRead } from './LoopRead';
import './machine.css';
import { MachineEditor } from './MachineEditor';
import { MoveJob } from './MoveJob';
import './newMachine.css';
import { OwnerBox } from './OwnerBox';

type Detail = Schemas['MachineDetail'];

/** One machine: what it is, what must be known of each loop; a lead corrects it between jobs. */
export default function MachinePage() {
  const machineId = Number(useParams().machineId);
  const machine = useQuery({ ...machineOptions(machineId), enabled: Number.isInteger(machineId) });
  if (machine.data) return <Machine detail={machine.data} />;
  if (machine.isError)
    return (
      <NotHere
        head={machine.error.message.includes('nothing here') ? 'No such machine in this depot.' : 'It cannot be shown.'}
        text={machine.error.message}
        retry={() => void machine.refetch()}
      />
    );
  return <Waiting title="Machine" />;
}

type Mode = 'read' | 'loop' | 'machine' | 'add';

function Machine({ detail }: { detail: Detail }) {
  const [at, look] = useState(0);
  const [mode, setMode] = useState<Mode>('read');
  const [moving, moveJob] = useState(false);
  const me = useQuery(sessionOptions).data?.person;
  const lead = me?.role === 'lead';
  const client = useQueryClient();
  const loop = detail.loops[at] ?? detail.loops[0];
  const kept = (fresh: Detail) => {
    client.setQueryData(machineOptions(detail.machine.id).queryKey, fresh);
    for (const key of ['machines', 'bench', 'history']) void client.invalidateQueries({ queryKey: [key] });
    setMode('read');
  };
  const leave = () => {
    void client.invalidateQueries(machineOptions(detail.machine.id));
    setMode('read');
  };
  const editLoop = useMutation<Detail, RefusalError, { id: number; body: Schemas['LoopEdit'] }>({
    mutationFn: ({ id, body }) =>
      unwrap(api.PUT('/api/loops/{loop_id}/spec', { params: { path: { loop_id: id } }, body })),
    onSuccess: kept,
  });
  const editMachine = useMutation<Detail, RefusalError, Schemas['MachineEdit']>({
    mutationFn: (body) =>
      unwrap(api.PUT('/api/machines/{machine_id}', { params: { path: { machine_id: detail.machine.id } }, body })),
    onSuccess: kept,
  });
  const addLoop = useMutation<Detail, RefusalError, Schemas['LoopAdd']>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/machines/{machine_id}/loops', { params: { path: { machine_id: detail.machine.id } }, body }),
      ),
    onSuccess: kept,
  });
  const { machine } = detail;
  const mayEdit = lead || (machine.unchecked && machine.taken_in_by_id === me?.id); // the server says until when
  const checked = useMutation<Detail, RefusalError>({
    mutationFn: () =>
      unwrap(api.POST('/api/machines/{machine_id}/checked', { params: { path: { machine_id: machine.id } } })),
    onSuccess: kept,
  });
  if (!loop) return <p className="empty">This machine has no loop.</p>;
  return (
    <PageFrame
      title={machine.kind}
      number={machine.fleet_number}
      line={[machine.description, machine.year].filter(Boolean).join(', ')}
      tools={
        mode === 'read' && (
          <>
            <TakeMachineAlong machineId={machine.id} />
            {lead && machine.unchecked && (
              <ButtonBase
                className="key"
                aria-disabled={checked.isPending}
                onClick={() => !checked.isPending && checked.mutate()}
              >
                Checked
              </ButtonBase>
            )}
            {mayEdit && (
              <>
                <ButtonBase className="key" onClick={() => setMode('loop')}>
                  Edit loop
                </ButtonBase>
                <ButtonBase className="key" onClick={() => setMode('machine')}>
                  Edit machine
                </ButtonBase>
                {lead && (
                  <ButtonBase className="key" onClick={() => setMode('add')}>
                    Add loop
                  </ButtonBase>
                )}
              </>
            )}
            {lead && loop.open && (
              <ButtonBase className="key" onClick={() => moveJob(true)}>
                Move job
              </ButtonBase>
            )}
            {loop.open ? (
              <Link className="key" to={`/loops/${loop.id}`}>
                Open job
              </Link>
            ) : (
              <Link className="key" to={`/machines?find=${encodeURIComponent(machine.fleet_number)}`}>
                Start job
              </Link>
            )}
          </>
        )
      }
      className="newmachine machinepage"
    >
      {moving && <MoveJob machine={machine} loopId={loop.id} onClose={() => moveJob(false)} />}
      {mode === 'loop' && (
        <LoopEditor
          key={loop.edited_at}
          loop={loop}
          busy={editLoop.isPending}
          refusal={editLoop.error}
          onKeep={(spec) => editLoop.mutate({ id: loop.id, body: { spec, seen: loop.edited_at } })}
          onLeave={leave}
        />
      )}
      {mode === 'machine' && (
        <MachineEditor
          machine={machine}
          owner={detail.owner}
          busy={editMachine.isPending}
          refusal={editMachine.error}
          onKeep={(given) => editMachine.mutate({ ...given, seen: detail.edited_at })}
          onLeave={leave}
        />
      )}
      {mode === 'add' && (
        <AddLoop
          busy={addLoop.isPending}
          refusal={addLoop.error}
          onKeep={(given) => addLoop.mutate(given)}
          onLeave={leave}
        />
      )}
      {mode === 'read' && (
        <main id="work">
          <div className="formside">
            <LoopWays loopId={loop.id} machineId={machine.id} />
            {detail.loops.length > 1 && (
              <div className="row machinekeys">
                <Segment
                  label="Loop"
                  hideLabel
                  value={String(at)}
                  options={detail.loops.map((row, i) => ({ value: String(i), label: row.spec.name }))}
                  onChange={(value) => look(Number(value))}
                />
              </div>
            )}
            {detail.owner && <OwnerBox owner={detail.owner} machineId={machine.id} lead={lead} />}
            <LoopRead loop={loop} />
          </div>
          <LoopRead.Drawing loop={loop} />
        </main>
      )}
    </PageFrame>
  );
}
