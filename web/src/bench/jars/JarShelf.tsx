import ButtonBase from '@mui/material/ButtonBase';
import { useId, useState } from 'react';
import type { Schemas } from '../../api/client';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { Jar } from '../../figures/Jar';
import { JarDialog } from './JarDialog';
import { jarLook, jarWords } from '../../figures/jarLook';
import { roundName } from './roundName';
import './jars.css';

interface Props {
  bench: Schemas['Bench'];
}

type Round = Schemas['RoundState'];

/** What was read or predicted of a round, in a few words. */
function shareWords(round: Round): string {
  if (round.number === 0) return '';
  if (round.finished_old_percent === null) return 'in progress';
  const share = `${number(round.finished_old_percent, 1)} % old after refill`;
  return round.source === 'predicted' ? `${share}, predicted` : `${share}, ${round.source} by a reading`;
}

/** Jars of the rounds side by side, drawn from the data; ahead they are dashed; the last is the new fluid to compare with. */
export function JarShelf({ bench }: Props) {
  const id = useId().replace(/:/g, '');
  const { system, volume } = useUnits();
  const [opened, open] = useState<string | null>(null);
  const rounds = bench.state.flush?.rounds ?? [];
  const ahead = bench.flushing?.ahead ?? [];
  const product = bench.state.plan?.product;
  const picked = rounds.find((round) => round.entry_id === opened);
  return (
    <>
      <ol className="jars" aria-label="Jars">
        {rounds.map((round) => {
          const words = jarWords(round.jar);
          const shares = shareWords(round);
          return (
            <li key={round.entry_id}>
              <ButtonBase className="jarkey" onClick={() => open(round.entry_id)}>
                <Jar
                  id={`${id}${round.number}`}
                  look={jarLook(round.jar)}
                  label={String(round.number + 1)}
                  says={`Jar ${round.number + 1}, ${roundName(round)}: ${words}. ${shares}`}
                />
                <span>
                  <b>
                    {round.number + 1} · {roundName(round)}
                  </b>
                  {round.out_l !== null && <span>{volume(round.out_l)} out</span>}
                  <span>{words}</span>
                  <span className="ink2">{round.jar?.says ? sayIn(round.jar.says, system) : shares}</span>
                </span>
              </ButtonBase>
            </li>
          );
        })}
        {bench.state.flush?.step === 'plan' &&
          ahead.slice(0, 3).map((row) => (
            <li key={row.number}>
              <div className="jarkey">
                <Jar
                  id={`${id}ahead${row.number}`}
                  look={{ kind: 'ghost', percent: row.ran_percent }}
                  label={String(row.number + 1)}
                  says={`Round ${row.number} ahead: runs at ${number(row.ran_percent, 1)} % old coolant, predicted`}
                />
                <span>
                  <b>
                    {row.number + 1} · round {row.number}
                  </b>
                  <span>runs at {number(row.ran_percent, 1)} % old</span>
                  <span className="ink2">leaves {number(row.finished_percent, 1)} %, predicted</span>
                </span>
              </div>
            </li>
          ))}
        {product && (
          <li>
            <div className="jarkey">
              <Jar id={`${id}new`} look={{ kind: 'control' }} label="" says={`Control jar: ${product.name}, fresh`} />
              <span>
                <b>for comparison</b>
                <span>{product.name}</span>
                <span className="ink2">fresh coolant</span>
              </span>
            </div>
          </li>
        )}
      </ol>
      {picked && <JarDialog bench={bench} round={picked} onClose={() => open(null)} />}
    </>
  );
}
