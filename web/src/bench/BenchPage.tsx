import { useQuery } from '@tanstack/react-query';
import { useParams, useSearchParams } from 'react-router';
import type { Schemas } from '../api/client';
import { benchOptions, sessionOptions } from '../api/queries';
import { Swatch } from '../figures/patterns';
import { NotHere } from '../controls/NotHere';
import { StageLine } from '../controls/StageLine';
import { Terms } from '../controls/Terms';
import { BenchMenu } from '../controls/menu/Menu';
import { useTitle, Waiting } from '../controls/menu/Page';
import { TimerChips } from '../clocks/TimerChips';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { chemistry, STAGE } from '../language/names';
import { JobRecord } from './JobRecord';
import { NoJob } from './NoJob';
import { PausedSheet } from './PausedSheet';
import { RecordedStage } from './RecordedStage';
import type { Stage, Stages } from './stage';
import { useRecorder } from './useRecorder';

/** A sheet starts again with every entry, but for the test: findings are recorded there one after the other. */
const sheetKey = (state: Schemas['LoopState']): string =>
  state.stage === 'inspect' ? `test ${state.job_id}` : `${state.stage} ${state.last_entry_id}`;

/** One loop's job, with the sheet of its stage. */
export function BenchPage({ stages }: { stages: Stages }) {
  const loopId = Number(useParams().loopId);
  const bench = useQuery({ ...benchOptions(loopId), enabled: Number.isInteger(loopId) });
  if (bench.data) return <Bench bench={bench.data} stages={stages} />;
  if (bench.isError) {
    const gone = bench.error && 'status' in bench.error && bench.error.status === 404;
    return (
      <NotHere
        head={gone ? 'No such loop in this depot.' : 'This job cannot be shown.'}
        text={bench.error.message}
        retry={() => void bench.refetch()}
        {...(gone ? {} : { way: { to: `/loops/${loopId}/record`, label: 'Record' } })}
      />
    );
  }
  return <Waiting title="Job" />;
}

function Bench({ bench, stages }: { bench: Schemas['Bench']; stages: Stages }) {
  const [params, setParams] = useSearchParams();
  const { state, machine, loop } = bench;
  const recorder = useRecorder(loop.id, state);
  const asked = params.get('stage') as Stage | null;
  const open = asked === 'flush' && state.stages.some((row) => row.stage === 'flush' && row.status === 'choice');
  const looking = open || state.stages.some((row) => row.stage === asked && row.status === 'done') ? asked : null;
  useTitle(
    machine.fleet_number,
    loop.loops_on_machine > 1 ? loop.name : undefined,
    state.stage ? STAGE[state.stage] : 'no job open',
  );
  const me = useQuery(sessionOptions).data?.person?.id;
  // nobody passes the gate for another: whoever drains feels it first
  const stage = state.stage === 'drain' && state.gate.by_id !== String(me) ? 'open' : state.stage;
  const Sheet = state.paused ? PausedSheet : open ? stages.flush : stage ? stages[stage] : undefined;
  const look = (stage: Stage | null) => setParams(stage ? { stage } : {}, { replace: true });
  const product = state.plan?.product;
  return (
    <div className="bench">
      <header className="strip">
        <BenchMenu />
        <div className="plateslot">
          <span className="plate">
            <span>{machine.fleet_number}</span>
          </span>
        </div>
        <div className="veh">
          <div>
            <b>{machine.kind}</b>
            <span>
              {loop.loops_on_machine > 1
                ? `loop ${loop.position} of ${loop.loops_on_machine}, ${loop.name}`
                : machine.description}
            </span>
          </div>
        </div>
        <div className="chem">
          <dl>
            <dt>
              <Swatch fill="old100" />
              {product ? 'was' : 'inside'}
            </dt>
            <dd>{chemistry(state.found.family, state.found.base)}</dd>
            {product && (
              <>
                <dt>
                  <Swatch fill={state.poured.product_l > 0 ? 'mixed' : 'conc'} />
                  {state.poured.product_l > 0 ? 'now inside' : 'planned'}
                </dt>
                <dd>{chemistry(product.family, product.base)}</dd>
              </>
            )}
          </dl>
        </div>
        <TimerChips loopId={loop.id} />
      </header>
      {state.stages.length > 0 && <StageLine stages={state.stages} looking={looking} onLook={look} />}
      <Standing state={state} />
      {looking && !open && !state.paused ? (
        <RecordedStage bench={bench} stage={looking} onBack={() => look(null)} />
      ) : Sheet && state.stage ? (
        <Sheet key={sheetKey(state)} bench={bench} recorder={recorder} />
      ) : (
        <NoJob bench={bench} />
      )}
      <JobRecord bench={bench} recorder={recorder} />
    </div>
  );
}

const BEFORE: (Stage | null)[] = [null, 'identify', 'inspect'];

/** The state in one sentence, at the top of the job from the first opening on. */
function Standing({ state }: { state: Schemas['LoopState'] }) {
  const { system } = useUnits();
  if (BEFORE.includes(state.stage) || state.signed_at) return null;
  return (
    <p className="standingline" data-testid="standing">
      {state.frost_risk && <i className="tape" aria-hidden="true" />}
      <span>
        <Terms>{sayIn(state.standing, system)}</Terms>
      </span>
    </p>
  );
}
