import type { Schemas } from '../../api/client';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';

const NEVER = 9.9;

const howFar = (sds: number): string =>
  sds >= NEVER ? 'not by this alone' : sds < 1.5 ? 'likely' : sds < 3 ? 'possible' : 'unlikely';

/** Why reading and litres disagree, the likeliest first, each in its own measure. */
export function Causes({ state }: { state: Schemas['LoopState'] }) {
  const { system } = useUnits();
  if (state.causes.length === 0) return null;
  return (
    <section className="causes" aria-label="Likely causes" data-testid="causes">
      <p className="rulehead">
        <b>Possible causes</b>, most likely first
      </p>
      <ol>
        {state.causes.map((row) => (
          <li key={row.code}>
            <b>{row.name}</b>
            <span>{sayIn(row.said, system)}</span>
            <small>
              {howFar(row.sds)}
              {row.sds < NEVER && `, ${number(row.sds, 1)} times the uncertainty`}
            </small>
          </li>
        ))}
      </ol>
    </section>
  );
}
