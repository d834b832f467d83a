import { ChartsReferenceLine } from '@mui/x-charts/ChartsReferenceLine';
import { ScatterChart } from '@mui/x-charts/ScatterChart';
import type { Schemas } from '../api/client';
import { number } from '../units/units';

const WORDS = { fontSize: 14 };
// to the right of the drawing, where no pair can lie over them
const BESIDE = { ...WORDS, textAnchor: 'start', dominantBaseline: 'central' } as const;

/** Difference of two instruments against their mean; the bias and the limits that 95 % of differences keep. */
export default function AgreementChart({ row }: { row: Schemas['Compared'] }) {
  const { agreement } = row;
  if (!agreement) return null;
  const lines: [number, string, string][] = [
    [agreement.bias, `${number(agreement.bias, 1)} mean`, '0'],
    [agreement.low, number(agreement.low, 1), '6 4'],
    [agreement.high, number(agreement.high, 1), '6 4'],
  ];
  return (
    <ScatterChart
      height={220}
      margin={{ left: 8, right: 96, top: 16, bottom: 8 }}
      xAxis={[{ label: 'mean of the two, % by mass', tickLabelStyle: WORDS, labelStyle: WORDS, height: 50 }]}
      yAxis={[
        {
          label: 'first minus second, %',
          width: 66,
          tickLabelStyle: WORDS,
          labelStyle: WORDS,
          min: Math.min(agreement.low, 0) - 0.5,
          max: Math.max(agreement.high, 0) + 0.5,
        },
      ]}
      series={[
        {
          id: 'pairs',
          markerSize: 6,
          color: 'var(--ink)',
          data: row.pairs.map((pair, i) => ({ id: i, x: (pair.first + pair.second) / 2, y: pair.first - pair.second })),
        },
      ]}
      grid={{ horizontal: true }}
      hideLegend
      sx={{ '& .MuiChartsAxis-line, & .MuiChartsAxis-tick': { stroke: 'var(--ink)' } }}
    >
      {lines.map(([y, label, dash]) => (
        <ChartsReferenceLine
          key={`${dash} ${label}`}
          y={y}
          label={label}
          labelAlign="end"
          lineStyle={{ stroke: 'var(--ink)', strokeWidth: dash === '0' ? 2 : 1, strokeDasharray: dash }}
          spacing={{ x: -8, y: 0 }}
          labelStyle={BESIDE}
        />
      ))}
    </ScatterChart>
  );
}
