import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '../../api/client';
import { instrumentsOptions } from '../../api/queries';
import { NumberField } from '../../controls/NumberField';
import { QuantityField } from '../../controls/QuantityField';
import { Segment } from '../../controls/Segment';
import { InstrumentPick, ReadValue } from '../../controls/reading/ReadWith';
import { emptyValue, kindFor, strengthReaders } from '../../controls/reading/scale';
import type { Typed } from '../../units/parse';
import type { Kind } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { type CheckDraft, figuresAsked, type TestDraft } from './draft';

type CheckRow = Schemas['CheckRow'];
const NOTHING: Typed = { text: '', unit: 'degC' };

interface Props {
  /** A first reading is taken here: it opens the loop. */
  reading: boolean;
  rows: CheckRow[];
  advised: Schemas['FurtherTest'][];
  draft: TestDraft;
  onChange: (part: Partial<TestDraft>) => void;
}

/** Checks one after the other, each with its answers; what the advice asks for stands first. */
export function ChecksPanel({ reading, rows, advised, draft, onChange }: Props) {
  const { system } = useUnits();
  const strips = (useQuery(instrumentsOptions).data?.instruments ?? []).find(
    (row) => row.kind === 'strips' && !row.retired,
  );
  const why = new Map(advised.map((test) => [test.check, test.why.sentence]));
  const sorted = [...rows].sort((a, b) => Number(why.has(b.check)) - Number(why.has(a.check)));
  const set = (check: Schemas['Check'], part: Partial<CheckDraft>) => {
    const before = draft.checks[check] ?? { outcome: null, figures: {} };
    onChange({ checks: { ...draft.checks, [check]: { ...before, ...part } } });
  };
  return (
    <div className="checkspanel">
      {reading && why.size === 0 && <Reading draft={draft} onChange={onChange} />}
      {sorted.map((row) => {
        const typed = draft.checks[row.check];
        return (
          <div key={row.check} className="checkrow" data-testid={`check-${row.check}`}>
            <div>
              <b>{row.name}</b>
              <span>{row.how}</span>
              {(row.steps ?? []).length > 0 && (
                <ol className="procedure">
                  {(row.steps ?? []).map((step) => (
                    <li key={step}>{step}</li>
                  ))}
                </ol>
              )}
              {why.has(row.check) && <span className="asked">Required: {why.get(row.check)}.</span>}
            </div>
            <div className="answers-in">
              {row.outcomes && row.outcomes.length > 0 && (
                <Segment
                  label={row.name}
                  hideLabel
                  value={typed?.outcome ?? 'open'}
                  options={[
                    ...row.outcomes.map((outcome) => ({ value: outcome.key, label: outcome.name })),
                    { value: 'open', label: 'not checked' },
                  ]}
                  onChange={(outcome) => set(row.check, { outcome: outcome === 'open' ? null : outcome })}
                />
              )}
              {figuresAsked(row, typed?.outcome ?? null).map((figure) => (
                <FigureField
                  key={`${figure.key} ${system}`}
                  figure={figure}
                  name={`${row.check}-${figure.key}`}
                  bands={strips?.bands[figure.key] ?? []}
                  typed={typed?.figures[figure.key] ?? NOTHING}
                  onChange={(value) => set(row.check, { figures: { ...(typed?.figures ?? {}), [figure.key]: value } })}
                />
              ))}
              {row.check === 'conductivity' && (
                <Segment
                  label="The meter converts to 25 °C"
                  value={typed?.compensated == null ? '' : typed.compensated ? 'yes' : 'no'}
                  options={[
                    { value: 'yes', label: 'yes, by itself' },
                    { value: 'no', label: 'no' },
                  ]}
                  onChange={(answer) => set(row.check, { compensated: answer === 'yes' })}
                />
              )}
            </div>
          </div>
        );
      })}
      {reading && why.size > 0 && <Reading draft={draft} onChange={onChange} />}
    </div>
  );
}

interface FieldProps {
  figure: Schemas['Figure'];
  name: string;
  typed: Typed;
  /** What the strips of the depot can show: pressed instead of typed. */
  bands: number[];
  onChange: (typed: Typed) => void;
}

function FigureField({ figure, name, typed, bands, onChange }: FieldProps) {
  if (figure.kind)
    return (
      <QuantityField name={name} label={figure.name} kind={figure.kind as Kind} typed={typed} onChange={onChange} />
    );
  return (
    <>
      <NumberField
        name={name}
        label={figure.name}
        unit={figure.unit}
        value={typed.text}
        low={figure.low}
        high={figure.high}
        onChange={(text) => onChange({ text, unit: 'degC' })}
      />
      {bands.length > 0 && (
        <Segment
          label={`${figure.name}: matching band`}
          value={bands.map(String).includes(typed.text) ? typed.text : ''}
          options={bands.map((value) => ({ value: String(value), label: String(value) }))}
          onChange={(text) => onChange({ text, unit: 'degC' })}
        />
      )}
    </>
  );
}

/** The first reading, with the instrument that took it. */
function Reading({ draft, onChange }: Pick<Props, 'draft' | 'onChange'>) {
  const instruments = strengthReaders(useQuery(instrumentsOptions).data?.instruments ?? []);
  const instrument = instruments.find((row) => row.id === draft.instrumentId) ?? null;
  return (
    <div className="checkrow" data-testid="check-reading">
      <div>
        <b>First reading</b>
        <span>Clean prism, two or three drops, let it settle.</span>
      </div>
      <div className="answers-in">
        <InstrumentPick
          instruments={instruments}
          instrument={instrument}
          onPick={(row) => onChange({ instrumentId: row.id, value: emptyValue })}
        />
        {instrument && (
          <ReadValue
            key={instrument.id}
            instrument={instrument}
            draft={draft}
            name="first-value"
            label={instrument.kind === 'steps' ? 'Steps visible' : 'Reading'}
            placeholder="not read"
            {...(kindFor(instrument) === 'temperature' ? { start: -30 } : {})}
            onChange={onChange}
          />
        )}
        <QuantityField
          name="first-sample"
          label="Sample"
          kind="temperature"
          typed={draft.sample}
          onChange={(sample) => onChange({ sample })}
        />
      </div>
    </div>
  );
}
