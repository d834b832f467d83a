import ButtonBase from '@mui/material/ButtonBase';
import { useId, useRef } from 'react';
import type { Schemas } from '../api/client';
import { Segment } from '../parts/Segment';
import { fromBase, number, SYSTEMS, UNIT_LABEL } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { massAt, seenAt } from './sightScale';
import './sightGlass.css';

export type Edge = Schemas['Edge'];

const W = 304;
const H = 372;
const [CX, CY, R] = [138, 176, 132];
const [Y0, Y_END] = [276, 96]; // water, and the end of the scale
const PAGE = 5;

interface Props {
  scale: Schemas['FrostScale'];
  /** Where the boundary stands [°C]; null: not set yet. Past the end of the scale: off scale. */
  value: number | null;
  /** One division of this instrument [°C]. */
  division: number;
  /** What water read on it [°C]. */
  zero: number;
  edge: Edge;
  onChange: (value: number) => void;
  onEdge: (edge: Edge) => void;
}

const EDGES = [
  { value: 'sharp', label: 'sharp' },
  { value: 'soft', label: 'soft' },
  { value: 'two_lines', label: 'two lines' },
] as const;

/** What is seen through the eyepiece: the scale is even in strength, so degrees crowd towards the cold. */
export function SightGlass({ scale, value, division, zero, edge, onChange, onEdge }: Props) {
  const { system, temperature } = useUnits();
  const svg = useRef<SVGSVGElement>(null);
  const clip = useId().replace(/:/g, '');
  const end = massAt(scale, scale.coldest_c);
  const perMass = (Y0 - Y_END) / end;
  const y = (celsius: number) => Y0 - perMass * massAt(scale, celsius);
  const off = value !== null && value < scale.coldest_c;
  const at = value === null ? null : off ? Y_END - 22 : y(value);
  const snap = (celsius: number) => {
    const stepped = Math.round(celsius / division) * division;
    return Number(Math.min(10, Math.max(scale.coldest_c - division, stepped)).toFixed(3));
  };
  const step = (divisions: number) => onChange(snap((value ?? snap(scale.coldest_c / 2)) - divisions * division));
  const drag = (event: React.PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return;
    const seen = ((event.clientY - box.top) / box.height) * H;
    onChange(snap(seen < Y_END - 6 ? scale.coldest_c - division : seenAt(scale, (Y0 - seen) / perMass)));
  };
  const keys: Record<string, number> = {
    ArrowUp: 1,
    ArrowRight: 1,
    ArrowDown: -1,
    ArrowLeft: -1,
    PageUp: PAGE,
    PageDown: -PAGE,
  };
  const unit = SYSTEMS[system].temperature;
  const said = value === null ? 'not set' : off ? 'off scale' : temperature(value);
  return (
    <div className="sightglass">
      <svg
        ref={svg}
        viewBox={`0 0 ${W} ${H}`}
        role="slider"
        tabIndex={0}
        aria-label="Boundary seen in the eyepiece"
        aria-orientation="vertical"
        aria-valuemin={scale.coldest_c}
        aria-valuemax={0}
        aria-valuenow={value ?? 0}
        aria-valuetext={said}
        onKeyDown={(event) => {
          const by = keys[event.key];
          if (by === undefined) return;
          event.preventDefault();
          step(by);
        }}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          drag(event);
        }}
        onPointerMove={(event) => event.buttons > 0 && drag(event)}
      >
        <clipPath id={clip}>
          <circle cx={CX} cy={CY} r={R - 12} />
        </clipPath>
        <circle cx={CX} cy={CY} r={R} fill="var(--ink)" />
        <g clipPath={`url(#${clip})`}>
          <rect width={W} height={H} className="sightlight" />
          {at !== null && <rect width={W} height={at} className="sightdark" />}
          {at !== null && edge === 'soft' && <rect width={W} y={at - 9} height={18} className="sightsoft" />}
          {at !== null && edge === 'two_lines' && <path d={`M0 ${at + 12}H${W}`} className="sightline thin" />}
          <Marks scale={scale} y={y} dark={at ?? 0} unit={unit} />
          <path d={`M${CX} ${y(zero)}h48`} className="sightzero" />
          <text x={CX + 6} y={y(zero) - 6} className="sighttext">
            water {number(fromBase(zero, unit), 1)}
          </text>
        </g>
        {at !== null && edge !== 'soft' && <path d={`M18 ${at}H${W - 88}`} className="sightline" />}
        <g className="sightgrip" transform={`translate(${W - 92} ${(at ?? CY) - 28})`}>
          <path d="M14 0h72a5 5 0 0 1 5 5v46a5 5 0 0 1-5 5h-72l-14-28z" />
          <text x="50" y="25" textAnchor="middle">
            {value === null
              ? 'set'
              : off
                ? 'off'
                : number(fromBase(value, unit), division < 1 || !Number.isInteger(value) ? 1 : 0)}
          </text>
          <text x="50" y="43" textAnchor="middle" className="small">
            {off ? 'scale' : UNIT_LABEL[unit]}
          </text>
        </g>
      </svg>
      <div className="sightkeys">
        <Segment label="Edge is" hideLabel value={edge} options={EDGES} onChange={onEdge} />
        <ButtonBase className="key" aria-label="One division warmer" onClick={() => step(-1)}>
          −
        </ButtonBase>
        <ButtonBase className="key" aria-label="One division colder" onClick={() => step(1)}>
          +
        </ButtonBase>
      </div>
    </div>
  );
}

interface MarksProps {
  scale: Schemas['FrostScale'];
  y: (celsius: number) => number;
  dark: number;
  unit: 'degC' | 'degF' | string;
}

/** Marks of this scale: degrees on the left, long every ten. */
function Marks({ scale, y, dark, unit }: MarksProps) {
  const marks = [];
  for (let c = 0; c >= scale.coldest_c; c -= 2) marks.push(c);
  return (
    <g>
      <path d={`M${CX} ${Y0}V${Y_END}`} className="sighttick" />
      {marks.map((c) => {
        const long = c % 10 === 0;
        const inDark = y(c) < dark;
        return (
          <g key={c} className={inDark ? 'indark' : ''}>
            <path d={`M${CX} ${y(c)}h${long ? -26 : -12}`} className="sighttick" />
            {long && (
              <text x={CX - 32} y={y(c) + 6} textAnchor="end" className="sighttext long">
                {number(unit === 'degF' ? c * 1.8 + 32 : c, 0)}
              </text>
            )}
          </g>
        );
      })}
      <text x={CX} y={Y_END - 10} textAnchor="middle" className={`sighttext${dark > Y_END - 16 ? ' indark' : ''}`}>
        off scale
      </text>
    </g>
  );
}
