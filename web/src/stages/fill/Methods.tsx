import type { Schemas } from '../../api/client';
import type { Recorder } from '../../bench/useRecorder';
import { Segment } from '../../controls/Segment';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import type { FillDraft } from './draft';
import { VacuumPanel } from './VacuumPanel';

interface Props {
  bench: Schemas['Bench'];
  recorder: Recorder;
  draft: FillDraft;
  change: (part: Partial<FillDraft>) => void;
}

/** How it goes in, and how that is done on this loop. */
export function Methods({ bench, recorder, draft, change }: Props) {
  const { method, point } = draft;
  const { system } = useUnits();
  const methods = bench.state.fill?.methods ?? [];
  const picked = methods.find((row) => row.method === method);
  if (methods.length === 0 || !picked) return null;
  const points = bench.loop.layout.fill_points ?? [];
  return (
    <section className="methods" aria-label="Fill method">
      <div className="how">
        <Segment
          label="How"
          hideLabel
          value={method}
          options={methods.map((row) => ({ value: row.method, label: row.name }))}
          onChange={(next) => change({ method: next })}
        />
        <ol className={picked.steps.length < 3 ? 'short' : ''}>
          {picked.steps.map((said) => (
            <li key={said.sentence}>{sayIn(said, system)}</li>
          ))}
        </ol>
      </div>
      {picked.warnings.map((said) => (
        <p key={said.code} className="warn">
          <i className="tape" />
          {sayIn(said, system)}
        </p>
      ))}
      {method === 'points' && points.length > 1 && (
        <Segment
          label="Fill point"
          value={point}
          options={points.map((row) => ({ value: String(row.number), label: `${row.number}, ${row.name}` }))}
          onChange={(next) => change({ point: next })}
        />
      )}
      {method === 'vacuum' && <VacuumPanel bench={bench} recorder={recorder} draft={draft} change={change} />}
    </section>
  );
}
