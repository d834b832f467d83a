import { Terms } from '../controls/Terms';
import type { Schemas } from '../api/client';
import { showVolume } from '../units/units';
import { useUnits } from '../units/UnitsContext';

interface Term {
  litres: number;
  label: string;
}

interface Props {
  capacityL: number;
  state: Schemas['LoopState'];
}

/** A sum a person can check aloud; where the printed terms do not close, the reason stands under it. */
export function Totals({ capacityL, state }: Props) {
  const { system } = useUnits();
  const { terms, signs, note } = sumOf(capacityL, state);
  const shown = terms.map((term) => showVolume(term.litres, system));
  const printed = shown.map((part) => Number(part.value.replace('\u2212', '-')));
  const [a = 0, b = 0, c = 0] = printed;
  const closes = terms.length < 3 || Math.abs((signs[0] === '+' ? a + b : a - b) - c) < 0.005;
  const long = shown.some((part) => part.value.length > 4) || (shown[0]?.unit.length ?? 0) > 1;
  return (
    <div>
      <div className={`totals${long ? ' long' : ''}`}>
        {terms.map((term, i) => (
          <div key={term.label} style={{ display: 'contents' }}>
            {i > 0 && <span className="op">{i === terms.length - 1 ? '=' : signs[i - 1]}</span>}
            <div className={i === terms.length - 1 ? 'rest' : ''}>
              <span className="v num">
                {shown[i]?.value}
                <span className="unit">{shown[i]?.unit.replace(/^(US|imp) /, '')}</span>
              </span>
              <span className="l">
                <Terms>{term.label}</Terms>
              </span>
            </div>
          </div>
        ))}
      </div>
      {(note || !closes) && <div className="totals-note">{note ?? 'rounded at the end'}</div>}
    </div>
  );
}

function sumOf(
  capacityL: number,
  state: Schemas['LoopState'],
): { terms: Term[]; signs: string[]; note: string | null } {
  const poured = state.poured.product_l + state.poured.water_l;
  if (state.drained_l === null) {
    return { terms: [{ litres: capacityL, label: 'capacity, to the cold mark' }], signs: [], note: null };
  }
  const stayed = capacityL - state.drained_l;
  const round = state.flush?.step === 'plan' ? undefined : state.flush?.rounds.at(-1);
  if (round && round.water_l > 0) {
    return {
      terms: [
        { litres: state.inside.litres - round.water_l, label: 'still inside' },
        { litres: round.water_l, label: 'water in' },
        { litres: state.inside.litres, label: 'in the loop' },
      ],
      signs: ['+'],
      note: null,
    };
  }
  if (poured > 0) {
    return {
      terms: [
        { litres: stayed, label: 'still inside' },
        { litres: poured, label: 'poured' },
        { litres: state.inside.litres, label: 'in the loop' },
      ],
      signs: ['+'],
      note: state.inside.base === 'none' ? null : 'a mix shrinks by about 1 %',
    };
  }
  return {
    terms: [
      { litres: capacityL, label: 'holds' },
      { litres: state.drained_l, label: 'drained' },
      { litres: stayed, label: 'still inside' },
    ],
    signs: ['\u2212'],
    note: null,
  };
}
