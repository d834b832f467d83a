import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '../../api/client';
import { inspectionOptions, instrumentsOptions } from '../../api/queries';
import { Chips } from '../../controls/Chips';
import { NumberField } from '../../controls/NumberField';
import { QuantityField } from '../../controls/QuantityField';
import { Segment } from '../../controls/Segment';
import { emptyValue, firstFor, kindFor } from '../../controls/reading/scale';
import type { FlushDraft } from './draft';

interface Props {
  bench: Schemas['Bench'];
  draft: FlushDraft;
  onChange: (part: Partial<FlushDraft>) => void;
}

/** What the last round's fluid looks like, and what it reads if anybody reads it. */
export function JarPanel({ bench, draft, onChange }: Props) {
  const words = useQuery(inspectionOptions).data;
  const glycol = bench.state.inside.base === 'propylene' ? 'freeze_propylene' : 'freeze_ethylene';
  const readers = (useQuery(instrumentsOptions).data?.instruments ?? []).filter(
    (row) =>
      row.kind !== 'steps' && !row.retired && row.scale && (row.scale === glycol || !row.scale.startsWith('freeze')),
  );
  const first = firstFor(readers, bench.state.inside.base);
  const instruments = [...readers].sort((a, b) => Number(b.id === first?.id) - Number(a.id === first?.id));
  const looks = (words?.looks ?? []).map((row) => ({ value: row.look, label: row.name }));
  const cleaner = bench.state.flush?.cleaner;
  return (
    <div className="samplepanel jarpanel">
      <Chips
        label="Look of the jar"
        options={looks}
        picked={draft.looks}
        onChange={(picked) => onChange({ looks: picked })}
      />
      <div className="row">
        <NumberField
          name="sediment"
          label="Settled"
          unit="mm"
          value={draft.sediment}
          low={0}
          high={200}
          onChange={(sediment) => onChange({ sediment })}
        />
        {cleaner ? (
          <p className="ink2 meaning">Cleaner is inside: glycol readings do not count. Colourless is not clean.</p>
        ) : (
          <>
            <QuantityField
              name="rinse-value"
              label="Reading, if taken"
              kind={kindFor(instruments.find((row) => String(row.id) === draft.instrument) ?? instruments[0] ?? null)}
              typed={draft.value}
              onChange={(value) =>
                onChange({ value, instrument: draft.instrument || String(instruments[0]?.id ?? '') })
              }
            />
            {instruments.length > 0 && (
              <Segment
                label="On"
                value={draft.instrument}
                options={instruments.map((row) => ({ value: String(row.id), label: row.name }))}
                onChange={(instrument) => onChange({ instrument, value: emptyValue })}
              />
            )}
            <QuantityField
              name="rinse-sample"
              label="Sample at"
              kind="temperature"
              typed={draft.sample}
              onChange={(sample) => onChange({ sample })}
            />
          </>
        )}
      </div>
    </div>
  );
}
