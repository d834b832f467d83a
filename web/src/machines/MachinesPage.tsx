import ButtonBase from '@mui/material/ButtonBase';
import InputBase from '@mui/material/InputBase';
import { useQuery } from '@tanstack/react-query';
import { useId, useRef, useState } from 'react';
import { Link, useLocation, useNavigate, useSearchParams } from 'react-router';
import { v4 as uuid } from 'uuid';
import type { Schemas } from '../api/client';
import { machinesOptions, sessionOptions, useOpenJob } from '../api/queries';
import { useDepot } from '../api/useDepot';
import { GoPlate } from '../controls/GoPlate';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { TopStrip } from '../controls/TopStrip';
import { useUnits } from '../units/UnitsContext';
import { dateOf, dayOf } from '../language/time';
import { JOB_TYPE, JOB_TYPE_MEANS } from '../language/names';
import './machines.css';

type JobType = Schemas['JobType'];
type MachineCard = Schemas['MachineCard'];

const CHOICES = (Object.keys(JOB_TYPE) as JobType[]).map((value) => ({ value, label: JOB_TYPE[value] }));

interface Chosen {
  machine: MachineCard;
  jobTypes: Record<number, JobType>;
}

const matches = (card: MachineCard, words: string): boolean => {
  const text = `${card.machine.fleet_number} ${card.machine.kind} ${card.machine.description}`.toLowerCase();
  return words
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word) || text.replace('-', '').includes(word));
};

/** The list again for every scan that comes in; what is typed by hand stays in the field, however fast it is typed. */
export default function MachinesPage() {
  const { key } = useLocation();
  const [params] = useSearchParams();
  return <Machines key={key} find={params.get('find') ?? ''} />;
}

/** Find a machine, pick its loops, open a job. */
function Machines({ find }: { find: string }) {
  const id = useId();
  const go = useNavigate();
  const machines = useQuery(machinesOptions);
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const [words, setWords] = useState(find);
  const [chosen, choose] = useState<Chosen | null>(null);
  const jobId = useRef(uuid());
  const open = useOpenJob((job) => void go(`/loops/${job.loop_ids[0]}`));
  const openChosen = ({ machine, jobTypes }: Chosen) =>
    open.mutate({
      id: jobId.current,
      machine_id: machine.machine.id,
      loops: Object.entries(jobTypes).map(([loop, job_type]) => ({ loop_id: Number(loop), job_type })),
    });
  const toggle = (machine: MachineCard, loopId: number, job_type: JobType | null) => {
    const jobTypes = chosen?.machine.machine.id === machine.machine.id ? { ...chosen.jobTypes } : {};
    if (job_type) jobTypes[loopId] = job_type;
    else Reflect.deleteProperty(jobTypes, loopId);
    choose(Object.keys(jobTypes).length ? { machine, jobTypes } : null);
  };
  const cards = (machines.data?.machines ?? []).filter((card) => matches(card, words.trim()));
  const loops = chosen ? Object.keys(chosen.jobTypes).length : 0;
  return (
    <div className="page">
      <TopStrip>
        <div className="veh titled">
          <div>
            <b>Machines</b>
            <span>Choose a machine</span>
          </div>
        </div>
      </TopStrip>
      <main id="work">
        <div className="finder">
          <div className="field wide" style={{ maxWidth: 420 }}>
            <label className="lbl" htmlFor={id}>
              Fleet number, or part of a name
            </label>
            <div className="box" style={{ height: 54 }}>
              {/* the one thing to do on this page is to type a number */}
              <InputBase
                id={id}
                name="find"
                fullWidth
                value={words}
                onChange={(event) => setWords(event.target.value)}
              />
            </div>
          </div>
          <div className="pagelinks">
            {lead && (
              <Link className="key" to="/machines/new">
                New machine
              </Link>
            )}
            <Link className="key pagelink" to="/products">
              Products
            </Link>
            <Link className="key pagelink" to="/instruments">
              Instruments
            </Link>
            <Link className="key pagelink" to="/readings">
              Readings
            </Link>
            <Link className="key pagelink" to="/rules">
              Rules
            </Link>
          </div>
        </div>
        {machines.isError && <Refusal which={machines.error.message} />}
        {machines.data && cards.length === 0 && (
          <p className="empty">
            <b>No machine by “{words}”.</b>
            Try the number without the dash, or part of the kind.
          </p>
        )}
        {cards.map((card) => (
          <MachineRow
            key={card.machine.id}
            card={card}
            jobTypes={chosen?.machine.machine.id === card.machine.id ? chosen.jobTypes : {}}
            onToggle={(loopId, job_type) => toggle(card, loopId, job_type)}
          />
        ))}
        {open.isError && (
          <div style={{ padding: 16 }}>
            <Refusal which="No job was started." allowed={open.error.message} />
          </div>
        )}
      </main>
      <section className="lane" aria-label="Routes">
        <div className="shelfhead" style={{ width: 'auto', maxWidth: 720 }}>
          <b>What is the job?</b>
          <span>
            {chosen
              ? Object.values(chosen.jobTypes)
                  .map((job_type) => `${JOB_TYPE[job_type]}: ${JOB_TYPE_MEANS[job_type]}.`)
                  .join(' ')
              : 'Choose the job. The inspection may advise another one.'}
          </span>
        </div>
      </section>
      <div className="gocorner">
        <GoPlate
          act={chosen ? `Start job on ${chosen.machine.machine.fleet_number}` : ''}
          then={loops > 1 ? `identify the coolant of ${loops} loops` : 'identify the coolant'}
          waits={chosen ? null : 'Choose a machine and a job'}
          busy={open.isPending}
          onPress={() => chosen && openChosen(chosen)}
        />
      </div>
    </div>
  );
}

interface RowProps {
  card: MachineCard;
  jobTypes: Record<number, JobType>;
  onToggle: (loopId: number, job_type: JobType | null) => void;
}

function MachineRow({ card, jobTypes, onToggle }: RowProps) {
  const { volume, temperature } = useUnits();
  const depot = useDepot();
  return (
    <div className="mrow">
      <Link to={`/machines/${card.machine.id}`} aria-label={`${card.machine.fleet_number}: details`}>
        <span className="plate">
          <span>{card.machine.fleet_number}</span>
        </span>
      </Link>
      <div className="u">
        <b>{card.machine.kind}</b>
        <span>{card.machine.description}</span>
      </div>
      <div className="loops">
        {card.loops.map((loop) => (
          <div className="lrow" key={loop.id}>
            <div className="nm">
              <b>{loop.name}</b>, {volume(loop.capacity_l)}
              <span>
                {loop.last_signed_at
                  ? `signed off ${dayOf(loop.last_signed_at, depot?.time_zone)}${loop.last_freeze_c === null ? '' : ` at ${temperature(loop.last_freeze_c)}`}`
                  : 'no signed job yet'}
                {loop.due_on && (
                  <em className={loop.overdue ? 'hot' : ''}>
                    , {loop.overdue ? 'overdue since' : 'due'} {dateOf(loop.due_on)}
                  </em>
                )}
              </span>
            </div>
            <ButtonBase className="key small" component={Link} to={`/loops/${loop.id}/history`}>
              History
            </ButtonBase>
            {loop.open ? (
              <ButtonBase className="key small" component={Link} to={`/loops/${loop.id}`}>
                Open job
              </ButtonBase>
            ) : (
              <ButtonBase
                className="key small"
                aria-pressed={jobTypes[loop.id] !== undefined}
                onClick={() => onToggle(loop.id, jobTypes[loop.id] === undefined ? 'refill' : null)}
              >
                {jobTypes[loop.id] === undefined ? 'Start job' : 'Cancel'}
              </ButtonBase>
            )}
            {jobTypes[loop.id] !== undefined && (
              <Segment
                label={`Job for ${card.machine.fleet_number} ${loop.name}`}
                hideLabel
                value={jobTypes[loop.id] ?? 'refill'}
                options={CHOICES}
                onChange={(value) => onToggle(loop.id, value)}
              />
            )}
          </div>
        ))}
      </div>
    </div>
  );
}
