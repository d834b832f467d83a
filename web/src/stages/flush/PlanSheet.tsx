import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import { usePreview } from '../../api/calculators';
import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview } from '../../bench/useRecorder';
import { GoPlate } from '../../controls/GoPlate';
import { Cross, Tick } from '../../controls/icons';
import { Segment } from '../../controls/Segment';
import { TextField } from '../../controls/TextField';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { METHOD, WASTE } from '../../language/names';
import { askJar, askRound, askWaste, type FlushDraft, type Panel, startFlush, sweeps } from './draft';
import { JarPanel } from './JarPanel';
import { RoundPanel } from './RoundPanel';
import { HowSure } from '../../controls/HowSure';
import { RoundsTable } from './RoundsTable';
import { Methods } from './Methods';
import { WastePanel } from './WastePanel';

interface Props extends StageProps {
  flush: Schemas['FlushState'];
}

/** Between rounds: what each left, whether it is enough, and the one next thing. */
export function PlanSheet({ bench, recorder, flush }: Props) {
  const { system } = useUnits();
  const { state, loop } = bench;
  const { draft, change, settle, touched } = useDraft<FlushDraft>(bench, 'flush', startFlush(bench), aboutOf(flush));
  const ask = { jar: askJar, round: askRoundOf(bench), waste: askWaste, methods: nothing }[draft.panel](draft, system);
  const preview = usePreview(loop.id, state.last_entry_id, ask.facts && asPreview(ask.facts));
  const refusal = ask.facts ? preview.refusal : null;
  const shown = ask.facts && preview.answer && !refusal ? preview.answer.state : state;
  const number = flush.rounds.length;
  const enough = flush.enough.enough;
  const end = (reason: string) => recorder.record([{ kind: 'flush_ended', facts: { reason } }], settle);
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={stateMarks(shown, state.plan?.coldest_c ?? null)}
      drafted={touched && ask.facts !== null && draft.panel !== 'round'}
      refusal={recorder.refusal ?? refusal}
      go={
        draft.panel === 'methods' ? (
          enough ? (
            <GoPlate act="Finish flush" then="plan the mix" busy={recorder.busy} onPress={() => end('')} />
          ) : (
            <GoPlate act={`Plan round ${number}`} then="method and water" onPress={() => change({ panel: 'round' })} />
          )
        ) : (
          <GoPlate
            act={actOf(draft, bench, number)}
            then={thenOf(draft, bench)}
            waits={ask.waits ?? (refusal ? 'Fix the marked fields' : null)}
            busy={recorder.busy}
            onPress={() => ask.facts && recorder.record(ask.facts, settle)}
          />
        )
      }
    >
      <RoundsTable flush={flush} ahead={bench.flushing?.ahead ?? []} vessels={state.vessels} />
      <HowSure state={state} of={['old']} />
      <Rule flush={flush} />
      <div className="panelpick">
        <Segment
          label="Show"
          hideLabel
          value={draft.panel}
          options={panels(flush, number)}
          onChange={(panel) => change({ panel })}
        />
      </div>
      {draft.panel === 'jar' && <JarPanel bench={bench} draft={draft} onChange={change} />}
      {draft.panel === 'round' && <RoundPanel bench={bench} draft={draft} onChange={change} recorder={recorder} />}
      {draft.panel === 'methods' &&
        (enough ? (
          <Sum flush={flush} number={number} />
        ) : (
          <Methods
            methods={bench.flushing?.methods ?? []}
            limit={flush.limit_percent}
            usual={bench.policy.old_limit_family_percent ?? 10}
          />
        ))}
      {draft.panel === 'waste' && <WastePanel bench={bench} flush={flush} draft={draft} onChange={change} />}
      {draft.panel === 'methods' && !enough && (
        <div className="row endearly">
          <TextField
            name="early"
            label="Or finish early: why?"
            value={draft.reason}
            max={500}
            wide
            onChange={(reason) => change({ reason })}
          />
          <ButtonBase
            className="key"
            aria-disabled={draft.reason.trim() === '' || recorder.busy}
            onClick={() => draft.reason.trim() !== '' && end(draft.reason)}
          >
            Finish flush early
          </ButtonBase>
        </div>
      )}
    </StageFrame>
  );
}

/** A draft is about this jar, this reading and these containers: once one of them is recorded, it is done with. */
function aboutOf(flush: Schemas['FlushState']): string {
  const last = flush.rounds.at(-1);
  const kept = flush.waste.map((row) => row.containers).join('+');
  return `plan ${last?.entry_id} ${last?.jar?.entry_id ?? ''} ${last?.jar?.read_entry_id ?? ''} ${kept}`;
}

const nothing = () => ({ facts: null, waits: null });
const askRoundOf = (bench: Schemas['Bench']) => (draft: FlushDraft, system: Parameters<typeof askJar>[1]) =>
  askRound(draft, bench, system);

function panels(flush: Schemas['FlushState'], number: number): { value: Panel; label: string }[] {
  const last = flush.rounds.at(-1);
  return [
    ...(last ? [{ value: 'jar' as const, label: `Jar ${last.number + 1}` }] : []),
    { value: 'round', label: `Round ${number}` },
    { value: 'methods', label: flush.enough.enough ? 'Enough' : 'Methods' },
    { value: 'waste', label: 'Waste' },
  ];
}

function actOf(draft: FlushDraft, bench: Schemas['Bench'], number: number): string {
  if (draft.panel === 'jar') return `Record jar ${(bench.state.flush?.rounds.at(-1)?.number ?? 0) + 1}`;
  if (draft.panel === 'waste') return `Record ${WASTE[draft.waste].toLowerCase()}`;
  if (draft.method === 'cleaner') return `Cleaner is in: confirm`;
  return sweeps(bench, draft) ? `${METHOD[draft.method]}: record` : `Fill for round ${number}, then confirm`;
}

function thenOf(draft: FlushDraft, bench: Schemas['Bench']): string {
  if (draft.panel === 'jar') return 'see whether it is enough';
  if (draft.panel === 'waste') return 'put the lid on, label it';
  return sweeps(bench, draft) ? 'look at a sample' : 'run it hot, heater on full';
}

/** The two-part stop rule, asked now: each part with its mark. */
function Rule({ flush }: { flush: Schemas['FlushState'] }) {
  const { system } = useUnits();
  const { enough } = flush;
  return (
    <div className="stoprule" role="status" data-testid="stop-rule">
      <b>{enough.enough ? 'Enough.' : 'Not yet.'}</b>
      {enough.enough ? (
        <span>
          <Tick size={14} /> clear in the jar <Tick size={14} />{' '}
          {flush.limit_percent === null ? 'no limit for old coolant: same chemistry' : 'old coolant under its limit'}
        </span>
      ) : (
        enough.short.map((said) => (
          <span key={said.code}>
            <Cross size={12} /> {sayIn(said, system)}
          </span>
        ))
      )}
      {enough.notes.map((said) => (
        <span key={said.code} className="ink2">
          {sayIn(said, system)}
        </span>
      ))}
    </div>
  );
}

/** What the flush came to: rounds, water, waste; what stays is carried into the mix. */
function Sum({ flush, number: next }: { flush: Schemas['FlushState']; number: number }) {
  const { volume } = useUnits();
  const water = Object.entries(flush.water_l).map(([kind, litres]) => `${volume(litres)} ${kind}`);
  const waste = flush.waste.map((row) => `${volume(row.out_l)} ${WASTE[row.kind].toLowerCase()}`);
  const rounds = next - 1;
  return (
    <div className="enoughpanel">
      <p>
        {rounds === 0 ? 'No round was needed' : `${rounds} ${rounds === 1 ? 'round' : 'rounds'}`}
        {water.length > 0 && `; water: ${water.join(', ')}`}. Waste: {waste.join(', ')}.
      </p>
      <p className="ink2">What stays inside is carried into the mix. One more round all the same: Round {next}.</p>
    </div>
  );
}
