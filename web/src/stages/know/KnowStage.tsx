import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import type { StageProps } from '../../bench/BenchPage';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import type { Fact } from '../../bench/useRecorder';
import { Change, Cross, Tick } from '../../parts/icons';
import { GoPlate } from '../../parts/GoPlate';
import { Stepper } from '../../parts/Stepper';
import { parseTyped, type Typed, typedFrom } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { chemistry, FORM } from '../../words/trade';

interface KnowDraft {
  productId: number | null;
  coldest: Typed;
  found: Typed;
}

type Choice = Schemas['Choice'];

const MARK: Record<Schemas['Verdict'], () => React.ReactNode> = {
  fits: () => <Tick size={17} />,
  fits_after_change_out: () => <Change />,
  emergency_only: () => <Change />,
  no: () => <Cross />,
};

/** May this go in? Products with verdicts and reasons, how cold it gets, and what the coolant as found freezes at. */
export function KnowStage({ bench, recorder }: StageProps) {
  const { system, temperature } = useUnits();
  const { state } = bench;
  const alreadyRead = bench.recent.find((entry) => entry.facts.place === 'as_found');
  const { draft, change, settle, touched } = useDraft<KnowDraft>(bench, 'know', {
    productId: state.plan ? Number(state.plan.product.id) : null,
    coldest: typedFrom(state.plan?.coldest_c ?? bench.coldest_c, 'temperature', system, 0),
    found: { text: '', unit: 'degC' },
  });
  const picked = bench.choices.find((choice) => choice.product.id === draft.productId) ?? null;
  const coldest = parseTyped(draft.coldest, 'temperature', system);
  const found = parseTyped(draft.found, 'temperature', system);
  const foundC = found.ok ? found.base : null;
  const foundRefused = foundC !== null && (foundC > 0 || foundC < -50) ? wordsForFound(temperature) : undefined;

  const waits = waitsFor(picked, coldest.ok, (found.ok || found.empty) && !foundRefused);
  const take = () => {
    if (!picked || !coldest.ok) return;
    const facts: Fact[] = [];
    if (foundC !== null) facts.push({ kind: 'read', facts: { value: foundC, place: 'as_found' } });
    const margin = bench.policy.margin_k ?? 5;
    facts.push({
      kind: 'planned',
      facts: { product_id: picked.product.id, coldest_c: coldest.base, margin_k: margin },
    });
    recorder.record(facts, settle);
  };
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={{
        coldest: coldest.ok ? coldest.base : null,
        found: foundC ?? (alreadyRead ? state.claim.freeze_c : null),
      }}
      drafted={touched}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={picked ? `Take ${picked.product.name}` : 'Pick what goes in'}
          then="Drain, cold and without pressure"
          waits={waits}
          busy={recorder.busy}
          onPress={take}
        />
      }
    >
      <div className="row">
        <Stepper
          name="coldest"
          label="Coldest it stands in"
          kind="temperature"
          typed={draft.coldest}
          onChange={(coldestTyped) => change({ coldest: coldestTyped })}
        />
        {alreadyRead ? (
          <div className="field">
            <span className="lbl">As found, freezes at</span>
            <span className="title">
              {state.claim.freeze_c === null ? 'off scale' : temperature(state.claim.freeze_c)}
            </span>
          </div>
        ) : (
          <Stepper
            name="found"
            label="As found, freezes at (leave empty if not read)"
            kind="temperature"
            typed={draft.found}
            start={-20}
            placeholder="not read"
            refused={foundRefused}
            onChange={(foundTyped) => change({ found: foundTyped })}
          />
        )}
      </div>
      <h1 className="title" id="choices">
        What goes in?{' '}
        <span className="ink2">Inside now: {chemistry(state.found.family, state.found.base).toLowerCase()}</span>
      </h1>
      <div className="choices" role="radiogroup" aria-labelledby="choices" style={{ paddingTop: 6 }}>
        {bench.choices.map((choice) => (
          <ChoiceRow
            key={choice.product.id}
            choice={choice}
            picked={choice === picked}
            onPick={() => change({ productId: choice.product.id })}
          />
        ))}
      </div>
      <p className="ink2" style={{ paddingTop: 8 }}>
        Colour is not asked: dye tells nothing about the chemistry. The maker&rsquo;s specification outranks every rule
        here.
      </p>
    </StageFrame>
  );
}

const wordsForFound = (temperature: (c: number, d?: number) => string): string =>
  `A freeze point told without an instrument lies between ${temperature(-50, 0)} and ${temperature(0, 0)}: correct it, or leave it empty.`;

function waitsFor(picked: Choice | null, coldestOk: boolean, foundOk: boolean): string | null {
  if (!picked) return 'Pick what goes in';
  if (picked.judged.verdict === 'no') return `${picked.product.name} does not fit: pick another`;
  if (!coldestOk) return 'How cold does it get here?';
  return foundOk ? null : 'Correct the freeze point as found';
}

function ChoiceRow({ choice, picked, onPick }: { choice: Choice; picked: boolean; onPick: () => void }) {
  const { product, judged } = choice;
  return (
    <div>
      <ButtonBase className="choice" role="radio" aria-checked={picked} onClick={onPick}>
        <span>
          <b>{product.name}</b>
          <small>
            {chemistry(product.family, product.base)}
            {product.base !== 'none' && `, ${FORM[product.form]}`}
          </small>
        </span>
        <span className="says">
          {MARK[judged.verdict]()}
          {judged.short}
        </span>
      </ButtonBase>
      {picked && (
        <ul className="reasons" style={{ padding: '8px 14px 4px 22px' }}>
          {judged.reasons.map((reason) => (
            <li key={reason.code}>
              {reason.weight === 0 ? <Tick size={17} /> : reason.weight === 3 ? <Cross /> : <Change />}
              <span>{reason.sentence}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
