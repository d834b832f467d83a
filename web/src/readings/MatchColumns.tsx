import { Picker } from '../controls/Picker';
import type { FileColumns, Matched } from './useImport';

interface Props {
  columns: FileColumns;
  matched: Matched;
  onChange: (matched: Matched) => void;
}

const OUT = '';

/** Which column of somebody's file is which here; what is needed and missing is said first. */
export function MatchColumns({ columns, matched, onChange }: Props) {
  const options = [
    { value: OUT, label: 'Leave out' },
    ...columns.taken.flatMap((row) => row.heads.map((head) => ({ value: head, label: head }))),
  ];
  const match = (head: string, value: string) => {
    const name = nameOf(value);
    const others = Object.entries(matched).map(([key, now]) => [key, name && nameOf(now) === name ? OUT : now]);
    onChange({ ...(Object.fromEntries(others) as Matched), [head]: value });
  };
  return (
    <div className="matchcolumns" data-testid="match-columns">
      {columns.file.map((row, n) => (
        <div key={`${n} ${row.head}`} className="matchrow">
          <Picker
            label={row.head || `Column ${n + 1}`}
            value={matched[row.head] ?? OUT}
            options={options}
            onChange={(value) => match(row.head, value)}
          />
          <span className="firstline">{row.first ? `first line: ${row.first}` : 'first line: empty'}</span>
        </div>
      ))}
    </div>
  );
}

/** A column without its unit. */
const nameOf = (head: string): string => head.split(' [')[0] ?? '';

/** Columns that are needed and that nothing in the file is yet. */
export function missingOf(columns: FileColumns, matched: Matched): string[] {
  const there = new Set(Object.values(matched).map(nameOf));
  return columns.taken
    .filter((row) => row.needed && !there.has(nameOf(row.heads[0] ?? '')))
    .map((row) => row.heads[0] ?? '');
}
