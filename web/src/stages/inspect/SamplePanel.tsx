import type { Schemas } from '../../api/client';
import { Chips } from '../../controls/Chips';
import { NumberField } from '../../controls/NumberField';
import { Segment } from '../../controls/Segment';
import type { TestDraft } from './draft';

interface Props {
  /** Places that may be looked at now. */
  spots: Schemas['Spot'][];
  words: Schemas['InspectionWords'];
  draft: TestDraft;
  onChange: (part: Partial<TestDraft>) => void;
}

/** What the fluid looks like, at one place at a time: one symptom from one place is a hint. */
export function SamplePanel({ spots: allowed, words, draft, onChange }: Props) {
  const spots = words.spots
    .filter((row) => allowed.includes(row.spot))
    .map((row) => ({ value: row.spot, label: row.name }));
  const looks = words.looks.map((row) => ({ value: row.look, label: row.name }));
  const says = words.looks.filter((row) => draft.looks.includes(row.look));
  return (
    <div className="samplepanel">
      <Segment label="Sample from" value={draft.spot} options={spots} onChange={(spot) => onChange({ spot })} />
      <Chips label="Look" options={looks} picked={draft.looks} onChange={(picked) => onChange({ looks: picked })} />
      <div className="row">
        <NumberField
          name="sediment"
          label="Sediment, settled"
          unit="mm"
          value={draft.sediment}
          low={0}
          high={200}
          onChange={(sediment) => onChange({ sediment })}
        />
        <p className="ink2 meaning">
          {says.length > 0
            ? says.map((row) => `${row.name}: ${row.says}.`).join(' ')
            : 'Stir it, hold it to a light. Look at two places: one may be worse.'}
        </p>
      </div>
    </div>
  );
}
