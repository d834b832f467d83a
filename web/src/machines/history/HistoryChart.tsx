import { ChartsReferenceLine } from '@mui/x-charts/ChartsReferenceLine';
import { LineChart } from '@mui/x-charts/LineChart';
import type { Schemas } from '../../api/client';
import { marksOf } from './marks';
import { fromBase, number, SYSTEMS } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';

type Event = Schemas['Event'];
export type Axis = 'freeze' | 'strength';

interface Props {
  events: Event[];
  axis: Axis;
  coldestC: number;
  height: number;
}

const WORDS = { fontSize: 14 }; // the least that is read with gloves on

const measured = (event: Event): boolean => event.kind === 'reading' || event.kind === 'service';

/** A loop's life: what was read, what the litres predicted, the target then in force; services and top-ups as marks. */
export default function HistoryChart({ events, axis, coldestC, height }: Props) {
  const { system, temperature } = useUnits();
  const unit = SYSTEMS[system].temperature;
  const shown = (value: number | null | undefined, strength: number | null | undefined) => {
    const one = axis === 'freeze' ? value : strength;
    if (one == null) return null;
    return axis === 'freeze' ? fromBase(one, unit) : one;
  };
  const rows = events.filter((event) => event.kind !== 'override');
  const said = (value: number | null) =>
    value === null ? '' : `${number(value, 1)} ${axis === 'strength' ? '% vol' : unit === 'degF' ? '°F' : '°C'}`;
  const series = [
    {
      id: 'read',
      label: 'read',
      data: rows.map((event) => (measured(event) ? shown(event.freeze_c, event.strength_percent) : null)),
      color: 'var(--ink)',
      shape: 'circle' as const,
    },
    {
      id: 'predicted',
      label: 'predicted from litres',
      data: rows.map((event) =>
        event.kind === 'top_up' ? shown(event.freeze_c, event.strength_percent) : shown(null, event.predicted_percent),
      ),
      color: 'var(--ink2)',
      shape: 'diamond' as const,
    },
    ...(axis === 'freeze'
      ? [
          {
            id: 'target',
            label: 'target at the time',
            data: rows.map((event) => (event.target_c == null ? null : fromBase(event.target_c, unit))),
            color: 'var(--cold)',
            shape: 'square' as const,
          },
        ]
      : []),
  ].filter((row) => row.data.some((value) => value !== null));
  return (
    <LineChart
      height={height}
      margin={{ left: 8, right: 24, top: 22, bottom: 8 }}
      xAxis={[
        {
          data: rows.map((event) => new Date(event.at)),
          scaleType: 'time',
          tickLabelStyle: WORDS,
          valueFormatter: (value: Date) =>
            new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: '2-digit' }).format(value),
        },
      ]}
      yAxis={[
        axis === 'freeze'
          ? {
              label: `freezes at, ${unit === 'degF' ? '°F' : '°C'}`,
              width: 66,
              max: fromBase(0, unit),
              tickLabelStyle: WORDS,
              labelStyle: WORDS,
            }
          : { label: 'strength, % by volume', width: 66, min: 0, tickLabelStyle: WORDS, labelStyle: WORDS },
      ]}
      grid={{ horizontal: true }}
      series={series.map((row) => ({
        ...row,
        showMark: true,
        connectNulls: true,
        curve: row.id === 'target' ? ('stepAfter' as const) : ('linear' as const),
        valueFormatter: said,
      }))}
      sx={{
        '& .MuiLineChart-line[stroke="var(--ink2)"]': { strokeDasharray: '2 7' },
        '& .MuiChartsAxis-line, & .MuiChartsAxis-tick': { stroke: 'var(--ink)' },
      }}
      slotProps={{ legend: { sx: WORDS, direction: 'horizontal', position: { vertical: 'top', horizontal: 'start' } } }}
    >
      {axis === 'freeze' && (
        <ChartsReferenceLine
          y={fromBase(coldestC, unit)}
          label={`coldest here ${temperature(coldestC, 0)}`}
          labelAlign="start"
          lineStyle={{ stroke: 'var(--ink)', strokeDasharray: '2 4' }}
          labelStyle={WORDS}
        />
      )}
      {marksOf(rows).map(({ event, label, atEnd }) => (
        <ChartsReferenceLine
          key={event.entry_id}
          x={new Date(event.at)}
          label={label}
          labelAlign="start"
          lineStyle={{ stroke: 'var(--ink3)', strokeWidth: event.kind === 'service' ? 2 : 1 }}
          labelStyle={atEnd ? { ...WORDS, textAnchor: 'end' } : WORDS}
        />
      ))}
    </LineChart>
  );
}
