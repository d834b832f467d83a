import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import { usePreview } from '../../../api/calculators';
import type { Schemas } from '../../../api/client';
import { stateMarks } from '../../../bench/marks';
import { RunFields } from '../../../bench/RunFields';
import { readyFor } from '../../../bench/readyFor';
import type { StageProps } from '../../../bench/stage';
import { StageFrame } from '../../../bench/StageFrame';
import { asPreview, type Fact } from '../../../bench/useRecorder';
import { Check } from '../../../controls/Check';
import { GoPlate } from '../../../controls/GoPlate';
import { numberOf, wrongNumber } from '../../../controls/NumberField';
import { TextField } from '../../../controls/TextField';
import { sayIn } from '../../../language/say';
import { useUnits } from '../../../units/UnitsContext';
import { Cautions } from '../../../bench/Cautions';
import { Additives } from './Additives';
import type { TestDraft } from '../draft';
import type { DoseProps } from './props';
import './dose.css';

interface Props extends StageProps, DoseProps {
  dose: Schemas['DoseState'];
  /** Clears what is typed, once it is recorded. */
  settle: () => void;
  /** The safe-to-open check stands, and is this person's. */
  safe: boolean;
  onOpen: () => void;
}

const TITLE: Record<Schemas['DoseStep'], string> = {
  strips: 'Dose additive: strips first',
  pour: 'How much additive?',
  run: 'Run it hot: the dose is not mixed yet',
  again: 'Strips again',
  done: 'What the strips say now',
};

/** An additive dose from its strips to its strips: pour, run it hot, read again, sign. One step at a time. */
export function DoseSheet({ bench, recorder, dose, draft, onChange, settle, safe, onOpen }: Props) {
  const { state } = bench;
  const { system } = useUnits();
  const facts = doseOf(draft);
  const preview = usePreview(bench.loop.id, state.last_entry_id, facts && safe ? asPreview([facts]) : null);
  const refusal = facts && safe ? preview.refusal : null;
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={stateMarks(state, state.plan?.coldest_c ?? bench.coldest_c)}
      refusal={recorder.refusal ?? refusal}
      go={
        <DosePlate
          {...{ bench, recorder, dose, draft, onChange, settle, safe, onOpen, facts }}
          refused={refusal !== null}
        />
      }
    >
      <Cautions bench={bench} at={dose.step === 'run' ? 'run' : 'inspect'} />
      <h1 className="title">{TITLE[dose.step]}</h1>
      <ul className="doselines" aria-label="Inhibitor account" data-testid="inhibitor">
        {state.inhibitor.map((row) => (
          <li key={row.inhibitor}>
            {sayIn(row.said, system)} <span className="ink2">{allowed(row)}</span>
          </li>
        ))}
        {dose.poured.map((row) => (
          <li key={row.entry_id}>
            <b>{row.ml} ml</b> {row.agent} poured
          </li>
        ))}
      </ul>
      {dose.step === 'pour' && <Additives bench={bench} draft={draft} onChange={onChange} />}
      {dose.step === 'run' && (
        <RunFields asked={state.gate.asked_run ?? []} draft={draft} what="dose" onChange={onChange} />
      )}
      {dose.step === 'done' && (
        <p className="title" data-testid="dose-verdict">
          {sayIn(dose.said, system)}
        </p>
      )}
      {dose.step === 'done' && dose.verdict !== 'protected' && (
        <>
          <Additives bench={bench} draft={draft} onChange={onChange} />
          <TextField
            name="dose-reason"
            label="Or sign off as it is: why?"
            value={draft.reason}
            max={300}
            wide
            onChange={(reason) => onChange({ reason })}
          />
        </>
      )}
      <div className="row">
        <ButtonBase className="key small" onClick={() => onChange({ panel: 'outside' })}>
          Findings and checks
        </ButtonBase>
        {dose.verdict !== 'protected' && (
          <ButtonBase className="key small" onClick={() => onChange({ job_type: 'refill' })}>
            Another job type
          </ButtonBase>
        )}
      </div>
    </StageFrame>
  );
}

const allowed = (row: Schemas['InhibitorState']): string =>
  `${Math.round(row.allowed_low_mg_l)} to ${Math.round(row.allowed_high_mg_l)} is right.`;

/** The dose as it is typed; null while something is missing. */
function doseOf(draft: TestDraft): Fact | null {
  const ml = numberOf(draft.doseMl);
  if (draft.agentId === null || ml === null || wrongNumber(draft.doseMl, 'ml', 1, 250_000)) return null;
  const taken = draft.canId === '' ? [] : [{ can_id: Number(draft.canId), litres: ml / 1000 }];
  return { kind: 'dosed', facts: { agent_id: draft.agentId, dose_ml: ml, taken } };
}

interface PlateProps extends Props {
  facts: Fact | null;
  /** It cannot be: why stands above. */
  refused: boolean;
}

/** The one key of the step. */
function DosePlate(props: PlateProps) {
  const { bench, recorder, dose, draft, onChange, settle, safe, onOpen, facts, refused } = props;
  const { state } = bench;
  const [live, goLive] = useState(false);
  const pouring = dose.step === 'pour' || (dose.step === 'done' && draft.agentId !== null);
  const strips = (
    <GoPlate act="Read the strips" then="they decide the dose" onPress={() => onChange({ panel: 'checks' })} />
  );
  const open = (then: string) => <GoPlate act="Check it is safe to open" then={then} onPress={onOpen} />;
  if (dose.step === 'strips' || dose.step === 'again') return safe ? strips : open('strips');
  if (pouring) {
    if (!safe) return open('pour the additive');
    const missing = draft.agentId === null ? 'Choose the additive' : 'Enter the ml poured';
    const waits = facts === null ? missing : refused ? 'Fix the ml poured' : null;
    return (
      <GoPlate
        act="Record the dose"
        then="run it hot, then strips again"
        waits={waits}
        busy={recorder.busy}
        onPress={() =>
          facts &&
          recorder.record([facts], () =>
            onChange({ agentId: null, doseMl: '', canId: '', opened: 'open', minutes: '', heater: false }),
          )
        }
      />
    );
  }
  if (dose.step === 'run') return <RunPlate {...{ bench, recorder, draft, onChange }} />;
  const reason = draft.reason.trim();
  return (
    <>
      {state.isolated && <Check label="Service mode ended, pump works again" checked={live} onChange={goLive} />}
      <GoPlate
        act="Sign off"
        then="back to the board"
        waits={
          state.isolated && !live
            ? 'End service mode, then tick it'
            : dose.verdict === 'overdosed'
              ? 'Overdosed: choose another job type'
              : dose.verdict !== 'protected' && reason === ''
                ? 'Dose again, or say why not'
                : null
        }
        busy={recorder.busy}
        onPress={() =>
          recorder.record(
            [
              {
                kind: 'signed_off',
                facts: { proof: 'checked', reason, service_mode_ended: state.isolated && live },
              },
            ],
            settle,
          )
        }
      />
    </>
  );
}

/** It ran hot, as somebody saw it: both hoses, the heater, how long. */
function RunPlate({ bench, recorder, draft, onChange }: StageProps & DoseProps) {
  const asked = bench.state.gate.asked_run ?? [];
  const minutes = numberOf(draft.minutes);
  const waits =
    asked.length > 0 && !draft.aired
      ? 'Tick: exhaust ventilated'
      : draft.opened === 'open'
        ? 'Check both hoses and the heater air'
        : minutes === null
          ? 'How long did it run?'
          : null;
  const ran = {
    kind: 'engine_run',
    facts: { by: 'engine', minutes, opened: draft.opened === 'yes', heater_full: draft.heater, neck_open: false },
  } as const;
  return (
    <GoPlate
      act="Engine off: record the run"
      then="cool, check it is safe, strips again"
      waits={waits}
      busy={recorder.busy}
      onPress={() =>
        recorder.record([...(asked.length > 0 ? [readyFor(asked)] : []), ran], () =>
          onChange({ opened: 'open', minutes: '', heater: false, aired: false }),
        )
      }
    />
  );
}
