import type { Schemas } from '../api/client';
import { Jar } from '../figures/Jar';
import { jarLook } from '../figures/jarLook';
import { LOOK } from '../language/names';
import { sayIn } from '../language/say';
import { clockOf } from '../language/time';
import { useUnits } from '../units/UnitsContext';
import { Eyepiece } from './Eyepiece';
import type { Bench } from './queries';

interface Props {
  bench: Bench;
  zone: string | undefined;
}

const words = (jar: Schemas['JarSeen']): string =>
  [...jar.looks.map((look) => LOOK[look as Schemas['Look']]), jar.sediment_mm ? `${jar.sediment_mm} mm sediment` : '']
    .filter(Boolean)
    .join(', ')
    .toLowerCase();

/** What the last act yielded: a sentence, a jar, a view through the eyepiece; first how it could have hurt somebody. */
export function FoundNow({ bench, zone }: Props) {
  const { system } = useUnits();
  const last = bench.done[0];
  if (!last) return null;
  const { said, glass, jar, unsafe } = last.found;
  const marks = bench.glasses.find((row) => row.name === glass?.name);
  return (
    <section className="foundnow" aria-label="Found" aria-live="polite">
      {(unsafe ?? []).map((row) => (
        <p key={row.code} className="unsafe" role="alert">
          {sayIn(row, system)}
        </p>
      ))}
      <p>
        <time dateTime={last.at}>{clockOf(last.at, zone)}</time> {sayIn(said, system)}
      </p>
      {jar && (
        <div className="jarthere">
          <Jar
            id="jar-there"
            label=""
            says={words(jar)}
            look={jarLook({
              looks: jar.looks as Schemas['Look'][],
              sediment_mm: jar.sediment_mm,
              entry_id: 'here',
            } as Schemas['Jar'])}
          />
          <p>
            In the jar: <b>{words(jar)}</b>
          </p>
        </div>
      )}
      {glass && marks && <Eyepiece glass={glass} scale={marks} />}
    </section>
  );
}

/** What was found before, the last first: to be looked up before it is entered. */
export function FoundBefore({ bench, zone }: Props) {
  const { system } = useUnits();
  const before = bench.done.slice(1);
  if (before.length === 0) return null;
  return (
    <section aria-label="Found before">
      <h3>Found before</h3>
      <ol className="foundbefore">
        {before.map((row) => (
          <li key={row.at + row.act.do}>
            <time dateTime={row.at}>{clockOf(row.at, zone)}</time> {sayIn(row.found.said, system)}
            {row.found.jar ? ` In the jar: ${words(row.found.jar)}.` : ''}
          </li>
        ))}
      </ol>
    </section>
  );
}
