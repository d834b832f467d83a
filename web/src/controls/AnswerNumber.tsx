import { fromBase, number, showVolume, SYSTEMS, volumeDecimals } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { Terms } from './Terms';

interface Props {
  litres: number;
  /** Half-width of the 95 % interval, in litres. */
  spread?: number | null;
  caption: string;
  second?: boolean;
  stale?: boolean;
  testId?: string;
}

/** A big number with its plus/minus and its unit. */
export function AnswerNumber({ litres, spread, caption, second, stale, testId }: Props) {
  const { system } = useUnits();
  const unit = SYSTEMS[system].volume;
  const shown = showVolume(litres, system);
  const half = spread ? number(fromBase(spread, unit), volumeDecimals(unit)) : null;
  return (
    <div className={`answer${second ? ' second' : ''}${stale ? ' stale' : ''}`}>
      <span className="big num" data-testid={testId}>
        {shown.value}
      </span>
      <span className="pm">
        <span>{half && Number(half) > 0 ? `±${half}` : ''}</span>
        <span className="unit">{shown.unit.replace(/^(US|imp) /, '')}</span>
      </span>
      <span className="cap">
        <Terms>{caption}</Terms>
      </span>
    </div>
  );
}
