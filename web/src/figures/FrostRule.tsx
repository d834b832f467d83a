import type { Schemas } from '../api/client';
import { fromBase, number, type System, SYSTEMS, temperatureText, toBase } from '../units/units';
import { massTicks } from './frostScale';
import { useRoom } from './useRoom';

/** What hangs on the rule; all in °C. Nothing is drawn that is not given. */
export interface FrostMarks {
  found?: number | null;
  foundLabel?: string;
  now?: number | null;
  coldest?: number | null;
  target?: number | null;
  strength?: string;
  /** The plan's or the litres' likely interval, and its warm end with the curve's doubt. */
  likely?: { low: number; high: number } | null;
  safe?: number | null;
  reading?: number | null;
  readingStrength?: string;
}

interface Props {
  system: System;
  scale: Schemas['FrostScale'];
  marks: FrostMarks;
}

const W = 242;
const H = 548;
const TOP = 58;
const X = 92;
const WIDTH = 70;
const RICH_X = 178;
const RICH_W = 28;
const LEFT = 8;
const LEAST = 330;

/** Where a freeze point stands on a rule of this height; never off it: a figure with its sign forgotten would leave it. */
type Y = (celsius: number) => number;
const degree = (height: number) => (height - TOP - 92) / 50;
const yOn =
  (height: number): Y =>
  (celsius) =>
    TOP - Math.min(0, Math.max(-50, celsius)) * degree(height);

/** The hairpin: strength runs down to the coldest tabulated; the turn is dashed, the way back cross-hatched. */
export function FrostRule({ system, scale, marks }: Props) {
  const temperature = (celsius: number, decimals?: number) => temperatureText(celsius, system, decimals);
  const [figure, height] = useRoom(W, H, LEAST);
  const y = yOn(height);
  return (
    <svg
      ref={figure}
      viewBox={`0 0 ${W} ${height}`}
      role="img"
      aria-label={sentence(marks, temperature)}
      className="rule-figure"
      preserveAspectRatio="xMidYMin meet"
    >
      <text x={W - 6} y="25" textAnchor="end" fontSize="14" className="ink2">
        % by mass
      </text>
      <Leg scale={scale} y={y} />
      {scale.rich.length > 0 && <TurnedBack system={system} scale={scale} y={y} />}
      <Window marks={marks} coldest={scale.coldest_c} y={y} />
      <Tags system={system} marks={marks} y={y} foot={height} />
      <Ticks system={system} scale={scale} y={y} />
    </svg>
  );
}

function sentence(marks: FrostMarks, temperature: (c: number, d?: number) => string): string {
  const said: [string, number | null | undefined][] = [
    ['as found', marks.found],
    ['inside now', marks.now],
    ['coldest here', marks.coldest],
    ['target', marks.target],
    ['protects to', marks.safe],
    ['reads', marks.reading],
  ];
  const parts = said.flatMap(([name, at]) => (typeof at === 'number' ? [`${name} ${temperature(at)}`] : []));
  return `Frost rule: ${parts.join(', ') || 'nothing known yet'}`;
}

function Leg({ scale, y }: { scale: Props['scale']; y: Y }) {
  const band = y(-5) - y(0);
  const end = y(scale.coldest_c);
  const bands = Array.from({ length: Math.round(-scale.coldest_c / 5) }, (_, i) => i);
  return (
    <g>
      {bands.map((i) => (
        <rect
          key={i}
          x={X}
          y={y(-i * 5)}
          width={WIDTH}
          height={band + 0.6}
          fill={`color-mix(in srgb, var(--rule1) ${Math.round((i / 9) * 100)}%, var(--rule0))`}
        />
      ))}
      <path d={`M${X} ${end}V${y(0)}h${WIDTH}V${end}z`} fill="none" stroke="var(--ink)" strokeWidth="2.2" />
      {scale.rich.length === 0 && (
        <text x={X + WIDTH / 2} y={end + 20} textAnchor="middle" fontSize="14" fontWeight="620">
          no colder target
        </text>
      )}
    </g>
  );
}

function TurnedBack({ system, scale, y }: Pick<Props, 'system' | 'scale'> & { y: Y }) {
  const first = scale.rich[0];
  const last = scale.rich.at(-1);
  if (!first || !last) return null;
  const end = y(-50);
  const [low, high] = [y(first.freeze_c), y(last.freeze_c)];
  const right = RICH_X + RICH_W;
  return (
    <g>
      <path
        d={`M${RICH_X} ${high}h${RICH_W}V${low}h-${RICH_W}z`}
        fill="url(#over)"
        stroke="var(--ink)"
        strokeWidth="2.2"
      />
      <path
        d={`M${X} ${end}v20q0 46 46 46H${right - 46}q46 0 46 -46V${low}M${X + WIDTH} ${end}q0 9 8 9t8 -9V${low}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2"
        strokeDasharray="5 5"
      />
      <text x={(X + right) / 2} y={end + 32} textAnchor="middle" fontSize="14.5" fontWeight="620">
        below {temperatureWord(-50, system)},
      </text>
      <text x={(X + right) / 2} y={end + 49} textAnchor="middle" fontSize="14.5" fontWeight="620">
        not tabulated
      </text>
      {scale.rich.map((mark) => (
        <g key={mark.glycol_mass_percent}>
          <path d={`M${right} ${y(mark.freeze_c)}h-7`} stroke="var(--ink)" strokeWidth="1.8" />
          <text
            x={210}
            y={y(mark.freeze_c) + (mark.glycol_mass_percent > 99 ? 10 : 5.5)}
            fontSize="15"
            fontWeight="640"
            className="hot"
          >
            {number(mark.glycol_mass_percent, 0)}
          </text>
        </g>
      ))}
      {['too strong:', 'more glycol', 'protects', 'less'].map((word, i) => (
        <text key={word} x={X + WIDTH + 8} y={high - 60 + i * 17} fontSize="15" fontWeight="620" className="hot narrow">
          {word}
        </text>
      ))}
    </g>
  );
}

const temperatureWord = (celsius: number, system: keyof typeof SYSTEMS): string =>
  number(fromBase(celsius, SYSTEMS[system].temperature), 0);

function Ticks({ system, scale, y }: Pick<Props, 'system' | 'scale'> & { y: Y }) {
  const unit = SYSTEMS[system].temperature;
  const [step, big, named] = unit === 'degF' ? [2, 10, 20] : [1, 5, 10];
  const from = Math.ceil(fromBase(scale.coldest_c, unit) / step) * step;
  const to = Math.floor(fromBase(0, unit));
  const values = Array.from({ length: Math.floor((to - from) / step) + 1 }, (_, i) => from + i * step);
  return (
    <g>
      {values.map((value) => {
        const at = y(toBase(value, unit));
        const isNamed = value % named === 0;
        const long = isNamed ? 12 : value % big === 0 ? 8 : 5;
        return (
          <g key={value}>
            <path d={`M${X} ${at}h${long}`} stroke="var(--ink)" strokeWidth={isNamed ? 2.4 : long === 8 ? 1.8 : 1.1} />
            {isNamed && value !== 0 && (
              <text x={X + 45} y={at + (value === -50 ? -3 : 6)} textAnchor="end" fontSize="17" fontWeight="660">
                {number(value, 0)}
              </text>
            )}
          </g>
        );
      })}
      {massTicks(scale).map(({ percent, freezeC }) => (
        <g key={percent}>
          <path
            d={`M${X + WIDTH} ${y(freezeC)}h-${percent % 10 === 0 ? 8 : 4}`}
            stroke="var(--ink)"
            strokeWidth={percent % 10 === 0 ? 1.8 : 1.1}
          />
          {percent % 10 === 0 && (
            <text
              x={X + WIDTH - 10}
              y={y(freezeC) + 5}
              textAnchor="end"
              fontSize="14"
              fontWeight="560"
              className="ink2"
            >
              {percent}
            </text>
          )}
        </g>
      ))}
      <text x={X} y={TOP - 8} fontSize="15">
        <tspan fontSize="17" fontWeight="660">
          {unit === 'degF' ? '32' : '0'}
        </tspan>
        <tspan dx="3" className="ink2">
          {unit === 'degF' ? '°F' : '°C'}
        </tspan>
      </text>
      <text x={X + WIDTH} y={TOP - 8} textAnchor="end" fontSize="14" className="ink2">
        0 %
      </text>
    </g>
  );
}

function Window({ marks, coldest, y }: { marks: FrostMarks; coldest: number; y: Y }) {
  if (!marks.likely) return null;
  const low = Math.max(coldest, marks.likely.low); // drawn to the end of the rule; the words say where it goes on
  const high = Math.max(low, marks.likely.high);
  return (
    <g>
      <rect
        x={X + 1.5}
        y={y(high)}
        width={WIDTH - 3}
        height={Math.max(4, y(low) - y(high))}
        fill="var(--sheet)"
        fillOpacity="0.85"
        stroke="var(--cold)"
        strokeWidth="3"
      />
      {typeof marks.safe === 'number' && (
        <path
          d={`M${X + WIDTH} ${y(high)}h8V${y(marks.safe)}M${X + WIDTH} ${y(marks.safe)}h16`}
          stroke="var(--cold)"
          strokeWidth="3"
          fill="none"
        />
      )}
    </g>
  );
}

interface Tag {
  at: number;
  height: number;
  draw: (top: number) => React.ReactNode;
}

/** Tags stand left of the leg and never on each other: each keeps its line and moves down or up as little as it must. */
function Tags({ system, marks, y, foot }: Pick<Props, 'system' | 'marks'> & { y: Y; foot: number }) {
  const temperature = (celsius: number, decimals?: number) => temperatureText(celsius, system, decimals);
  const tags: Tag[] = [];
  const line = (label: string, celsius: number, decimals: number, dash = '') =>
    tags.push({
      at: celsius,
      height: 40,
      draw: (top) => <LineTag {...{ label, celsius, top, dash, y }} text={temperature(celsius, decimals)} />,
    });
  if (typeof marks.found === 'number') line(marks.foundLabel ?? 'as found', marks.found, 0);
  if (typeof marks.now === 'number') line('inside now', marks.now, 1);
  if (typeof marks.coldest === 'number') line('coldest here', marks.coldest, 0, '2 4');
  const main = typeof marks.reading === 'number' ? marks.reading : marks.target;
  if (typeof main === 'number') {
    const kind = typeof marks.reading === 'number' ? 'reading' : marks.likely ? 'plan' : 'target';
    tags.push({
      at: main,
      height: marks.likely && marks.likely.low <= -50 ? 105 : 88,
      draw: (top) => <MainTag {...{ system, kind, top, marks, y }} celsius={main} />,
    });
  }
  tags.sort((a, b) => b.at - a.at);
  const tops: number[] = [];
  let free = 34;
  for (const tag of tags) {
    const wish = y(tag.at) - (tag.height > 50 ? 24 : 44);
    const top = Math.max(wish, free);
    tops.push(top);
    free = top + tag.height + 4;
  }
  for (let i = tags.length - 1, floor = foot - 4; i >= 0; i--) {
    const tag = tags[i];
    const top = Math.min(tops[i] ?? 0, floor - (tag?.height ?? 0));
    tops[i] = top;
    floor = top - 4;
  }
  return (
    <g>
      {tags.map((tag, i) => (
        <g key={`${tag.at}${i}`}>{tag.draw(tops[i] ?? 0)}</g>
      ))}
    </g>
  );
}

function LineTag({
  label,
  celsius,
  text,
  top,
  dash,
  y,
}: {
  y: Y;
  label: string;
  celsius: number;
  text: string;
  top: number;
  dash: string;
}) {
  return (
    <g>
      <path
        d={`M${LEFT} ${top + 39}H${X - 10}L${X} ${y(celsius)}H${X + WIDTH}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth={dash ? 1.8 : 2.2}
        strokeDasharray={dash || undefined}
      />
      <text x={LEFT} y={top + 15} fontSize="15" fontWeight="520" className="ink2">
        {label}
      </text>
      <text x={LEFT} y={top + 33} fontSize="17" fontWeight="680">
        {text}
      </text>
    </g>
  );
}

function MainTag({
  system,
  kind,
  celsius,
  top,
  marks,
  y,
}: {
  y: Y;
  system: System;
  kind: 'reading' | 'plan' | 'target';
  celsius: number;
  top: number;
  marks: FrostMarks;
}) {
  const temperature = (celsius: number, decimals?: number) => temperatureText(celsius, system, decimals);
  const fill = { reading: 'var(--ink)', plan: 'var(--cold)', target: 'var(--panel)' }[kind];
  const stroke = kind === 'reading' ? 'var(--ink)' : 'var(--cold)';
  const text = { reading: 'var(--panel)', plan: 'var(--oncold)', target: 'var(--cold)' }[kind];
  const strength = kind === 'reading' ? marks.readingStrength : marks.strength;
  const middle = top + 24;
  const foot =
    kind === 'reading' && typeof marks.target === 'number'
      ? `target ${temperatureWord(marks.target, system)}`
      : kind === 'plan'
        ? 'target, plan'
        : 'target';
  const open = marks.likely !== null && marks.likely !== undefined && marks.likely.low <= -50;
  const likely = marks.likely
    ? `${open ? '' : `${temperatureWord(marks.likely.low, system)} `}to ${temperatureWord(marks.likely.high, system)}`
    : null;
  return (
    <g>
      <path d={`M${X - 10} ${middle}L${X} ${y(celsius)}H${X + WIDTH}`} fill="none" stroke={stroke} strokeWidth="3.6" />
      <rect
        x={LEFT - 4}
        y={top}
        width={X - 10 - LEFT + 4}
        height="46"
        rx="4"
        fill={fill}
        stroke={stroke}
        strokeWidth="2.4"
      />
      <text x={LEFT + 1} y={top + 21} fontSize="18" fontWeight="740" style={{ fill: text, fontStretch: '76%' }}>
        {temperature(celsius, kind === 'reading' || !Number.isInteger(celsius) ? 1 : 0)}
      </text>
      <text x={LEFT + 1} y={top + 39} fontSize="14.5" fontWeight="620" style={{ fill: text }}>
        {strength ?? ''}
      </text>
      <text x={LEFT} y={top + 64} fontSize="15" fontWeight="680" className="cold">
        {foot}
      </text>
      {open && (
        <text x={LEFT} y={top + 81} fontSize="15" fontWeight="600">
          below {temperatureWord(-50, system)}
        </text>
      )}
      {likely && (
        <text x={LEFT} y={top + (open ? 98 : 81)} fontSize="15" fontWeight="600">
          {likely}
        </text>
      )}
      {kind === 'reading' && typeof marks.target === 'number' && (
        <path d={`M${X + WIDTH - 2} ${y(marks.target)}l-12 -7v14z`} fill="var(--cold)" />
      )}
    </g>
  );
}
