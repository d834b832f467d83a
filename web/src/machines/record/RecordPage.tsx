import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { lazy, Suspense, useRef, useState } from 'react';
import { Link, useParams } from 'react-router';
import { v4 as uuid } from 'uuid';
import type { EntryOut, Schemas } from '../../api/client';
import { boardOptions, ledgerOptions, sessionOptions, useRecord } from '../../api/queries';
import { RejudgedRow } from '../../bench/Troubles';
import { useDepot } from '../../api/useDepot';
import { LoopWays } from '../../controls/menu/LoopWays';
import { Page, Waiting } from '../../controls/menu/Page';
import { NotHere } from '../../controls/NotHere';
import { Refusal } from '../../controls/Refusal';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { dayOf, timeOf } from '../../language/time';
import { chemistry, PROOF } from '../../language/names';

const EditEntry = lazy(() => import('../../bench/edit/EditEntry'));

/** Everything that was ever recorded on a loop: signed-off jobs with their figures, and every entry. */
export default function RecordPage() {
  const loopId = Number(useParams().loopId);
  const ledger = useQuery({ ...ledgerOptions(loopId), enabled: Number.isInteger(loopId) });
  const [editing, edit] = useState<EntryOut | null>(null);
  const me = useQuery(sessionOptions).data?.person;
  const again = useQuery(boardOptions).data?.rejudged.filter((row) => row.loop_id === loopId) ?? [];
  const units = useUnits();
  const zone = useDepot()?.time_zone;
  if (ledger.isError)
    return <NotHere head="No such record." text={ledger.error.message} retry={() => void ledger.refetch()} />;
  if (!ledger.data) return <Waiting title="Record" />;
  const { machine, loop, entries, signed, state, broken } = ledger.data;
  const mayEdit = (entry: EntryOut) => entry.editable && (entry.person.id === me?.id || me?.role === 'lead');
  const open = state !== null && state.job_id !== null && state.signed_at === null;
  return (
    <Page
      title="Record"
      number={machine.fleet_number}
      line={`${machine.kind}, ${loop.name}, ${units.volume(loop.capacity_l)}; nothing is deleted`}
      tools={
        open && (
          <Link className="key" to={`/loops/${loop.id}`}>
            Open job
          </Link>
        )
      }
      mainClass="recordmain"
    >
      <LoopWays loopId={loop.id} machineId={machine.id} />
      <p className="insidenow">
        <b>Inside now: </b>
        {state
          ? `${chemistry(state.inside.family, state.inside.base)}. ${sayIn(state.claim.said, units.system)}`
          : 'unknown: do not open it by these figures'}
      </p>
      {broken && (
        <Refusal which="This record cannot be calculated." allowed={broken}>
          <TakeBack loopId={loop.id} entries={entries} />
        </Refusal>
      )}
      {again.map((row) => (
        <RejudgedRow key={row.id} row={row} />
      ))}
      {signed.map((job) => (
        <Signed key={job.job_id} job={job} zone={zone} />
      ))}
      {entries.length === 0 ? (
        <p className="empty">
          <b>Nothing recorded yet.</b>
          The record starts with the first job.
        </p>
      ) : (
        <table className="ledger">
          <thead>
            <tr>
              <th>when</th>
              <th>what</th>
              <th className="wide">who</th>
              <th>
                <span className="visually-hidden">edit</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {entries
              .filter((entry) => entry.kind !== 'edited' && entry.kind !== 'voided')
              .map((entry) => (
                <Line key={entry.id} entry={entry} zone={zone} onEdit={mayEdit(entry) ? edit : null} />
              ))}
          </tbody>
        </table>
      )}
      {editing && (
        <Suspense fallback={null}>
          <EditEntry
            key={editing.id}
            loopId={loop.id}
            entryId={editing.edits ?? editing.id}
            between={editing.job_id === null}
            seen={entries[0]?.id ?? null}
            onClose={() => edit(null)}
          />
        </Suspense>
      )}
    </Page>
  );
}

interface LineProps {
  entry: EntryOut;
  zone: string | undefined;
  onEdit: ((entry: EntryOut) => void) | null;
}

/** One entry: when, what, who; struck where it no longer counts. */
function Line({ entry, zone, onEdit }: LineProps) {
  const { system } = useUnits();
  const said = sayIn(entry.said, system);
  return (
    <tr className={entry.voided ? 'struck' : ''}>
      <td className="nw">{timeOf(entry.happened_at, zone)}</td>
      <td>
        {entry.edits && <span className="ink2">Edited: </span>}
        {said}
        {entry.voided && <span className="visually-hidden"> (does not count any more)</span>}
      </td>
      <td className="wide nw">{entry.person.name}</td>
      <td className="rowkey">
        {onEdit && (
          <ButtonBase className="key small" aria-label={`Edit: ${said}`} onClick={() => onEdit(entry)}>
            Edit
          </ButtonBase>
        )}
      </td>
    </tr>
  );
}

/** Where nothing can be worked out the bench does not open, but what was entered last can still be taken back. */
function TakeBack({ loopId, entries }: { loopId: number; entries: EntryOut[] }) {
  const recording = useRecord(loopId);
  const id = useRef(uuid());
  const newest = entries.find((entry) => !entry.voided && entry.kind !== 'voided');
  if (!newest) return null;
  const takeBack = () => {
    if (recording.isPending) return;
    recording.mutate(
      {
        entries: [{ id: id.current, kind: 'voided', facts: { entry_id: newest.id, reason: 'cannot be calculated' } }],
        seen: entries[0]?.id ?? null,
      },
      { onSettled: () => (id.current = uuid()) },
    );
  };
  return (
    <>
      <p>
        Last entry: {newest.kind.replaceAll('_', ' ')}, {newest.person.name}.
      </p>
      <ButtonBase className="key" onClick={takeBack}>
        Undo last entry
      </ButtonBase>
      {recording.error && <p>{recording.error.message}</p>}
    </>
  );
}

function Signed({ job, zone }: { job: Schemas['SignedResult']; zone: string | undefined }) {
  const { temperature, system } = useUnits();
  const { state } = job;
  const show = (value: number | null | undefined) => (typeof value === 'number' ? temperature(value) : 'none');
  const figures: [string, string][] = [
    ['target', show(state.plan?.target_freeze_c)],
    ['predicted', show(state.predicted_freeze_c)],
    ['measured', show(state.repeats?.freeze_c)],
    ['protects to', show(state.claim.safe_to_c)],
  ];
  return (
    <article className="signed">
      <div>
        <b style={{ fontSize: 20 }}>{PROOF[job.proof] ?? job.proof}</b>
        <div className="ink2">
          {dayOf(job.signed_at, zone)}, {job.signed_by.name}
        </div>
      </div>
      <div>
        <div className="fig">
          {figures.map(([name, text]) => (
            <div key={name}>
              <span>{name}</span>
              <b>{text}</b>
            </div>
          ))}
          <div>
            <span>poured</span>
            <b>{state.plan?.product.name}</b>
          </div>
        </div>
        {state.proof && <p className="ink2">{sayIn(state.proof.said, system)}</p>}
        <p>
          <Link to={`/loops/${state.loop_id}/sheet?job=${job.job_id}`}>Job sheet</Link>
        </p>
      </div>
    </article>
  );
}
