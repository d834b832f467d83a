import type { EntryOut, Schemas } from '../api/client';
import { GoPlate } from '../controls/GoPlate';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { timeOf } from '../language/time';
import { STAGE } from '../language/names';
import { stateMarks } from './marks';
import { StageFrame } from './StageFrame';
import { useDepot } from '../api/useDepot';

type Stage = Schemas['Stage'];

const KINDS: Partial<Record<Stage, (entry: EntryOut) => boolean>> = {
  identify: (entry) =>
    (entry.kind === 'planned' && entry.facts.concentrate_l === null) ||
    entry.kind === 'contents_reported' ||
    entry.kind === 'metered' ||
    (entry.kind === 'read' && entry.facts.place === 'as_found'),
  inspect: (entry) => ['sampled', 'tested', 'skipped', 'job_type_chosen'].includes(entry.kind),
  open: (entry) => ['gate_observed', 'engine_run', 'temperature_logged'].includes(entry.kind),
  drain: (entry) => entry.kind === 'drained',
  flush: (entry) =>
    ['round_filled', 'engine_run', 'drained', 'vessels_rinsed', 'sampled', 'flush_ended', 'waste_kept'].includes(
      entry.kind,
    ) ||
    (entry.kind === 'read' && entry.facts.place === 'rinse'),
  mix: (entry) => entry.kind === 'planned' && entry.facts.concentrate_l !== null,
  fill: (entry) => entry.kind === 'poured',
  verify: (entry) => entry.kind === 'read' && entry.facts.place === 'finished',
};

interface Props {
  bench: Schemas['Bench'];
  stage: Stage;
  onBack: () => void;
}

/** A done stage, looked at: what was recorded, by whom, when. Nothing here changes anything. */
export function RecordedStage({ bench, stage, onBack }: Props) {
  const units = useUnits();
  const depot = useDepot();
  const lines = bench.recent.filter((entry) => KINDS[stage]?.(entry));
  const now = bench.state.stage;
  return (
    <StageFrame
      bench={bench}
      state={bench.state}
      marks={stateMarks(bench.state, bench.state.plan?.coldest_c ?? null)}
      go={<GoPlate act={now ? `Back to ${STAGE[now]}` : 'Back'} onPress={onBack} />}
    >
      <h1 className="title">{STAGE[stage]}, as recorded</h1>
      <ul className="recorded">
        {lines.map((entry) => (
          <li key={entry.id}>
            <span>{sayIn(entry.said, units.system)}</span>
            <span className="ink2 nw">
              {entry.person.name}, {timeOf(entry.happened_at, depot?.time_zone)}
            </span>
          </li>
        ))}
      </ul>
      <p className="ink2" style={{ paddingTop: 12 }}>
        To change it, undo the newest entries below one by one. They stay in the record, struck through.
      </p>
    </StageFrame>
  );
}
