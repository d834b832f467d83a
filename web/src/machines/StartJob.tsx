import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { v4 as uuid } from 'uuid';
import type { Schemas } from '../api/client';
import { loopsOptions, useOpenJob } from '../api/queries';
import { Check } from '../controls/Check';
import { Refusal } from '../controls/Refusal';
import { JOB_TYPE, JOB_TYPE_MEANS } from '../language/names';

type JobType = Schemas['JobType'];

const JOBS = Object.keys(JOB_TYPE) as JobType[];

/** What is the job? Choosing it starts it, on this loop and on the machine's others that are ticked. */
export function StartJob({ row }: { row: Schemas['LoopRow'] }) {
  const go = useNavigate();
  const id = useRef(uuid()); // sent twice it is one job
  const start = useOpenJob(() => void go(`/loops/${row.loop_id}`));
  const [also, setAlso] = useState<number[]>([]);
  const others = (useQuery(loopsOptions).data?.loops ?? []).filter(
    (other) => other.machine.id === row.machine.id && other.loop_id !== row.loop_id && other.line?.stage === null,
  );
  const open = (job_type: JobType) => {
    if (start.isPending) return;
    const loops = [row.loop_id, ...also].map((loop_id) => ({ loop_id, job_type }));
    start.mutate({ id: id.current, machine_id: row.machine.id, loops });
  };
  return (
    <section className="startjob" aria-label={`Job for ${row.machine.fleet_number}`}>
      <p>
        <b>What is the job?</b> It starts at once; the inspection may advise another one.
      </p>
      {others.map((other) => (
        <Check
          key={other.loop_id}
          label={`With ${other.loop_name}`}
          checked={also.includes(other.loop_id)}
          onChange={(on) => setAlso(on ? [...also, other.loop_id] : also.filter((loop) => loop !== other.loop_id))}
        />
      ))}
      <div className="pick">
        {JOBS.map((job) => (
          <ButtonBase key={job} className="opt" aria-disabled={start.isPending} onClick={() => open(job)}>
            <b>{JOB_TYPE[job]}</b>
            <small>{JOB_TYPE_MEANS[job]}</small>
          </ButtonBase>
        ))}
      </div>
      {start.error && <Refusal which="No job was started." allowed={start.error.message} />}
    </section>
  );
}
