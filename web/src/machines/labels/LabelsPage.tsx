import { useQuery } from '@tanstack/react-query';
import { useParams } from 'react-router';
import { type EntryOf, isKind, type Schemas } from '../../api/client';
import { benchOptions, ledgerOptions } from '../../api/queries';
import { GoPlate } from '../../controls/GoPlate';
import { LoopWays } from '../../controls/menu/LoopWays';
import { Page, Waiting } from '../../controls/menu/Page';
import { NotHere } from '../../controls/NotHere';
import { useUnits } from '../../units/UnitsContext';
import { lengthText } from '../../clocks/clock';
import { sayIn } from '../../language/say';
import { dateOf, timeOf } from '../../language/time';
import { chemistry, WASTE } from '../../language/names';
import { MachineLabel } from './MachineLabel';
import '../../controls/labels.css';
import { useDepot } from '../../api/useDepot';

/** What is printed and hung: the tag of a loop that holds water or cleaner, and a label for every waste container. */
export default function LabelsPage() {
  const loopId = Number(useParams().loopId);
  const bench = useQuery({ ...benchOptions(loopId), enabled: Number.isInteger(loopId) });
  const ledger = useQuery({ ...ledgerOptions(loopId), enabled: Number.isInteger(loopId) });
  if (bench.isError)
    return <NotHere head="No such loop." text={bench.error.message} retry={() => void bench.refetch()} />;
  if (!bench.data || !ledger.data) return <Waiting title="Labels" />;
  return <Labels bench={bench.data} ledger={ledger.data} />;
}

function Labels({ bench, ledger }: { bench: Schemas['Bench']; ledger: Schemas['Ledger'] }) {
  const { machine, loop, state } = bench;
  const kept = ledger.entries
    .filter(isKind('waste_kept'))
    .filter((entry) => !entry.voided && String(entry.job_id) === state.job_id);
  const holds = state.flush && state.flush.step !== 'plan';
  return (
    <Page
      title="Labels"
      number={machine.fleet_number}
      line={`${machine.kind}, ${loop.name}; print, hang, stick on`}
      className="labelspage"
      go={<GoPlate act="Print" then="hang it, stick it on" onPress={() => window.print()} />}
    >
      <LoopWays loopId={loop.id} machineId={machine.id} />
      <div className="labelsmain">
        <MachineLabel loopId={loop.id} />
        {holds || state.flush?.cleaner ? (
          <HoldsTag bench={bench} />
        ) : (
          <p className="ink2 noprint">No tag: the loop holds neither rinse water nor cleaner now.</p>
        )}
        {kept.flatMap((entry) =>
          containers(entry).map((n) => <WasteLabel key={`${entry.id}${n}`} bench={bench} entry={entry} n={n} />),
        )}
        {kept.length === 0 && (
          <p className="ink2 noprint">No container was recorded in this job: record them under Waste at the flush.</p>
        )}
      </div>
    </Page>
  );
}

const containers = (entry: EntryOf<'waste_kept'>): number[] => {
  const count = Math.min(50, entry.facts.containers ?? 1);
  return Array.from({ length: count }, (_, i) => i + 1);
};

/** "holds water" or "holds cleaner": hung where somebody would start it or leave it in the cold. */
function HoldsTag({ bench }: { bench: Schemas['Bench'] }) {
  const { system, temperature } = useUnits();
  const zone = useDepot()?.time_zone;
  const { state, machine } = bench;
  const cleaner = state.flush?.cleaner;
  const freeze = state.claim.freeze_c;
  return (
    <article className="printlabel tag" data-testid="tag">
      <p className="plateword">{machine.fleet_number}</p>
      <h2>{cleaner ? 'Holds cleaner' : 'Holds water'}</h2>
      <p className="large">
        {freeze === null ? 'No frost protection: keep indoors.' : `Freezes at ${temperature(freeze)}: keep indoors.`}
      </p>
      <p>{sayIn(state.standing, system)}</p>
      {cleaner && (
        <p>
          {cleaner.name} in since {timeOf(cleaner.since, zone)}, drain within {lengthText(cleaner.limit_min * 60_000)}.
          Never overnight. Gloves and glasses.
        </p>
      )}
      <p>
        {machine.kind}, {bench.loop.name}. {bench.by?.name}
      </p>
    </article>
  );
}

interface WasteProps {
  bench: Schemas['Bench'];
  entry: EntryOf<'waste_kept'>;
  n: number;
}

function WasteLabel({ bench, entry, n }: WasteProps) {
  const { volume, temperature } = useUnits();
  const { facts } = entry;
  const { state, machine } = bench;
  const found = state.found;
  const read = bench.recent.filter(isKind('read')).find((row) => row.facts.place === 'as_found');
  return (
    <article className="printlabel" data-testid="waste-label">
      <h2>{WASTE[facts.kind]}</h2>
      <p className="large">{facts.reuse ? 'Kept for reuse' : 'Not for reuse'}</p>
      <p>
        {facts.kind === 'old_coolant' ? chemistry(found.family, found.base) : 'water with a share of old coolant'}
        {facts.kind === 'cleaner_water' && ' and cleaner'}
        {facts.reuse && read && `; reading: ${temperature(read.facts.value)}`}
      </p>
      <p>
        <b>Poisonous. Keep away from children and animals. Lid on. Never in a drink bottle.</b>
      </p>
      <p>
        {machine.fleet_number}, {dateOf(entry.happened_at)}, {entry.person.name}; {n} of {facts.containers},{' '}
        {volume(facts.litres)} in all
      </p>
    </article>
  );
}
