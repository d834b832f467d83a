import { BarChart } from '@mui/x-charts/BarChart';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { NotHere } from '../controls/NotHere';
import { Segment } from '../controls/Segment';
import { FIGURE_KIND } from '../language/names';
import { fromBase, number, SYSTEMS, UNIT_LABEL } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { monthWords } from './days';
import { figuresOptions } from './usePlan';

type Kind = Schemas['FigureKind'];
type By = 'month' | 'machine';

const KINDS = Object.keys(FIGURE_KIND) as Kind[];
const SHORT: Record<Kind, string> = { coolant: 'Coolant', waste: 'Waste', hours: 'Hours', jobs: 'Jobs' };
const WORDS = { fontSize: 14 };
const FILLS = ['var(--ink)', 'var(--ink3)', 'var(--line)', 'var(--go)'];

/** Sums by month or by machine: a chart, the same as a table, and as a file. */
export default function FiguresSheet() {
  const [kind, setKind] = useState<Kind>('coolant');
  const [by, setBy] = useState<By>('month');
  const [months, setMonths] = useState('12');
  const figures = useQuery(figuresOptions(Number(months)));
  const { volume, litres } = useFigure();
  if (figures.isError)
    return (
      <NotHere head="The figures cannot be shown." text={figures.error.message} retry={() => void figures.refetch()} />
    );
  if (!figures.data)
    return (
      <p className="empty" role="status">
        Loading …
      </p>
    );
  const rows = figures.data.rows.filter((row) => row.kind === kind);
  const inLitres = kind === 'coolant' || kind === 'waste';
  const shown = (value: number) =>
    inLitres ? volume(value) : kind === 'hours' ? `${number(value, 1)} h` : String(value);
  const groupOf = (row: Schemas['FigureRow']) => (by === 'month' ? row.month : row.fleet_number);
  const groups = [...new Set(rows.map(groupOf))].sort();
  const names = [...new Set(rows.map((row) => row.name))].sort();
  const sum = (group: string, name: string) =>
    rows.filter((row) => groupOf(row) === group && row.name === name).reduce((total, row) => total + row.value, 0);
  const label = (group: string) => (by === 'month' ? monthWords(group) : group);
  return (
    <>
      <div className="row figurekeys">
        <Segment
          label="What"
          value={kind}
          onChange={setKind}
          options={KINDS.map((value) => ({ value, label: SHORT[value] }))}
        />
        <Segment<By>
          label="By"
          value={by}
          onChange={setBy}
          options={[
            { value: 'month', label: 'Month' },
            { value: 'machine', label: 'Machine' },
          ]}
        />
        <Segment
          label="Since"
          value={months}
          onChange={setMonths}
          options={['3', '12', '36'].map((value) => ({ value, label: `${value} months` }))}
        />
        <a className="key linkkey" href={`/api/figures.csv?months=${months}`}>
          CSV file
        </a>
      </div>
      {figures.data.not_counted.length > 0 && (
        <p className="hot">Not counted, record cannot be calculated: {figures.data.not_counted.join(', ')}.</p>
      )}
      <h2>{FIGURE_KIND[kind]}</h2>
      {rows.length === 0 ? (
        <p className="empty">Nothing was recorded in these months.</p>
      ) : (
        <>
          <BarChart
            height={280}
            margin={{ left: 8, right: 16, top: 16, bottom: 8 }}
            xAxis={[{ scaleType: 'band', data: groups.map(label), tickLabelStyle: WORDS, height: 34 }]}
            yAxis={[
              {
                width: 64,
                tickLabelStyle: WORDS,
                label: inLitres ? litres.label : kind === 'hours' ? 'h' : '',
                labelStyle: WORDS,
              },
            ]}
            series={names.map((name, n) => ({
              id: name || kind,
              label: name || FIGURE_KIND[kind],
              stack: 'all',
              color: FILLS[n % FILLS.length] as string,
              data: groups.map((group) => (inLitres ? litres.of(sum(group, name)) : sum(group, name))),
            }))}
            grid={{ horizontal: true }}
            hideLegend={names.length < 2}
          />
          <table className="ledger" data-testid="figures">
            <thead>
              <tr>
                <th>{by}</th>
                {names.map((name) => (
                  <th key={name}>{name || FIGURE_KIND[kind]}</th>
                ))}
                {names.length > 1 && <th>all</th>}
              </tr>
            </thead>
            <tbody>
              {groups.map((group) => (
                <tr key={group}>
                  <th scope="row">{label(group)}</th>
                  {names.map((name) => (
                    <td key={name}>{sum(group, name) > 0 ? shown(sum(group, name)) : '–'}</td>
                  ))}
                  {names.length > 1 && <td>{shown(names.reduce((total, name) => total + sum(group, name), 0))}</td>}
                </tr>
              ))}
            </tbody>
          </table>
        </>
      )}
    </>
  );
}

/** Litres in the units on show: in words, and as a bare figure for the chart. */
function useFigure() {
  const { system, volume } = useUnits();
  const unit = SYSTEMS[system].volume;
  return { volume, litres: { label: UNIT_LABEL[unit], of: (value: number) => fromBase(value, unit) } };
}
