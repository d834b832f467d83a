import type { Schemas } from '../../api/client';
import { useReading } from '../../api/calculators';
import { fromKelvin, number, showTemperature, type System, SYSTEMS } from '../../units/units';
import { scaleText } from '../../controls/reading/scale';
import { useUnits } from '../../units/UnitsContext';
import { inUnits } from '../../language/say';

interface Props {
  answer: Schemas['ReadingOut'];
  value: number;
  zero: number;
  glycol: 'ethylene' | 'propylene';
  scale: Schemas['ReadingIn']['scale'];
}

/** The correction as a sum of strengths: the zero comes off on the axis of refractive index, never in degrees. */
export function ReadingSum({ answer, value, zero, glycol, scale }: Props) {
  const { system } = useUnits();
  const seen = useReading({ glycol, scale, value });
  const [at, seenPercent] = [answer.glycol_mass_percent, seen.answer?.glycol_mass_percent];
  if (at === null) {
    return <p className="title">{answer.flags.map((flag) => inUnits(flag, system)).join(' ')}</p>;
  }
  const off = seenPercent === null || seenPercent === undefined ? null : seenPercent - at;
  return (
    <div style={{ paddingTop: 12 }}>
      <div className="answers">
        <div className="answer">
          <span className="big num" data-testid="corrected" style={{ fontSize: 80, lineHeight: '66px' }}>
            {answer.freeze_c === null ? 'below −50' : showTemperature(answer.freeze_c, system).value}
          </span>
          <span className="pm">
            <span>{answer.spread?.freeze_half_k != null && spreadText(answer.spread.freeze_half_k, system)}</span>
            <span className="unit">{showTemperature(0, system).unit}</span>
          </span>
          <span className="cap">
            {answer.below_detection ? 'at the coldest: not distinguishable from water' : 'this reading, corrected'}
          </span>
        </div>
        {off !== null && !answer.below_detection && (
          <div style={{ fontSize: 17, minWidth: 0, maxWidth: 330 }}>
            <b>
              {number(at + off, 1)} % − {number(off, 1)} % = {number(at, 1)} %
            </b>{' '}
            by mass: seen ({scaleText(scale, value, system)}) less zero (water read {scaleText(scale, zero, system)}).
          </div>
        )}
      </div>
      {answer.flags
        .filter((flag) => flag.code !== 'below_detection')
        .map((flag) => (
          <p key={flag.code} className="refusal" style={{ marginBottom: 6 }}>
            <b>Look: </b>
            {inUnits(flag, system)}
          </p>
        ))}
    </div>
  );
}

/** The 95 % interval's half width, as a difference in the units on show. */
const spreadText = (halfK: number, system: System): string =>
  `±${number(fromKelvin(halfK, SYSTEMS[system].temperature), 1)}`;

/** Steps say an interval: what they say, and why that is not enough. */
export function StepsSum({ row }: { row: Schemas['ReadingState'] | null }) {
  const { system, temperature } = useUnits();
  if (!row?.steps) return null;
  const { at_least_c: least, not_to_c: not } = row.steps;
  return (
    <div data-testid="steps-say">
      <p className="title">
        {least === null ? 'Weaker than the first step' : `At least ${temperature(least, 0)}`}
        {not === null ? '' : `, not ${temperature(not, 0)}`}
      </p>
      {row.answer.flags.map((flag) => (
        <p key={flag.code} className="ink2">
          {inUnits(flag, system)}
        </p>
      ))}
    </div>
  );
}
