import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useParams, useSearchParams } from 'react-router';
import type { Schemas } from '../../api/client';
import { apiAddress } from '../../api/where';
import { benchOptions, sheetOptions } from '../../api/queries';
import { useRecorder } from '../../bench/useRecorder';
import { useDepot } from '../../api/useDepot';
import { useTabDraft } from '../../bench/useTabDraft';
import { Check } from '../../controls/Check';
import { GoPlate } from '../../controls/GoPlate';
import { LoopWays } from '../../controls/menu/LoopWays';
import { Page, Waiting } from '../../controls/menu/Page';
import { NotHere } from '../../controls/NotHere';
import { Refusal } from '../../controls/Refusal';
import { Segment } from '../../controls/Segment';
import { TextField } from '../../controls/TextField';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { clockOf, dayOf } from '../../language/time';
import './sheet.css';
import { SheetFigures } from './SheetFigures';

/** The job sheet: what was done and how it left, for the file and in the customer's words; as a page and as PDF. */
export default function SheetPage() {
  const loopId = Number(useParams().loopId);
  const job = useSearchParams()[0].get('job');
  const sheet = useQuery({ ...sheetOptions(loopId, job), enabled: Number.isInteger(loopId) });
  const bench = useQuery({ ...benchOptions(loopId), enabled: Number.isInteger(loopId) });
  if (sheet.isError)
    return <NotHere head="No such sheet." text={sheet.error.message} retry={() => void sheet.refetch()} />;
  if (!sheet.data || !bench.data) return <Waiting title="Job sheet" />;
  return <Sheet sheet={sheet.data} bench={bench.data} job={job} />;
}

interface Props {
  sheet: Schemas['SheetOut'];
  bench: Schemas['Bench'];
  job: string | null;
}

function Sheet({ sheet, bench, job }: Props) {
  const { system } = useUnits();
  const zone = useDepot()?.time_zone;
  const [words, say] = useState<'file' | 'plain'>('plain');
  const own = bench.state.job_id === sheet.job_id && sheet.job_id !== null; // an older job has words alone
  const here = own ? bench : { photos: [] };
  const [photos, withPhotos] = useState(false);
  const when = (iso: string) => `${dayOf(iso, zone)} ${clockOf(iso, zone)}`;
  const query = new URLSearchParams({ units: system, plain: String(words === 'plain'), ...(job ? { job } : {}) });
  return (
    <Page
      title="Job sheet"
      number={sheet.machine.fleet_number}
      line={
        <>
          {sheet.owner &&
            `For ${[sheet.owner.name, sheet.owner.telephone, sheet.owner.email].filter(Boolean).join(', ')}. `}
          {sheet.machine.kind}, {sheet.loop_name}
          {sheet.opened_at && `, in ${when(sheet.opened_at)}`}
          {sheet.signed_at && sheet.signed_by && `, signed off ${when(sheet.signed_at)} by ${sheet.signed_by.name}`}
        </>
      }
      className="sheetpage"
      go={<GoPlate act="Print" then="into the file, or to the customer" onPress={() => window.print()} />}
    >
      <LoopWays loopId={sheet.loop_id} machineId={sheet.machine.id} />
      <div className="sheetmain">
        <div className="row noprint">
          <Segment
            label="Words"
            hideLabel
            value={words}
            options={[
              { value: 'plain', label: 'for the customer' },
              { value: 'file', label: 'for the file' },
            ]}
            onChange={say}
          />
          {here.photos.length > 0 && <Check label="With photos" checked={photos} onChange={withPhotos} />}
          <a
            className="key linkkey"
            href={apiAddress(`/api/loops/${sheet.loop_id}/sheet.pdf?${query.toString()}`)}
            target="_blank"
          >
            As PDF
          </a>
        </div>
        {sheet.job_id === null && <p>No job yet on this loop.</p>}
        {sheet.job_id !== null && sheet.signed_at === null && (
          <p className="hot">
            <b>In progress: not signed off.</b>
          </p>
        )}
        <div className="sheetbody">
          <div>
            {words === 'plain' ? (
              <section className="plainwords" aria-label="For the customer">
                {sheet.sheet.plain.map((said) => (
                  <p key={said.code + said.sentence}>{sayIn(said, system)}</p>
                ))}
              </section>
            ) : (
              sheet.sheet.parts.map((part) => (
                <section key={part.head} className="sheetpart" aria-label={part.head}>
                  <h2>{part.head}</h2>
                  <dl>
                    {part.lines.map((line, i) => (
                      <div key={i}>
                        <dt>{line.name}</dt>
                        <dd>{sayIn(line.said, system)}</dd>
                      </div>
                    ))}
                  </dl>
                </section>
              ))
            )}
            {sheet.corrections.length > 0 && (
              <section className="sheetpart" aria-label="Corrections after sign-off">
                <h2>Corrections after sign-off</h2>
                <dl>
                  {sheet.corrections.map((row) => (
                    <div key={row.entry_id}>
                      <dt>{when(row.at)}</dt>
                      <dd>
                        {row.text} ({row.by})
                      </dd>
                    </div>
                  ))}
                </dl>
              </section>
            )}
          </div>
          {own && <SheetFigures bench={bench} />}
        </div>
        {photos && (
          <div className="sheetphotos">
            {here.photos.map((photo) => (
              <img key={photo.sha256} src={`/api/photos/${photo.sha256}`} alt="Taken during this job" />
            ))}
          </div>
        )}
        {sheet.by.length > 0 && <p className="ink2">Worked on it: {sheet.by.join(', ')}.</p>}
        <p className="ink2">
          The maker&rsquo;s instructions, local rules and licensed practice come before this sheet.
        </p>
        <div className="signatures" aria-label="Signatures">
          <p>Technician, date</p>
          <p>Customer, date</p>
        </div>
        {sheet.signed_at && own && <Amend bench={bench} />}
      </div>
    </Page>
  );
}

/** A signed job stays as it was; what is wrong in it is said beside it, by name. */
function Amend({ bench }: { bench: Schemas['Bench'] }) {
  const recorder = useRecorder(bench.loop.id, bench.state, true);
  const { draft, change, settle } = useTabDraft(`temper.amend.${bench.loop.id}`, bench.state.last_entry_id ?? '', {
    text: '',
  });
  const { text } = draft;
  return (
    <div className="row amend noprint">
      <TextField
        name="amend"
        label="Add a correction"
        value={text}
        max={500}
        wide
        onChange={(next) => change({ text: next })}
      />
      <ButtonBase
        className="key"
        aria-disabled={!text.trim() || recorder.busy}
        onClick={() =>
          text.trim() &&
          recorder.record([{ kind: 'amended', facts: { text: text.trim(), entry_id: '' } }], () => {
            settle();
            change({ text: '' });
          })
        }
      >
        Save correction
      </ButtonBase>
      {recorder.refusal && <Refusal which="Not recorded." allowed={recorder.refusal.message} />}
    </div>
  );
}
