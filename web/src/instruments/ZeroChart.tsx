import { ChartsReferenceLine } from '@mui/x-charts/ChartsReferenceLine';
import { LineChart } from '@mui/x-charts/LineChart';
import type { Schemas } from '../api/client';
import { fromKelvin, number, SYSTEMS } from '../units/units';
import { useUnits } from '../units/UnitsContext';

const WORDS = { fontSize: 14 };

/** How far off water read at each check; a line stands where it was then set. */
export default function ZeroChart({ points }: { points: Schemas['ZeroPoint'][] }) {
  const { system } = useUnits();
  const unit = SYSTEMS[system].temperature;
  const label = unit === 'degF' ? '°F' : '°C';
  const off = points.map((point) => fromKelvin(point.off_k, unit));
  return (
    <LineChart
      height={210}
      margin={{ left: 8, right: 24, top: 22, bottom: 8 }}
      xAxis={[
        {
          data: points.map((point) => new Date(point.at)),
          scaleType: 'time',
          tickLabelStyle: WORDS,
          valueFormatter: (value: Date) =>
            new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short' }).format(value),
        },
      ]}
      yAxis={[
        {
          label: `off, ${label}`,
          width: 66,
          tickLabelStyle: WORDS,
          labelStyle: WORDS,
          // half a kelvin either way at least: what is less nobody sees on a scale
          min: Math.min(fromKelvin(-0.5, unit), ...off),
          max: Math.max(fromKelvin(0.5, unit), ...off),
        },
      ]}
      grid={{ horizontal: true }}
      series={[
        {
          id: 'off',
          label: 'water read',
          data: off,
          color: 'var(--ink)',
          showMark: true,
          curve: 'linear',
          valueFormatter: (value: number | null) => (value === null ? '' : `${number(value, 1)} ${label}`),
        },
      ]}
      sx={{ '& .MuiChartsAxis-line, & .MuiChartsAxis-tick': { stroke: 'var(--ink)' } }}
      hideLegend
    >
      <ChartsReferenceLine y={0} lineStyle={{ stroke: 'var(--ink3)', strokeDasharray: '2 4' }} />
      {points
        .filter((point) => point.adjusted)
        .map((point) => (
          <ChartsReferenceLine
            key={point.at}
            x={new Date(point.at)}
            label="set"
            labelAlign="start"
            lineStyle={{ stroke: 'var(--ink3)', strokeWidth: 2 }}
            labelStyle={WORDS}
          />
        ))}
    </LineChart>
  );
}
