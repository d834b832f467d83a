import type { Schemas } from '../../api/client';
import { Cross, Tick } from '../../parts/icons';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { aboutText, lengthText } from '../../waiting/clock';
import { sayIn } from '../../words/say';

interface Props {
  schools: Schemas['SchoolPlan'][];
  limit: number | null;
  /** What is reckoned to where no limit applies. */
  usual: number;
}

const MINUTE = 60_000;
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Where the old coolant is under its limit already, ways that would then run no round say nothing. */
const worth = (schools: Schemas['SchoolPlan'][]) =>
  schools.filter((school) => school.rounds !== 0 || school.method === null);

/** Every school for this loop, cheapest that reaches the limit first; what it cannot do stands under it. */
export function Schools({ schools, limit, usual }: Props) {
  const { volume, system } = useUnits();
  return (
    <table className="ways schools">
      <caption className="visually-hidden">Schools of flushing side by side for this loop</caption>
      <thead>
        <tr>
          <th scope="col">
            {limit === null ? `No limit applies; to ${number(usual, 0)} % old` : `To ${number(limit, 0)} % old`}
          </th>
          <th scope="col">rounds</th>
          <th scope="col">would hold</th>
          <th scope="col">water</th>
          <th scope="col">waste</th>
          <th scope="col">hands</th>
          <th scope="col">waiting</th>
        </tr>
      </thead>
      <tbody>
        {worth(schools).map((school) => (
          <tr key={school.name} className={school.reaches ? '' : 'not'}>
            <th scope="row">
              {school.reaches ? <Tick size={13} /> : <Cross size={12} />} {capital(school.name)}
              {[school.reason, school.note].map((said) => said && <small key={said.code}>{sayIn(said, system)}</small>)}
            </th>
            <td data-label="rounds">{roundsText(school)}</td>
            <td data-label="would hold">{number(school.finished_percent, 1)} %</td>
            <td data-label="water">{school.water_l > 0.05 ? volume(school.water_l) : '–'}</td>
            <td data-label="waste">{school.waste_l > 0.05 ? volume(school.waste_l) : '–'}</td>
            <td data-label="hands">{school.hands_min > 0 ? lengthText(school.hands_min * MINUTE) : '–'}</td>
            <td data-label="waiting">{waitText(school)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function roundsText({ rounds, rounds_high }: Schemas['SchoolPlan']): string {
  if (rounds === null) return '–';
  if (rounds_high === null) return `${rounds} or more`;
  return rounds_high > rounds ? `${rounds}, perhaps ${rounds_high}` : String(rounds);
}

function waitText({ wait_min }: Schemas['SchoolPlan']): string {
  if (wait_min.high <= 0) return '–';
  return `${aboutText(wait_min.low * MINUTE)} to ${aboutText(wait_min.high * MINUTE)}`;
}
