import type { Schemas } from '../../api/client';
import { type Shown, showTemperature } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';

/** Target, predicted, measured: three figures side by side. */
export function ThreeFigures({ state }: { state: Schemas['LoopState'] }) {
  const { system } = useUnits();
  const show = (value: number | null | undefined): Shown =>
    typeof value === 'number' ? showTemperature(value, system) : { value: 'not yet', unit: '' };
  const figures: [string, Shown][] = [
    ['target', state.plan?.target_freeze_c === null ? { value: 'none', unit: '' } : show(state.plan?.target_freeze_c)],
    ['predicted from litres', show(state.predicted_freeze_c)],
    ['measured, corrected', show(state.repeats?.freeze_c)],
  ];
  return (
    <div className="answers">
      {figures.map(([caption, { value, unit }], i) => (
        <div className={`answer${i === 2 ? '' : ' second'}`} key={caption}>
          <span
            className="big num"
            data-testid={caption.split(',')[0]}
            style={i === 2 ? { fontSize: 80, lineHeight: '66px' } : undefined}
          >
            {value}
          </span>
          <span className="pm">
            <span />
            <span className="unit">{unit}</span>
          </span>
          <span className="cap">{caption}</span>
        </div>
      ))}
    </div>
  );
}
