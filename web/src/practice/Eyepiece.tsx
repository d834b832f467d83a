import ButtonBase from '@mui/material/ButtonBase';
import { useId, useState } from 'react';
import type { Schemas } from '../api/client';
import { DialogFrame } from '../controls/DialogFrame';
import { indexAt } from '../controls/reading/sightScale';
import { fromBase, number, SYSTEMS, toBase, UNIT_LABEL } from '../units/units';
import { useUnits } from '../units/UnitsContext';

const [W, H] = [300, 300];
const [CX, CY, R] = [150, 150, 148];
const [Y0, Y_END] = [268, 34]; // where water stands, and the end of the scale
const RULE = 168;
const STEPS = { metric: [1, 5], other: [2, 10] } as const;

interface Props {
  glass: Schemas['Glass'];
  scale: Schemas['GlassAtHand'];
}

/** The eyepiece, and a key that brings it close to the eye. */
export function Eyepiece(props: Props) {
  const [close, look] = useState(false);
  return (
    <>
      <Field {...props} />
      <ButtonBase className="key small" onClick={() => look(true)}>
        Look closer
      </ButtonBase>
      <DialogFrame open={close} title={props.glass.name} onClose={() => look(false)}>
        <Field {...props} close />
      </DialogFrame>
    </>
  );
}

/** What stands in the eyepiece: a scale, light below, dark above. It is read by eye: the number is nowhere but in it. */
function Field({ glass, scale, close = false }: Props & { close?: boolean }) {
  const { system } = useUnits();
  const clip = useId().replace(/:/g, '');
  const blurred = `${clip}b`;
  const [first, last] = [scale.marks[0], scale.marks.at(-1)];
  if (!first || !last) return null;
  const height = Y0 - Y_END;
  const y = (value: number) => Y0 - ((indexAt(scale.marks, value) - first.index) / (last.index - first.index)) * height;
  const at = Y0 - glass.boundary * height;
  const unit = SYSTEMS[system].temperature;
  const [minor, major] = unit === 'degC' ? STEPS.metric : STEPS.other;
  const [low, high] = [fromBase(last.value, unit), fromBase(first.value, unit)];
  const ticks: number[] = [];
  for (let value = Math.ceil(low / minor) * minor; value <= high + 1e-9; value += minor) ticks.push(value);
  const soft = Math.max(1.5, glass.blur * height);
  return (
    <figure className={`eyepiece${close ? ' close' : ''}`}>
      <svg
        viewBox={`0 0 ${W} ${H}`}
        role="img"
        aria-label={`Eyepiece of ${glass.name}: read the boundary between light and dark`}
      >
        <clipPath id={clip}>
          <circle cx={CX} cy={CY} r={R - 8} />
        </clipPath>
        <linearGradient id={blurred} x1="0" y1="0" x2="0" y2="1">
          <stop offset="0" stopColor="var(--fielddark)" />
          <stop offset="1" stopColor="var(--fieldlight)" />
        </linearGradient>
        <circle cx={CX} cy={CY} r={R} fill="var(--ink)" />
        <g clipPath={`url(#${clip})`}>
          <rect width={W} height={H} fill="var(--fieldlight)" />
          <rect width={W} height={Math.max(0, at - soft)} fill="var(--fielddark)" />
          <rect y={at - soft} width={W} height={2 * soft} fill={`url(#${blurred})`} />
          <rect x={RULE - 6} width={W} height={H} fill="var(--fieldscale)" />
          <path d={`M${RULE - 6} 0V${H}`} className="glassrule" />
          {ticks.map((value) => {
            const here = y(toBase(value, unit));
            const long = Math.abs(value / major - Math.round(value / major)) < 1e-6;
            return (
              <g key={value}>
                <path d={`M${RULE - 6} ${here}h${long ? 18 : 9}`} className="glassrule" />
                {long && (
                  <text x={RULE + 16} y={here + 5} className="glasslabel">
                    {number(value, 0)}
                  </text>
                )}
              </g>
            );
          })}
        </g>
        <text x={RULE + 62} y={CY + 6} className="glasslabel">
          {UNIT_LABEL[unit]}
        </text>
      </svg>
      {close && <figcaption>Read the boundary between light and dark.</figcaption>}
    </figure>
  );
}
