import {
  getGridDateOperators,
  getGridNumericOperators,
  getGridSingleSelectOperators,
  getGridStringOperators,
  type GridColDef,
  type GridFilterModel,
} from '@mui/x-data-grid';
import type { Schemas } from '../api/client';
import { seenText } from '../controls/reading/scale';
import { number, type System, temperatureText } from '../units/units';
import { timeOf } from '../language/time';
import { PLACE, READING_FLAG } from '../language/names';

export type LogRow = Schemas['LogRow'];

const texts = getGridStringOperators().filter((row) => ['contains', 'equals'].includes(row.value));
const numbers = getGridNumericOperators().filter((row) => ['=', '<', '<=', '>', '>='].includes(row.value));
const days = getGridDateOperators().filter((row) => ['after', 'before'].includes(row.value));
const choices = getGridSingleSelectOperators().filter((row) => row.value === 'is');
const options = (words: Record<string, string>) => Object.entries(words).map(([value, label]) => ({ value, label }));

/** The columns of the log, in the reader's units. */
export function columnsOf(system: System, zone: string | undefined): GridColDef<LogRow>[] {
  const degrees = (value: number | null) => (value === null ? '' : temperatureText(value, system));
  return [
    {
      field: 'taken_at',
      headerName: 'When',
      width: 142,
      type: 'date',
      filterOperators: days,
      valueGetter: (value: string) => new Date(value),
      valueFormatter: (value: Date) => timeOf(value.toISOString(), zone),
    },
    { field: 'machine', headerName: 'Machine', width: 88, filterOperators: texts },
    { field: 'loop', headerName: 'Loop', width: 130, sortable: false, filterable: false },
    {
      field: 'place',
      headerName: 'Taken',
      width: 100,
      type: 'singleSelect',
      valueOptions: options(PLACE),
      filterOperators: choices,
    },
    { field: 'instrument', headerName: 'Instrument', width: 130, filterOperators: texts },
    {
      field: 'value',
      headerName: 'Seen',
      width: 110,
      type: 'number',
      sortable: false,
      filterOperators: numbers,
      valueFormatter: (_value: number, row) =>
        row.scale ? seenText({ ...row, steps: row.steps || undefined }, system) : `${degrees(row.value)} reported`,
    },
    {
      field: 'freeze_c',
      headerName: 'Freezes at',
      width: 112,
      type: 'number',
      filterOperators: numbers,
      valueFormatter: (value: number | null, row) =>
        row.at_least_c !== null ? `at least ${temperatureText(row.at_least_c, system, 0)}` : degrees(value),
    },
    {
      field: 'glycol_mass_percent',
      headerName: '% by mass',
      width: 105,
      type: 'number',
      filterOperators: numbers,
      valueFormatter: (value: number | null) => (value === null ? '' : number(value, 1)),
    },
    {
      field: 'sample_c',
      headerName: 'Sample',
      width: 95,
      type: 'number',
      filterOperators: numbers,
      valueFormatter: (value: number) => temperatureText(value, system, 0),
    },
    {
      field: 'flags',
      headerName: 'Look',
      width: 220,
      type: 'singleSelect',
      sortable: false,
      valueOptions: options({ in_doubt: 'in doubt', listed: 'imported' }),
      filterOperators: choices,
      valueGetter: (flags: string[], row) =>
        [...flags.map((flag) => READING_FLAG[flag] ?? flag), ...(row.listed ? ['imported'] : [])].join(', '),
      valueFormatter: (words: string) => words,
    },
    { field: 'person', headerName: 'By', width: 130, filterOperators: texts },
  ];
}

/** Degrees are asked in the reader's unit, and sent as °C. */
const IN_DEGREES = ['freeze_c', 'sample_c'];

/** The table's filter as the server takes it; what is not filled in yet asks nothing. */
export function whereOf(model: GridFilterModel, system: System): string[] {
  return model.items.flatMap((item) => {
    const value: unknown = item.value;
    if (value === undefined || value === null || value === '') return [];
    let text = value instanceof Date ? dayText(value) : String(value);
    if (IN_DEGREES.includes(item.field) && system === 'us') text = String((Number(text) - 32) / 1.8);
    return [`${item.field}~${item.operator}~${text}`];
  });
}

const dayText = (day: Date): string =>
  `${day.getFullYear()}-${String(day.getMonth() + 1).padStart(2, '0')}-${String(day.getDate()).padStart(2, '0')}`;
