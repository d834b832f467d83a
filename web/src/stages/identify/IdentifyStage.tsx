import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { instrumentsOptions, sessionOptions } from '../../api/queries';
import type { StageProps } from '../../bench/stage';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import type { Fact } from '../../bench/useRecorder';
import { GoPlate } from '../../controls/GoPlate';
import { Segment } from '../../controls/Segment';
import { Stepper } from '../../controls/Stepper';
import { TextField } from '../../controls/TextField';
import { InstrumentPick, ReadValue } from '../../controls/reading/ReadWith';
import {
  emptyValue,
  type Instrument,
  kindFor,
  parsedOn,
  type ReadDraft,
  strengthReaders,
} from '../../controls/reading/scale';
import { isKind, type Schemas } from '../../api/client';
import { parseTyped, type Typed, typedFrom } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { Cautions } from '../../bench/Cautions';
import { standsFor } from '../open/gate';
import { OpenStage } from '../open/OpenStage';
import { Chooser } from './Chooser';
import { InsideLine, InsidePanel } from './InsidePanel';
import { Supplies } from './Supplies';
import { type InsideDraft, insideFrom, insideWrong, meteredFact, toldFact } from './inside';
import './identify.css';

interface IdentifyDraft {
  productId: number | null;
  coldest: Typed;
  found: Typed;
  /** Which of two strengths a told freeze point means. */
  side: Schemas['Branch'];
  /** Read now, with an instrument; null where it is told. */
  read: ReadDraft | null;
  /** Open and being said; null where what is believed stands. */
  inside: InsideDraft | null;
  /** Why a product for emergencies goes in. */
  reason: string;
}

/** May this go in? What is inside, products with verdicts, reasons and cost, how cold it gets. */
export function IdentifyStage({ bench, recorder }: StageProps) {
  const { system, temperature } = useUnits();
  const { state } = bench;
  const checking = state.job_type === 'check' || state.job_type === 'dose';
  const asFound = bench.recent.filter(isKind('read')).filter((entry) => entry.facts.place === 'as_found');
  const { draft, change, settle, settleTo, touched } = useDraft<IdentifyDraft>(bench, 'identify', {
    productId: state.plan ? Number(state.plan.product.id) : null,
    coldest: typedFrom(state.plan?.coldest_c ?? bench.coldest_c, 'temperature', system, 0),
    found: { text: '', unit: 'degC' },
    side: 'lean',
    read: null,
    inside: checking ? insideFrom(state, system) : null,
    reason: '',
  });
  const instruments = strengthReaders(useQuery(instrumentsOptions).data?.instruments ?? []);
  const picked = bench.choices.find((choice) => choice.product.id === draft.productId) ?? null;
  const coldest = parseTyped(draft.coldest, 'temperature', system);
  const found = parseTyped(draft.found, 'temperature', system);
  const foundC = found.ok ? found.base : null;
  const foundRefused = foundC !== null && (foundC > 0 || foundC < -50) ? wordsForFound(temperature) : undefined;
  const foundOk = (found.ok || found.empty) && !foundRefused;
  const twoSides = foundC !== null && !foundRefused && state.inside.base !== 'propylene' && foundC <= turnedBack(bench);
  const reader = draft.read ? (instruments.find((row) => row.id === draft.read?.instrumentId) ?? null) : null;
  const readValue = reader && draft.read ? parsedOn(reader, draft.read.value, system) : null;
  const readSample = draft.read ? parseTyped(draft.read.sample, 'temperature', system) : null;
  const readWaits = draft.read && !(readValue?.ok && readSample?.ok) ? 'What does it read, how warm?' : null;
  const told: Fact[] = draft.read
    ? readValue?.ok && readSample?.ok && reader
      ? [
          {
            kind: 'read',
            facts: {
              value: readValue.base,
              place: 'as_found',
              instrument_id: reader.id,
              zero: null,
              sample_c: readSample.base,
            },
          },
        ]
      : []
    : foundC === null
      ? []
      : [{ kind: 'read', facts: { value: foundC, place: 'as_found', branch: twoSides ? draft.side : 'lean' } }];

  const me = useQuery(sessionOptions).data?.person?.id;
  const [opening, open] = useState(false);
  const safe = standsFor(state.gate, me, 'cap');
  const sayInside = (inside: InsideDraft) => {
    const metered = meteredFact(inside, system);
    const facts = [...(metered ? [metered] : []), toldFact(inside, system), ...told];
    recorder.record(facts, () => settleTo({ inside: null, found: { text: '', unit: 'degC' }, read: null }));
  };
  const take = () => {
    if (!picked || !coldest.ok) return;
    const margin = bench.policy.margin_k ?? 5;
    const urgent = picked.judged.verdict === 'emergency_only';
    const planned = {
      product_id: picked.product.id,
      coldest_c: coldest.base,
      margin_k: margin,
      reason: urgent ? draft.reason.trim() : '',
    };
    recorder.record([...told, { kind: 'planned', facts: planned }], settle);
  };
  const inside = draft.inside;
  if (opening && !safe) return <OpenStage bench={bench} recorder={recorder} purpose="cap" onBack={() => open(false)} />;
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={{
        coldest: coldest.ok ? coldest.base : null,
        found: (foundRefused ? null : foundC) ?? (asFound.length > 0 ? state.claim.freeze_c : null),
      }}
      drafted={touched}
      refusal={recorder.refusal}
      go={
        inside ? (
          <GoPlate
            act="Save current coolant"
            then={checking ? 'inspect' : 'choose a coolant'}
            waits={
              inside.toppedUp === ''
                ? 'Topped up with what?'
                : insideWrong(inside, system)
                  ? 'Fix the meters'
                  : (readWaits ?? (foundOk ? null : FOUND_FIRST))
            }
            busy={recorder.busy}
            onPress={() => sayInside(inside)}
          />
        ) : (
          <GoPlate
            act={picked ? `Choose ${picked.product.name}` : 'Choose a coolant'}
            then={state.job_type === 'top_up' ? 'top up' : 'inspect'}
            waits={
              waitsFor(picked, coldest.ok, foundOk) ??
              readWaits ??
              (picked?.judged.verdict === 'emergency_only' && !draft.reason.trim() ? 'Emergency only: say why' : null)
            }
            busy={recorder.busy}
            onPress={take}
          />
        )
      }
    >
      <Cautions bench={bench} at="identify" />
      <div className="row">
        <Stepper
          name="coldest"
          label="Coldest place it is parked"
          kind="temperature"
          typed={draft.coldest}
          onChange={(coldestTyped) => change({ coldest: coldestTyped })}
        />
        {asFound.length > 0 ? (
          <div className="field">
            <span className="lbl">As found, freezes at</span>
            <span className="title">
              {state.claim.freeze_c === null ? 'off scale' : temperature(state.claim.freeze_c)}
            </span>
          </div>
        ) : draft.read ? null : (
          <>
            <Stepper
              name="found"
              label="As found, freezes at (empty if not read)"
              kind="temperature"
              typed={draft.found}
              start={-20}
              placeholder="not read"
              refused={foundRefused}
              onChange={(foundTyped) => change({ found: foundTyped })}
            />
            {twoSides && (
              <Segment
                label="Two strengths freeze at this point"
                value={draft.side}
                options={[
                  { value: 'lean', label: 'the weaker' },
                  { value: 'rich', label: 'the stronger' },
                ]}
                onChange={(side) => change({ side })}
              />
            )}
          </>
        )}
        {asFound.length === 0 && instruments.length > 0 && (
          <ButtonBase
            className="key"
            onClick={() =>
              draft.read || safe ? change({ read: draft.read ? null : startRead(instruments) }) : open(true)
            }
          >
            {draft.read ? 'It was reported' : safe ? 'Read it now' : 'Read it: safe to open first'}
          </ButtonBase>
        )}
      </div>
      {draft.read && (
        <div className="row" data-testid="read-as-found">
          <InstrumentPick
            instruments={instruments}
            instrument={reader}
            onPick={(row) => draft.read && change({ read: { ...draft.read, instrumentId: row.id, value: emptyValue } })}
          />
          {reader && (
            <ReadValue
              key={reader.id}
              instrument={reader}
              draft={draft.read}
              name="found-read"
              {...(kindFor(reader) === 'temperature' ? { start: -30 } : {})}
              onChange={(part) => draft.read && change({ read: { ...draft.read, ...part } })}
            />
          )}
          <Stepper
            name="found-sample"
            label="Sample is at"
            kind="temperature"
            typed={draft.read.sample}
            onChange={(sample) => draft.read && change({ read: { ...draft.read, sample } })}
          />
        </div>
      )}
      {!checking && (
        <InsideLine
          state={state}
          open={inside !== null}
          onOpen={() => change({ inside: inside ? null : insideFrom(state, system) })}
        />
      )}
      {inside ? (
        <InsidePanel
          draft={inside}
          meterBackwards={recorder.refusal?.code === 'meter_backwards'}
          onChange={(part) => change({ inside: { ...inside, ...part } })}
        />
      ) : (
        <>
          <h1 className="title" id="choices">
            Which coolant?
          </h1>
          <Chooser
            choices={bench.choices}
            picked={picked}
            onPick={(choice) => change({ productId: choice.product.id })}
          />
          {picked && <Supplies choice={picked} />}
          {picked?.judged.verdict === 'emergency_only' && (
            <TextField
              name="emergency"
              label="Emergency only: why this product? A lead will read it."
              value={draft.reason}
              max={300}
              wide
              onChange={(reason) => change({ reason })}
            />
          )}
        </>
      )}
      <p className="ink2" style={{ paddingTop: 8 }}>
        Colour does not tell the chemistry. The maker&rsquo;s specification
        {bench.stated_in ? ` (${bench.stated_in})` : ''} comes before every rule here.
      </p>
    </StageFrame>
  );
}

/** Warmest freeze point that a strength past the turn can have [°C]. */
const turnedBack = (bench: Schemas['Bench']): number =>
  Math.max(...bench.frost_scales.flatMap((row) => row.rich.map((mark) => mark.freeze_c)), -50);

const startRead = (instruments: Instrument[]): ReadDraft => ({
  instrumentId: instruments.length === 1 ? (instruments[0]?.id ?? null) : null,
  value: emptyValue,
  sample: { text: '', unit: 'degC' },
});

const FOUND_FIRST = 'Fix the freeze point as found';

const wordsForFound = (temperature: (c: number, d?: number) => string): string =>
  `A freeze point without an instrument must be between ${temperature(-50, 0)} and ${temperature(0, 0)}. Fix it, or leave it empty.`;

function waitsFor(picked: Schemas['Choice'] | null, coldestOk: boolean, foundOk: boolean): string | null {
  if (!picked) return 'Choose a coolant';
  if (picked.judged.verdict === 'no') return `${picked.product.name} is not suitable: choose another`;
  if (!coldestOk) return 'How cold does it get here?';
  return foundOk ? null : FOUND_FIRST;
}
