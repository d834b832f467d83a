import { ChartsReferenceLine } from '@mui/x-charts/ChartsReferenceLine';
import { LineChart } from '@mui/x-charts/LineChart';
import type { Schemas } from '../api/client';
import { fromBase, number, type System, SYSTEMS, temperatureText } from '../units/units';
import type { FrostMarks } from './FrostRule';
import { massAt } from './frostScale';

interface Props {
  system: System;
  scale: Schemas['FrostScale'];
  marks: FrostMarks;
  height: number;
}

interface Row {
  mass: number;
  colder: number | null;
  warmer: number | null;
  back: number | null;
  points: Record<string, number>;
}

const POINTS: { key: keyof FrostMarks & ('now' | 'found' | 'target' | 'reading'); label: string; color: string }[] = [
  { key: 'found', label: 'as found', color: 'var(--ink2)' },
  { key: 'now', label: 'inside now', color: 'var(--ink2)' },
  { key: 'target', label: 'plan', color: 'var(--cold)' },
  { key: 'reading', label: 'reads', color: 'var(--ink)' },
];

/** Both published curves, the branch that turns back, and where this loop stands on them. Nothing is drawn in the gap. */
export default function CurveChart({ system, scale, marks, height }: Props) {
  const temperature = (celsius: number, decimals?: number) => temperatureText(celsius, system, decimals);
  const unit = SYSTEMS[system].temperature;
  const rows = rowsOf(scale, marks);
  const shown = (celsius: number | null) => (celsius === null ? null : fromBase(celsius, unit));
  const said = (value: number | null) => (value === null ? '' : `${number(value, 1)} ${unit === 'degF' ? '°F' : '°C'}`);
  const points = POINTS.filter(({ key }) => rows.some((row) => key in row.points));
  return (
    <LineChart
      height={height}
      margin={{ left: 8, right: 18, top: 12, bottom: 8 }}
      xAxis={[
        {
          data: rows.map((row) => row.mass),
          scaleType: 'linear',
          min: 0,
          max: scale.rich.length > 0 ? 100 : 60,
          label: 'glycol, % by mass',
          valueFormatter: (value: number) => number(value, Number.isInteger(value) ? 0 : 1),
        },
      ]}
      yAxis={[{ label: `freezes at, ${unit === 'degF' ? '°F' : '°C'}`, width: 62, max: fromBase(0, unit) }]}
      grid={{ horizontal: true }}
      series={[
        {
          id: 'colder',
          label: 'colder handbook (used)',
          data: rows.map((row) => shown(row.colder)),
          color: 'var(--ink)',
          showMark: false,
          curve: 'linear' as const,
          valueFormatter: said,
        },
        ...(rows.some((row) => row.warmer !== null)
          ? [
              {
                id: 'warmer',
                label: 'warmer handbook',
                data: rows.map((row) => shown(row.warmer)),
                color: 'var(--ink2)',
                showMark: false,
                curve: 'linear' as const,
                valueFormatter: said,
              },
            ]
          : []),
        ...(scale.rich.length > 0
          ? [
              {
                id: 'back',
                label: 'turned back, within 2 °C',
                data: rows.map((row) => shown(row.back)),
                color: 'var(--hot)',
                showMark: true,
                curve: 'linear' as const,
                connectNulls: true,
                valueFormatter: said,
              },
            ]
          : []),
        ...points.map(({ key, label, color }) => ({
          id: key,
          label,
          data: rows.map((row) => shown(row.points[key] ?? null)),
          color,
          showMark: true,
          shape: 'square' as const,
          valueFormatter: said,
        })),
      ]}
      sx={{
        '& .MuiLineChart-line': { strokeWidth: 3 },
        '& .MuiLineChart-line[stroke="var(--ink2)"]': { strokeDasharray: '7 5' }, // told apart without hue
        '& .MuiChartsAxis-line, & .MuiChartsAxis-tick': { stroke: 'var(--ink) !important' },
        '& text': { fill: 'var(--ink) !important', fontSize: '14px !important' },
      }}
    >
      {typeof marks.coldest === 'number' && (
        <ChartsReferenceLine
          y={fromBase(marks.coldest, unit)}
          label={`coldest here ${temperature(marks.coldest, 0)}`}
          labelAlign="end"
          lineStyle={{ stroke: 'var(--ink)', strokeDasharray: '2 4', strokeWidth: 2 }}
        />
      )}
    </LineChart>
  );
}

function rowsOf(scale: Schemas['FrostScale'], marks: FrostMarks): Row[] {
  const row = (mass: number): Row => ({ mass, colder: null, warmer: null, back: null, points: {} });
  const rows: Row[] = [
    ...scale.lean.map((mark) => ({ ...row(mark.glycol_mass_percent), colder: mark.freeze_c, warmer: mark.warmer_c })),
    ...scale.rich.map((mark) => ({ ...row(mark.glycol_mass_percent), back: mark.freeze_c })),
  ];
  for (const { key } of POINTS) {
    const at = marks[key];
    if (typeof at !== 'number' || at < scale.coldest_c) continue;
    const mass = massAt(scale, at);
    rows.push({ ...row(mass), colder: at, warmer: warmerAt(scale, mass), points: { [key]: at } });
  }
  return rows.sort((a, b) => a.mass - b.mass);
}

function warmerAt(scale: Schemas['FrostScale'], mass: number): number | null {
  for (let i = 1; i < scale.lean.length; i++) {
    const [a, b] = [scale.lean[i - 1], scale.lean[i]];
    if (!a || !b || a.warmer_c === null || b.warmer_c === null) continue;
    if (mass >= a.glycol_mass_percent && mass <= b.glycol_mass_percent) {
      const part = (mass - a.glycol_mass_percent) / (b.glycol_mass_percent - a.glycol_mass_percent);
      return a.warmer_c + part * (b.warmer_c - a.warmer_c);
    }
  }
  return null;
}
