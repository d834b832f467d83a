import type { Schemas } from '../api/client';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../words/say';

/** What must be known of this loop before anybody touches it; nothing where there is nothing. */
export function Cautions({ cautions }: { cautions: Schemas['Saying'][] }) {
  const { system } = useUnits();
  if (cautions.length === 0) return null;
  return (
    <div className="facts cautions">
      {cautions.map((said) => (
        <div key={said.code}>
          <i className="tape" />
          <span>{sayIn(said, system)}</span>
        </div>
      ))}
    </div>
  );
}
