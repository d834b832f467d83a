import { useId } from 'react';

export interface LevelDot {
  at: number;
  /** Missing since the fill, as shown, with its half width. */
  gone: number;
  half: number;
  poured: number;
  words: string;
}

export interface AgeBand {
  at: number;
  /** Shares from the oldest on, with the year they went in. */
  parts: { share: number; label: string }[];
}

interface Props {
  width: number;
  levels: LevelDot[];
  ages: AgeBand[];
  now: number;
  dueAt: number | null;
  unit: string;
  leaks: boolean;
  dateWords: (at: number) => string;
}

const LEFT = 58;
const TOP = 26;
const LOST_H = 120;
const GAP = 30;
const AGE_H = 86;
const SHADES = ['var(--line)', 'var(--panel)', 'var(--sheet)']; // the oldest is the darkest

/** Is it losing, how old is it, when is it due: litres gone, ages by share and the due day on one time line. */
export function LifeFigure({ width, levels, ages, now, dueAt, unit, leaks, dateWords }: Props) {
  const id = useId();
  const first = Math.min(...levels.map((row) => row.at), ...ages.map((row) => row.at), now);
  const last = Math.max(now, dueAt ?? now);
  const right = width - 18;
  const x = (at: number) => LEFT + ((at - first) / Math.max(1, last - first)) * (right - LEFT);
  const most = Math.max(0.5, ...levels.map((row) => row.gone + row.half));
  const y = (litres: number) => TOP + (Math.max(0, litres) / most) * LOST_H;
  const ageTop = TOP + LOST_H + GAP;
  const height = ageTop + AGE_H + 34;
  const ticks = [0, most / 2, most];
  const spans = ages.map((row, n) => ({ ...row, until: ages[n + 1]?.at ?? now }));
  const labels = [...new Set(ages.flatMap((row) => row.parts.map((part) => part.label)))]; // the oldest first
  const shade = (label: string) => SHADES[Math.min(SHADES.length - 1, labels.indexOf(label))];
  const due = dueAt !== null && dueAt >= first ? dueAt : null;
  return (
    <svg
      className="lifefigure"
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      role="img"
      aria-labelledby={id}
      fontSize="14"
    >
      <title id={id}>Litres gone since the fill, ages of the filling, and the due day, on one time line</title>
      <text x={0} y={16} fontWeight="680">
        Gone since the fill, {unit}
      </text>
      {ticks.map((tick) => (
        <g key={tick}>
          <line x1={LEFT} x2={right} y1={y(tick)} y2={y(tick)} stroke="var(--line)" />
          <text x={LEFT - 8} y={y(tick) + 5} textAnchor="end">
            {tick === 0 ? 'mark' : tick.toFixed(1)}
          </text>
        </g>
      ))}
      <polyline
        points={levels.map((row) => `${x(row.at)},${y(row.gone)}`).join(' ')}
        fill="none"
        stroke={leaks ? 'var(--hot)' : 'var(--ink)'}
        strokeWidth="2"
      />
      {levels.map((row) => (
        <g key={row.at}>
          <line
            x1={x(row.at)}
            x2={x(row.at)}
            y1={y(row.gone - row.half)}
            y2={y(row.gone + row.half)}
            stroke="var(--ink2)"
            strokeWidth="1.5"
          />
          {row.poured > 0 && <path d={`M${x(row.at)} ${y(row.gone) - 7}l6 -9h-12z`} fill="var(--cold)" />}
          <circle cx={x(row.at)} cy={y(row.gone)} r="4.5" fill="var(--ink)">
            <title>{row.words}</title>
          </circle>
        </g>
      ))}
      <text x={0} y={ageTop - 8} fontWeight="680">
        The filling went in
      </text>
      {spans.map((row) => {
        let from = ageTop;
        const wide = Math.max(1, x(row.until) - x(row.at));
        return row.parts.map((part) => {
          const top = from;
          const tall = part.share * AGE_H;
          from += tall;
          return (
            <g key={`${row.at} ${part.label}`}>
              <rect
                x={x(row.at)}
                y={top}
                width={wide}
                height={tall}
                fill={shade(part.label)}
                stroke="var(--ink)"
                strokeWidth="1"
              >
                <title>{`${Math.round(100 * part.share)} % of ${part.label}`}</title>
              </rect>
              {tall > 20 && wide > 74 && (
                <text x={x(row.at) + 8} y={top + tall / 2 + 5} fill="var(--ink)">
                  {Math.round(100 * part.share)} % {part.label}
                </text>
              )}
            </g>
          );
        });
      })}
      <line x1={x(now)} x2={x(now)} y1={TOP} y2={ageTop + AGE_H} stroke="var(--ink)" strokeDasharray="2 4" />
      {due !== null && (
        <line
          x1={x(due)}
          x2={x(due)}
          y1={TOP}
          y2={ageTop + AGE_H}
          stroke={due < now ? 'var(--hot)' : 'var(--cold)'}
          strokeWidth="3"
        />
      )}
      <text x={LEFT} y={height - 10}>
        {dateWords(first)}
      </text>
      <text x={x(now)} y={height - 10} textAnchor={due !== null && x(due) - x(now) < 130 ? 'end' : 'middle'}>
        today
      </text>
      {due !== null && (
        <text
          x={x(due)}
          y={height - 10}
          textAnchor="end"
          fontWeight="680"
          fill={due < now ? 'var(--hot)' : 'var(--ink)'}
        >
          due {dateWords(due)}
        </text>
      )}
    </svg>
  );
}
