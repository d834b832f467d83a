import type { Schemas } from '../../api/client';
import { Cross, Tick } from '../../controls/icons';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { aboutText, lengthText } from '../../clocks/clock';
import { sayIn } from '../../language/say';

interface Props {
  methods: Schemas['FlushMethodPlan'][];
  limit: number | null;
  /** The limit that is used where none applies. */
  usual: number;
}

const MINUTE = 60_000;
const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** Where the old coolant is under its limit already, ways that would then run no round say nothing. */
const worth = (methods: Schemas['FlushMethodPlan'][]) =>
  methods.filter((method) => method.rounds !== 0 || method.method === null);

/** Every method for this loop, cheapest that reaches the limit first; what it cannot do stands under it. */
export function Methods({ methods, limit, usual }: Props) {
  const { volume, system } = useUnits();
  return (
    <table className="ways flushmethods">
      <caption className="visually-hidden">Flush methods side by side for this loop</caption>
      <thead>
        <tr>
          <th scope="col">
            {limit === null ? `No limit applies; to ${number(usual, 0)} % old` : `To ${number(limit, 0)} % old`}
          </th>
          <th scope="col">rounds</th>
          <th scope="col">old coolant left</th>
          <th scope="col">water</th>
          <th scope="col">waste</th>
          <th scope="col">hands</th>
          <th scope="col">waiting</th>
        </tr>
      </thead>
      <tbody>
        {worth(methods).map((method) => (
          <tr key={method.name} className={method.reaches ? '' : 'not'}>
            <th scope="row">
              {method.reaches ? <Tick size={13} /> : <Cross size={12} />} {capital(method.name)}
              {[method.reason, method.note].map((said) => said && <small key={said.code}>{sayIn(said, system)}</small>)}
            </th>
            <td data-label="rounds">{roundsText(method)}</td>
            <td data-label="old coolant left">{number(method.finished_percent, 1)} %</td>
            <td data-label="water">{method.water_l > 0.05 ? volume(method.water_l) : '–'}</td>
            <td data-label="waste">{method.waste_l > 0.05 ? volume(method.waste_l) : '–'}</td>
            <td data-label="hands">{method.hands_min > 0 ? lengthText(method.hands_min * MINUTE) : '–'}</td>
            <td data-label="waiting">{waitText(method)}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function roundsText({ rounds, rounds_high }: Schemas['FlushMethodPlan']): string {
  if (rounds === null) return '–';
  if (rounds_high === null) return `${rounds} or more`;
  return rounds_high > rounds ? `${rounds}, perhaps ${rounds_high}` : String(rounds);
}

function waitText({ wait_min }: Schemas['FlushMethodPlan']): string {
  if (wait_min.high <= 0) return '–';
  return `${aboutText(wait_min.low * MINUTE)} to ${aboutText(wait_min.high * MINUTE)}`;
}
