import ButtonBase from '@mui/material/ButtonBase';
import { useId, useRef } from 'react';
import type { Schemas } from '../../api/client';
import { Segment } from '../Segment';
import { decimalsFor, inDegrees, type ScaleRow, scaleText } from './scale';
import { fromBase, number, SYSTEMS, UNIT_LABEL } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { indexAt, valueAt } from './sightScale';
import './sightGlass.css';

export type Edge = Schemas['Edge'];

const W = 304;
const H = 372;
const [CX, CY, R] = [138, 176, 132];
const [Y0, Y_END] = [276, 96]; // water, and the end of the scale
const PAGE = 5;

interface Props {
  scale: ScaleRow;
  /** Where the boundary stands, in the scale's unit; null: not set yet. Past the end of the scale: off scale. */
  value: number | null;
  /** One division of this instrument. */
  division: number;
  /** What water read on it. */
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

/** What is seen through the eyepiece: the scale is even in refractive index, so degrees crowd towards the cold. */
export function SightGlass({ scale, value, division, zero, edge, onChange, onEdge }: Props) {
  const { system } = useUnits();
  const svg = useRef<SVGSVGElement>(null);
  const clip = useId().replace(/:/g, '');
  const [water, far] = [scale.marks[0]?.index ?? 0, scale.marks.at(-1)?.index ?? 1];
  const end = scale.marks.at(-1)?.value ?? 0;
  const stronger = inDegrees(scale.scale) ? -1 : 1; // which way a value goes as the index rises
  const perIndex = (Y0 - Y_END) / (far - water);
  const y = (at: number) => Y0 - perIndex * (indexAt(scale.marks, at) - water);
  const off = value !== null && (value - end) * stronger > division / 1000;
  const at = value === null ? null : off ? Y_END - 22 : y(value);
  const snap = (raw: number) => {
    const stepped = Math.round(raw / division) * division;
    const [past, most] = [scale.water - stronger * scale.zero_reach, end + stronger * division];
    return Number(Math.min(Math.max(past, most), Math.max(Math.min(past, most), stepped)).toFixed(5));
  };
  const middle = valueAt(scale.marks, (water + far) / 2);
  const step = (divisions: number) => onChange(snap((value ?? snap(middle)) + stronger * divisions * division));
  const drag = (event: React.PointerEvent) => {
    const box = svg.current?.getBoundingClientRect();
    if (!box) return;
    const seen = ((event.clientY - box.top) / box.height) * H;
    onChange(
      seen < Y_END - 6 ? snap(end + stronger * division) : snap(valueAt(scale.marks, water + (Y0 - seen) / perIndex)),
    );
  };
  const keys: Record<string, number> = {
    ArrowUp: 1,
    ArrowRight: 1,
    ArrowDown: -1,
    ArrowLeft: -1,
    PageUp: PAGE,
    PageDown: -PAGE,
  };
  const degrees = inDegrees(scale.scale);
  const unit = degrees ? SYSTEMS[system].temperature : null;
  const shown = (raw: number) => (unit ? fromBase(raw, unit) : raw);
  const places = Math.max(decimalsFor(division), degrees && value !== null && !Number.isInteger(value) ? 1 : 0);
  const said =
    value === null
      ? 'not set'
      : off
        ? 'off scale'
        : scaleText(scale.scale, value, system, Math.max(places, degrees ? 1 : 0));
  return (
    <div className="sightglass">
      <svg
        ref={svg}
        viewBox={`0 0 ${W} ${H}`}
        role="slider"
        tabIndex={0}
        aria-label="Boundary seen in the eyepiece"
        aria-orientation="vertical"
        aria-valuemin={Math.min(scale.water, end)}
        aria-valuemax={Math.max(scale.water, end)}
        aria-valuenow={value ?? scale.water}
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
          <Marks scale={scale} y={y} dark={at ?? 0} shown={shown} />
          <path d={`M${CX} ${y(zero)}h48`} className="sightzero" />
          <text x={CX + 6} y={y(zero) - 6} className="sighttext">
            water {number(shown(zero), Math.max(1, decimalsFor(division)))}
          </text>
        </g>
        {at !== null && edge !== 'soft' && <path d={`M18 ${at}H${W - 88}`} className="sightline" />}
        <g className="sightgrip" transform={`translate(${W - 92} ${(at ?? CY) - 28})`}>
          <path d="M14 0h72a5 5 0 0 1 5 5v46a5 5 0 0 1-5 5h-72l-14-28z" />
          <text x="50" y="25" textAnchor="middle">
            {value === null ? 'set' : off ? 'off' : number(shown(value), places)}
          </text>
          <text x="50" y="43" textAnchor="middle" className="small">
            {off ? 'scale' : unit ? UNIT_LABEL[unit] : scale.unit.replace('% by volume', '%') || 'nD'}
          </text>
        </g>
      </svg>
      <div className="sightkeys">
        <Segment label="Edge is" hideLabel value={edge} options={EDGES} onChange={onEdge} />
        <ButtonBase className="key" aria-label="One division weaker" onClick={() => step(-1)}>
          −
        </ButtonBase>
        <ButtonBase className="key" aria-label="One division stronger" onClick={() => step(1)}>
          +
        </ButtonBase>
      </div>
    </div>
  );
}

interface MarksProps {
  scale: ScaleRow;
  y: (value: number) => number;
  dark: number;
  shown: (value: number) => number;
}

/** Between short marks, and between long ones with a number, in the scale's unit. */
const spacing = (scale: ScaleRow): [number, number] => (scale.scale === 'refractive_index' ? [0.004, 0.02] : [2, 10]);

/** Marks of this scale: the numbers stand at the long ones. */
function Marks({ scale, y, dark, shown }: MarksProps) {
  const [short, long] = spacing(scale);
  const end = scale.marks.at(-1)?.value ?? 0;
  const start = Math.ceil(Math.min(scale.water, end) / short - 1e-9) * short;
  const marks = [];
  for (let i = 0; start + i * short <= Math.max(scale.water, end) + 1e-9; i++) marks.push(start + i * short);
  const places = decimalsFor(long);
  return (
    <g>
      <path d={`M${CX} ${Y0}V${Y_END}`} className="sighttick" />
      {marks.map((value) => {
        const isLong = Math.abs(Math.round(value / long) * long - value) < short / 10;
        return (
          <g key={value} className={y(value) < dark ? 'indark' : ''}>
            <path d={`M${CX} ${y(value)}h${isLong ? -26 : -12}`} className="sighttick" />
            {isLong && (
              <text x={CX - 32} y={y(value) + 6} textAnchor="end" className="sighttext long">
                {number(shown(value), places)}
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
