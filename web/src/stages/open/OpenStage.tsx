import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { usePreview } from '../../api/calculators';
import type { Schemas } from '../../api/client';
import { sessionOptions } from '../../api/queries';
import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDepot } from '../../api/useDepot';
import { useDraft } from '../../bench/useDraft';
import { asPreview } from '../../bench/useRecorder';
import { GoPlate } from '../../controls/GoPlate';
import { QuantityField } from '../../controls/QuantityField';
import { Segment } from '../../controls/Segment';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { timeOf } from '../../language/time';
import { Cooling } from '../../bench/Cooling';
import { Cautions } from '../../bench/Cautions';
import { askedFor, confirmed, type GateDraft, observed, onlyReady, type Purpose, UNFELT } from './gate';
import { Isolated } from './Isolated';
import { ReadyList } from './ReadyList';
import './open.css';

const WARMTH = [
  { value: 'hand', label: 'bare hand' },
  { value: 'probe', label: 'contact probe' },
  { value: 'infrared', label: 'infrared on matt black rubber' },
] as const;
const PRESSURE = [
  { value: 'hose', label: 'squeeze upper hose' },
  { value: 'gauge', label: 'gauge' },
] as const;

interface Props extends StageProps {
  onBack?: () => void;
  /** What is opened next; by default a drain, and on a top-up the cap alone. */
  purpose?: Purpose;
}

/** Is it safe to open? Two observations, what stands ready, and never the clock. */
export function OpenStage({ bench, recorder, onBack, purpose }: Props) {
  const { system } = useUnits();
  const { state, loop } = bench;
  const { gate } = state;
  const me = useQuery(sessionOptions).data?.person?.id;
  const opens = purpose ?? (state.job_type === 'top_up' ? 'cap' : 'drain');
  const between = state.job_id === null || state.signed_at !== null;
  const { draft, change, settle, touched } = useDraft<GateDraft>(bench, 'open', UNFELT);
  const readyOnly = onlyReady(gate, me, opens);
  const asked = readyOnly ? (gate.asked_drain ?? []) : askedFor(gate, opens);
  const fact = readyOnly ? confirmed(draft, asked) : observed(draft, asked, system);
  const ready = typeof fact === 'string' ? null : [fact];
  const preview = usePreview(loop.id, state.last_entry_id, ready && asPreview(ready), between);
  const safe = ready !== null && preview.answer?.state.gate.open === true;
  const press = () => {
    if (!ready) return;
    recorder.record(ready, () => {
      settle();
      if (safe) onBack?.(); // to what it was opened for
    });
  };
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={stateMarks(state, state.plan?.coldest_c ?? null)}
      shares={state.flush !== null}
      drafted={touched}
      refusal={recorder.refusal ?? (ready ? preview.refusal : null)}
      go={
        <GoPlate
          act={readyOnly ? 'Confirm supports and tray' : safe ? 'Confirm safe to open' : 'Record: not safe yet'}
          then={
            ready === null
              ? 'elapsed time is not enough'
              : readyOnly
                ? 'drain'
                : safe
                  ? 'use a rag, slowly to the first stop'
                  : 'wait, then check again'
          }
          waits={typeof fact === 'string' ? fact : null}
          asks={readyOnly ? undefined : unanswered(draft)}
          busy={recorder.busy || (ready !== null && !preview.answer && !preview.refusal)}
          onPress={press}
        />
      }
    >
      <Cautions bench={bench} at="open" />
      <h1 className="title">{readyOnly ? 'Ready to drain?' : 'Safe to open?'}</h1>
      {!gate.observed && (
        <p className="ink2">
          Hot coolant is under pressure and scalds. Do both checks yourself; elapsed time is not enough.
        </p>
      )}
      {gate.observed && !readyOnly && <Found gate={gate} />}
      {onBack && (
        <div className="row">
          <ButtonBase className="key small" onClick={onBack}>
            Keep it shut, back
          </ButtonBase>
        </div>
      )}
      {!readyOnly && <Cooling bench={bench} recorder={recorder} />}
      {!readyOnly && <TwoSigns draft={draft} holdS={bench.policy.gate_hold_s ?? 5} onChange={change} />}
      <ReadyList asked={asked} ready={draft.ready} onChange={(next) => change({ ready: next })} />
      {asked.some((row) => row.ready === 'isolated') && (
        <Isolated people={bench.isolators} value={draft.isolatedBy} onChange={(isolatedBy) => change({ isolatedBy })} />
      )}
    </StageFrame>
  );
}

/** Where the sign stands that nobody has given yet. */
const unanswered = (draft: GateDraft): string | undefined => {
  if (draft.warmth === 'hand' && draft.held === 'open') return '.signs section:first-of-type .field:last-child button';
  if (draft.pressure === 'hose' && draft.soft === 'open') return '.signs section:last-of-type .field:last-child button';
  return undefined;
};

interface SignsProps {
  draft: GateDraft;
  holdS: number;
  onChange: (part: Partial<GateDraft>) => void;
}

function TwoSigns({ draft, holdS, onChange }: SignsProps) {
  return (
    <div className="signs">
      <section aria-label="First sign: cold">
        <Segment
          label="1. Cold? Cap and lower hose"
          value={draft.warmth}
          options={WARMTH}
          onChange={(warmth) => onChange({ warmth })}
        />
        {draft.warmth === 'hand' ? (
          <Segment
            label={`In the bare hand for ${holdS} s`}
            value={draft.held}
            options={[
              { value: 'yes', label: 'held, both' },
              { value: 'no', label: 'too hot' },
              { value: 'open', label: 'not checked' },
            ]}
            onChange={(held) => onChange({ held })}
          />
        ) : (
          <QuantityField
            name="gate-temperature"
            label={
              draft.warmth === 'probe' ? 'Warmest of cap and hose' : 'Measure on rubber: bare metal reads far too low'
            }
            kind="temperature"
            typed={draft.temperature}
            onChange={(temperature) => onChange({ temperature })}
          />
        )}
      </section>
      <section aria-label="Second sign: no pressure">
        <Segment
          label="2. No pressure?"
          value={draft.pressure}
          options={PRESSURE}
          onChange={(pressure) => onChange({ pressure })}
        />
        {draft.pressure === 'hose' ? (
          <Segment
            label="Upper hose"
            value={draft.soft}
            options={[
              { value: 'yes', label: 'soft' },
              { value: 'no', label: 'hard' },
              { value: 'open', label: 'not checked' },
            ]}
            onChange={(soft) => onChange({ soft })}
          />
        ) : (
          <QuantityField
            name="gate-gauge"
            label="Gauge shows"
            kind="pressure"
            typed={draft.gauge}
            onChange={(gauge) => onChange({ gauge })}
          />
        )}
      </section>
    </div>
  );
}

/** What was felt last, by whom, and why that does not open it now. */
function Found({ gate }: { gate: Schemas['Gate'] }) {
  const { system } = useUnits();
  const zone = useDepot()?.time_zone;
  const by = `${gate.by}, ${gate.observed_at ? timeOf(gate.observed_at, zone) : ''}`;
  return (
    <div className="found" role="status" data-testid="gate">
      <i className="tape" />
      <p>
        <b>{gate.open ? `${gate.by} made the check. Whoever opens it must make it.` : 'Not safe to open.'}</b>{' '}
        {gate.reasons.map((said) => sayIn(said, system)).join(' ')} <span className="ink2">{by}</span>
      </p>
    </div>
  );
}
