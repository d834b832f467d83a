import type { Schemas } from '../api/client';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';

interface Props {
  bench: Schemas['Bench'];
  /** Where the hand is. */
  at: Schemas['CautionPlace'];
}

/** What must be known before anybody touches this loop here; nothing where there is nothing. */
export function Cautions({ bench, at }: Props) {
  return <CautionLines cautions={bench.cautions[at] ?? []} testId={`cautions-${at}`} />;
}

/** One line each; nothing where there is nothing. */
export function CautionLines({ cautions, testId }: { cautions: Schemas['Message'][]; testId?: string }) {
  const { system } = useUnits();
  if (cautions.length === 0) return null;
  return (
    <div className="facts cautions" data-testid={testId}>
      {cautions.map((said) => (
        <div key={said.code}>
          <i className="tape" />
          <span>{sayIn(said, system)}</span>
        </div>
      ))}
    </div>
  );
}
