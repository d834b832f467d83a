import ButtonBase from '@mui/material/ButtonBase';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { v4 as uuid } from 'uuid';
import type { Schemas } from '../api/client';
import { useOpenJob } from '../api/queries';
import { useDepot } from '../api/useDepot';
import { LevelOkKey } from '../between/LevelOkKey';
import { Refusal } from '../controls/Refusal';
import { chemistry, CLAIM, JOB_TYPE, STAGE } from '../language/names';
import { sayIn } from '../language/say';
import { dateOf, dayOf } from '../language/time';
import { safeText } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { StartJob } from './StartJob';

type Row = Schemas['LoopRow'];

/** One loop: its state, and what can be done about it, on the row. */
export function LoopListRow({ row, starts = false }: { row: Row; starts?: boolean }) {
  const { volume } = useUnits();
  const [choosing, choose] = useState(starts && row.line?.stage === null);
  const { machine, line } = row;
  return (
    <li className="looprow">
      <Link to={`/machines/${machine.id}`} aria-label={`${machine.fleet_number}: details`} className="at">
        <span className={`plate${machine.fleet_number.length > 7 ? ' longplate' : ''}`}>
          <span>{machine.fleet_number}</span>
        </span>
      </Link>
      <div className="who">
        <b>{machine.kind}</b>
        <span>
          {machine.unchecked && <b className="hot">not checked by a lead </b>}
          {machine.description}
        </span>
      </div>
      <div className="in">
        <b>
          <Link to={`/loops/${row.loop_id}/history`}>{row.loop_name}</Link>,{' '}
          {row.capacity_source === 'kind' ? `about ${volume(row.capacity_l)}, not known` : volume(row.capacity_l)}
        </b>
        <span>{line ? chemistry(line.family, line.base).toLowerCase() : ''}</span>
      </div>
      <Protects row={row} />
      <NextDue row={row} />
      <div className="rowkeys">
        <Keys row={row} choosing={choosing} onChoose={choose} />
      </div>
      {choosing && <StartJob row={row} />}
    </li>
  );
}

function Protects({ row }: { row: Row }) {
  const { system } = useUnits();
  const zone = useDepot()?.time_zone;
  const { line } = row;
  if (!line) return <div className="hot">cannot be calculated</div>;
  const bad = line.signs.includes('not_protected') && !line.signs.includes('in_work');
  const { claim } = line;
  const read = claim.why === 'read' && row.signed_at ? `read ${dayOf(row.signed_at, zone)}` : CLAIM[claim.why];
  return (
    <div className="safe">
      <b className={bad ? 'hot' : ''}>{claim.safe_to_c === null ? 'unknown' : safeText(claim.safe_to_c, system)}</b>
      <span>{bad ? `not protected${claim.why === 'glycol_free' ? ', glycol-free' : ''}` : read}</span>
    </div>
  );
}

function NextDue({ row: { line } }: { row: Row }) {
  const { system } = useUnits();
  if (!line) return <div />;
  const { asked } = line;
  if (line.stage)
    return (
      <div className="due">
        <b>in work</b>
        <span>{STAGE[line.stage].toLowerCase()}</span>
      </div>
    );
  if (asked)
    return (
      <div className="due">
        <b className={asked.overdue ? 'hot' : ''}>
          {asked.overdue ? 'overdue' : asked.today ? 'today' : asked.due_on ? dateOf(asked.due_on) : 'due'}
        </b>
        <span>{asked.check ? sayIn(asked.said, system) : 'service'}</span>
      </div>
    );
  return (
    <div className="due">
      <b>{line.due_on ? dateOf(line.due_on) : '—'}</b>
      <span>{line.due_on ? 'service' : 'not stated'}</span>
    </div>
  );
}

interface KeysProps {
  row: Row;
  choosing: boolean;
  onChoose: (open: boolean) => void;
}

/** Open the job, or check the level and start one: the advised job with one press. */
function Keys({ row, choosing, onChoose }: KeysProps) {
  const go = useNavigate();
  const id = useRef(uuid()); // sent twice it is one job
  const start = useOpenJob(() => void go(`/loops/${row.loop_id}`));
  const { line, machine, loop_id } = row;
  if (!line)
    return (
      <Link className="key small" to={`/loops/${loop_id}/record`}>
        Record
      </Link>
    );
  if (line.stage)
    return (
      <Link
        className="key small"
        to={`/loops/${loop_id}`}
        aria-label={`Open job: ${machine.fleet_number}, ${row.loop_name}`}
      >
        Open job
      </Link>
    );
  const { advised } = line;
  const name = `${machine.fleet_number}, ${row.loop_name}`;
  return (
    <>
      <LevelOkKey loopId={loop_id} of={name} />
      <Link className="key small" to={`/loops/${loop_id}/check`} aria-label={`Level check: ${name}`}>
        Level check
      </Link>
      {advised && (
        <ButtonBase
          className="key small"
          aria-disabled={start.isPending}
          aria-label={`Start ${JOB_TYPE[advised].toLowerCase()}: ${name}`}
          onClick={() =>
            !start.isPending &&
            start.mutate({ id: id.current, machine_id: machine.id, loops: [{ loop_id, job_type: advised }] })
          }
        >
          Start: {JOB_TYPE[advised].toLowerCase()}
        </ButtonBase>
      )}
      <ButtonBase
        className="key small"
        aria-expanded={choosing}
        aria-label={`${choosing ? 'Cancel' : advised ? 'Start another job' : 'Start job'}: ${name}`}
        onClick={() => onChoose(!choosing)}
      >
        {choosing ? 'Cancel' : advised ? 'Other job' : 'Start job'}
      </ButtonBase>
      {start.error && <Refusal which="No job was started." allowed={start.error.message} />}
    </>
  );
}
