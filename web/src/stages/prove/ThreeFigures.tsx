import type { Schemas } from '../../api/client';
import { useUnits } from '../../units/UnitsContext';

/** Target, predicted, measured: three figures side by side. */
export function ThreeFigures({ state }: { state: Schemas['LoopState'] }) {
  const { temperature } = useUnits();
  const show = (value: number | null | undefined) => (typeof value === 'number' ? temperature(value) : 'not yet');
  const figures: [string, string][] = [
    ['target', state.plan?.target_freeze_c === null ? 'none' : show(state.plan?.target_freeze_c)],
    ['predicted, from the litres', show(state.predicted_freeze_c)],
    ['measured, corrected', show(state.repeats?.freeze_c)],
  ];
  return (
    <div className="answers">
      {figures.map(([caption, text], i) => (
        <div className={`answer${i === 2 ? '' : ' second'}`} key={caption}>
          <span
            className="big num"
            data-testid={caption.split(',')[0]}
            style={i === 2 ? { fontSize: 80, lineHeight: '66px' } : undefined}
          >
            {text.replace(/ .C| .F/, '')}
          </span>
          <span className="pm">
            <span />
            <span className="unit">{/°[CF]/.exec(text)?.[0] ?? ''}</span>
          </span>
          <span className="cap">{caption}</span>
        </div>
      ))}
    </div>
  );
}
