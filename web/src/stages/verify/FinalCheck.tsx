import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { usePreview } from '../../api/calculators';
import type { Schemas } from '../../api/client';
import { sessionOptions } from '../../api/queries';
import type { StageProps } from '../../bench/stage';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { asPreview, type Fact } from '../../bench/useRecorder';
import { AllCheck } from '../../controls/AllCheck';
import { Check } from '../../controls/Check';
import { focusField } from '../../controls/focus';
import { GoPlate } from '../../controls/GoPlate';
import { NumberField, numberOf } from '../../controls/NumberField';
import { QuantityField } from '../../controls/QuantityField';
import { Refusal } from '../../controls/Refusal';
import { Segment } from '../../controls/Segment';
import { TextField } from '../../controls/TextField';
import { parseTyped, type Typed } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { Cautions } from '../../bench/Cautions';
import { standsFor } from '../open/gate';
import { OpenStage } from '../open/OpenStage';

interface LookDraft {
  level: Schemas['Level'] | '';
  levelC: Typed;
  proof: 'pressure' | 'vacuum' | 'none' | '';
  start: Typed;
  drop: Typed;
  minutes: string;
  why: string;
  done: Schemas['FinishPoint'][];
}

interface Props extends StageProps {
  onBack: () => void;
}

/** Level cold, tight by a value, covers on, floor dry: what is looked at before a name goes under it. */
export function FinalCheck({ bench, recorder, onBack }: Props) {
  const { system } = useUnits();
  const { state } = bench;
  const before = state.finish?.checked;
  const { draft, change, settle, touched } = useDraft<LookDraft>(
    bench,
    'verify',
    {
      level: before?.level ?? '',
      levelC: { text: '', unit: 'degC' },
      proof: '',
      start: { text: '', unit: 'kpa' },
      drop: { text: '', unit: 'kpa' },
      minutes: '',
      why: '',
      done: before?.done ?? [],
    },
    'look',
  );
  const fact = factOf(draft, system);
  const facts = typeof fact === 'string' ? null : [fact];
  const preview = usePreview(bench.loop.id, state.last_entry_id, facts ? asPreview(facts) : null);
  const me = useQuery(sessionOptions).data?.person?.id;
  const [opening, open] = useState(false);
  const safe = standsFor(state.gate, me, 'cap');
  const toOpen = facts !== null && !safe && preview.refusal?.code.startsWith('gate') === true;
  const ahead = facts && !preview.refusal ? preview.answer?.state.finish : null;
  const leaks = ahead?.leak_ok === false;
  if (opening && !safe) return <OpenStage bench={bench} recorder={recorder} purpose="cap" onBack={() => open(false)} />;
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={{
        coldest: state.plan?.coldest_c ?? null,
        target: state.plan?.target_freeze_c ?? null,
        safe: state.proof?.safe_to_c ?? null,
        reading: state.proof?.freeze_c ?? null,
      }}
      drafted={touched}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={toOpen ? 'Check it is safe to open' : 'Record the final check'}
          then={leaks ? 'find the leak, look again' : ahead?.missing.length ? 'what is still missing' : 'sign off'}
          waits={typeof fact === 'string' ? fact : preview.refusal ? (safe ? 'Fix the marked fields' : null) : null}
          busy={recorder.busy}
          onPress={() => (toOpen ? open(true) : facts && recorder.record(facts, () => (settle(), onBack())))}
        />
      }
    >
      <Cautions bench={bench} at="finish" />
      <h1 className="title">Final check</h1>
      {state.finish && <p className="ink2">{sayIn(state.finish.level, system)}</p>}
      <div className="row">
        <Segment
          label="Level"
          value={draft.level}
          options={[
            { value: 'at_mark', label: 'at the mark' },
            { value: 'low', label: 'low' },
            { value: 'over', label: 'over' },
          ]}
          onChange={(level) => {
            change({ level });
            focusField('level-c');
          }}
        />
        <QuantityField
          name="level-c"
          label="Read at"
          kind="temperature"
          typed={draft.levelC}
          onChange={(levelC) => change({ levelC })}
        />
      </div>
      <div className="row">
        <Segment
          label="Leak test"
          value={draft.proof}
          options={[
            { value: 'pressure', label: 'pressure held' },
            { value: 'vacuum', label: 'vacuum held' },
            { value: 'none', label: 'not done' },
          ]}
          onChange={(proof) => {
            change({ proof });
            focusField(proof === 'none' ? 'why' : 'start');
          }}
        />
      </div>
      <div className="row">
        {draft.proof === '' ? null : draft.proof === 'none' ? (
          <TextField name="why" label="Because" value={draft.why} max={200} wide onChange={(why) => change({ why })} />
        ) : (
          <>
            <QuantityField
              name="start"
              label="From"
              kind="pressure"
              typed={draft.start}
              onChange={(start) => change({ start })}
            />
            <QuantityField
              name="fell"
              label="Lost"
              kind="pressure"
              typed={draft.drop}
              onChange={(drop) => change({ drop })}
            />
            <NumberField
              name="hold-min"
              label="In"
              unit="min"
              value={draft.minutes}
              low={0.5}
              high={240}
              onChange={(minutes) => change({ minutes })}
            />
          </>
        )}
      </div>
      {/* its line is kept free: boxes never move under a finger */}
      <p className="hot aheadline">{leaks && <b data-testid="look-ahead">It leaks: find the leak.</b>}</p>
      <section className="closing two" aria-label="Closed up">
        {state.finish?.points.map((row) => (
          <Check
            key={row.point}
            label={row.name}
            checked={draft.done.includes(row.point)}
            onChange={(on) =>
              change({ done: on ? [...draft.done, row.point] : draft.done.filter((one) => one !== row.point) })
            }
          />
        ))}
        <AllCheck
          label="All done"
          rows={(state.finish?.points ?? []).map((row) => row.point)}
          picked={draft.done}
          onChange={(done) => change({ done })}
        />
      </section>
      {preview.refusal && !toOpen && <Refusal which={preview.refusal.message} />}
      <div className="row">
        <ButtonBase className="key small" onClick={onBack}>
          Back to the reading
        </ButtonBase>
      </div>
    </StageFrame>
  );
}

function factOf(draft: LookDraft, system: Parameters<typeof parseTyped>[2]): Fact | string {
  const level = parseTyped(draft.levelC, 'temperature', system);
  if (draft.level === '') return 'Where is the level?';
  if (!level.ok) return 'How warm was it when the level was read?';
  const facts = { level: draft.level, level_c: level.base, done: draft.done };
  if (draft.proof === '') return 'Leak test: which, or not done?';
  if (draft.proof === 'none') {
    if (!draft.why.trim()) return 'Leak test not done: say why';
    return { kind: 'finish_checked', facts: { ...facts, leak: null, no_leak_proof: draft.why.trim() } };
  }
  const [start, drop, minutes] = [
    parseTyped(draft.start, 'pressure', system),
    parseTyped(draft.drop, 'pressure', system),
    numberOf(draft.minutes),
  ];
  if (!start.ok || !drop.ok || minutes === null) return 'From what, fell by how much, in how many minutes?';
  return {
    kind: 'finish_checked',
    facts: {
      ...facts,
      leak: { method: draft.proof, start_kpa: start.base, drop_kpa: drop.base, minutes },
      no_leak_proof: '',
    },
  };
}
