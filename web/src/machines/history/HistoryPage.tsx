import ButtonBase from '@mui/material/ButtonBase';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Taught } from './Taught';
import { LifePicture } from './LifePicture';
import { lazy, Suspense, useState } from 'react';
import { Link, useParams } from 'react-router';
import type { Schemas } from '../../api/client';
import { historyOptions, sessionOptions } from '../../api/queries';
import { useRecorder } from '../../bench/useRecorder';
import { LoopWays } from '../../controls/menu/LoopWays';
import { Page, Waiting } from '../../controls/menu/Page';
import { NotHere } from '../../controls/NotHere';
import { Refusal } from '../../controls/Refusal';
import { Segment } from '../../controls/Segment';
import { Terms } from '../../controls/Terms';
import { number, type System } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { timeOf } from '../../language/time';
import { chemistry } from '../../language/names';
import './history.css';
import type { Axis } from './HistoryChart';

const HistoryChart = lazy(() => import('./HistoryChart'));
type Data = Schemas['LoopHistory'];

const AXES: { value: Axis; label: string }[] = [
  { value: 'freeze', label: 'freeze point' },
  { value: 'strength', label: 'strength' },
];

/** Is it still good? A loop's readings, top-ups and services on one line, and what follows from them. */
export default function HistoryPage() {
  const loopId = Number(useParams().loopId);
  const life = useQuery({ ...historyOptions(loopId), enabled: Number.isInteger(loopId) });
  if (life.data) return <History data={life.data} />;
  if (life.isError)
    return <NotHere head="The history cannot be shown." text={life.error.message} retry={() => void life.refetch()} />;
  return <Waiting title="History" />;
}

function History({ data }: { data: Data }) {
  const [axis, look] = useState<Axis>('freeze');
  const { system, volume } = useUnits();
  const { machine, loop, state, history } = data;
  const plotted = history.events.filter((event) => event.strength_percent !== null);
  const open = state.job_id !== null && state.signed_at === null;
  return (
    <Page
      title="History"
      number={machine.fleet_number}
      line={`${machine.kind}, ${loop.name}, ${volume(loop.capacity_l)}, ${chemistry(state.inside.family, state.inside.base).toLowerCase()}`}
      tools={
        open && (
          <Link className="key" to={`/loops/${loop.id}`}>
            Open job
          </Link>
        )
      }
      className="historypage"
    >
      <LoopWays loopId={loop.id} machineId={machine.id} />
      <div className="historymain">
        <div className="verdicts">
          <p>
            <Terms>{sayIn(state.claim.said, system)}</Terms>
          </p>
          {state.due && (
            <p className={state.due.overdue ? 'hot' : ''}>
              {sayIn(state.due.said, system)} {sayIn(state.due.life.by, system)}
            </p>
          )}
          {history.reserve && (
            <p className={history.reserve.percent < 0 ? 'hot' : 'ink2'} data-testid="reserve">
              {sayIn(history.reserve.said, system)}
            </p>
          )}
          {history.loss && (
            <p className={isLoss(history.loss.kind) ? 'hot' : ''} data-testid="loss">
              {sayIn(history.loss.said, system)} {lossBy(history.loss, volume, system)}
            </p>
          )}
          {!history.loss && history.settling && (
            <p className={history.settling.more_than_air ? 'hot' : 'ink2'} data-testid="settling">
              {sayIn(history.settling.said, system)}
            </p>
          )}
          {history.conducting && <p data-testid="conducting">{sayIn(history.conducting.said, system)}</p>}
          {state.inhibitor.map((row) => (
            <p key={row.inhibitor} data-testid="inhibitor">
              {sayIn(row.said, system)}
            </p>
          ))}
          {history.slope && (
            <p className={history.slope.leaks ? 'hot' : ''} data-testid="slope">
              {sayIn(history.slope.said, system)}
            </p>
          )}
        </div>
        <LifePicture data={data} />
        <Taught loopId={loop.id} />
        <Overrides data={data} />
        {plotted.length > 1 ? (
          <section aria-label="Time line" className="chartbox">
            <Segment label="Shown" hideLabel value={axis} options={AXES} onChange={look} />
            <Suspense fallback={<p className="empty">Loading …</p>}>
              <HistoryChart events={history.events} axis={axis} coldestC={data.coldest_c} height={300} />
            </Suspense>
          </section>
        ) : (
          <p className="empty">
            <b>{plotted.length === 0 ? 'No reading yet.' : 'One reading so far.'}</b>A line needs two.
          </p>
        )}
        <Events data={data} />
      </div>
    </Page>
  );
}

const isLoss = (kind: Schemas['LossKind']): boolean => kind === 'leaks' || kind === 'at_once';

/** The loss by distance and hours, where the meters tell. */
function lossBy(loss: Schemas['Loss'], volume: (litres: number) => string, system: System): string {
  if (!isLoss(loss.kind)) return '';
  const metric = system === 'metric';
  const rows = [
    loss.per_1000_km && [volume(loss.per_1000_km.value * (metric ? 1 : 1.609344)), metric ? '1,000 km' : '1,000 mi'],
    loss.per_100_h && [volume(loss.per_100_h.value), '100 h'],
  ].filter((row) => row != null);
  return rows.length > 0 ? `That is ${rows.map(([litres, by]) => `${litres} per ${by}`).join(', ')}.` : '';
}

/** Decisions against the advice; a lead says that they have seen them. */
function Overrides({ data }: { data: Data }) {
  const client = useQueryClient();
  const { system } = useUnits();
  const session = useQuery(sessionOptions).data;
  const recorder = useRecorder(data.loop.id, data.state);
  const waiting = data.state.overrides.filter((row) => !row.acknowledged);
  if (waiting.length === 0) return null;
  const seen = (entryId: string) =>
    recorder.record([{ kind: 'acknowledged', facts: { entry_id: entryId } }], () => {
      void client.invalidateQueries(historyOptions(data.loop.id));
    });
  return (
    <section className="overrides" aria-label="Against the advice">
      {waiting.map((row) => {
        const event = data.history.events.find((one) => one.entry_id === row.entry_id);
        return (
          <div key={row.entry_id}>
            <i className="tape" />
            <p>
              <b>{event && sayIn(event.said, system)}</b>{' '}
              <span className="ink2">
                {row.person}, {timeOf(row.at, session?.depot?.time_zone)}
              </span>
            </p>
            {session?.person?.role === 'lead' && (
              <ButtonBase className="key" aria-disabled={recorder.busy} onClick={() => seen(row.entry_id)}>
                Mark as seen
              </ButtonBase>
            )}
          </div>
        );
      })}
      {recorder.refusal && <Refusal which="Not recorded." allowed={recorder.refusal.message} />}
    </section>
  );
}

/** Every event in words, newest first: the drawing's twin. */
function Events({ data }: { data: Data }) {
  const { system, temperature } = useUnits();
  const zone = useQuery(sessionOptions).data?.depot?.time_zone;
  const { events } = data.history;
  if (events.length === 0) return null;
  return (
    <table className="ledger">
      <thead>
        <tr>
          <th>when</th>
          <th>what</th>
          <th className="wide">strength</th>
          <th>freezes at</th>
          <th className="wide">target then</th>
        </tr>
      </thead>
      <tbody>
        {[...events].reverse().map((event) => (
          <tr key={`${event.entry_id} ${event.kind}`}>
            <td className="nw">{timeOf(event.at, zone)}</td>
            <td>
              {sayIn(event.said, system)}
              <span className="photos">
                {data.photos
                  .filter((photo) => photo.entry_id === event.entry_id)
                  .map((photo) => (
                    <img key={photo.sha256} src={`/api/photos/${photo.sha256}`} alt="" />
                  ))}
              </span>
            </td>
            <td className="wide nw">
              {event.strength_percent == null ? '' : `${number(event.strength_percent, 1)} %`}
            </td>
            <td className="nw">{event.freeze_c == null ? '' : temperature(event.freeze_c)}</td>
            <td className="wide nw">{event.target_c == null ? '' : temperature(event.target_c, 0)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
