import { Picker } from '../controls/Picker';
import type { FileColumns, Own } from './useImport';

interface Props {
  columns: FileColumns;
  own: Own;
  onChange: (own: Own) => void;
}

const OUT = '';

/** A column without its unit. */
const nameOf = (head: string): string => head.split(' [')[0] ?? '';

const without = (words: Record<string, string>, name: string): Record<string, string> =>
  Object.fromEntries(Object.entries(words).filter(([key]) => key !== name));

/** Which column of somebody's file is which here, and what all its lines have where it has no column for it. */
export function MatchColumns({ columns, own, onChange }: Props) {
  const options = [
    { value: OUT, label: 'Leave out' },
    ...columns.taken.flatMap((row) => row.heads.map((head) => ({ value: head, label: head }))),
  ];
  const what = new Map(columns.taken.flatMap((row) => row.heads.map((head) => [head, row.what] as const)));
  const there = new Set(Object.values(own.matched).map(nameOf));
  const match = (head: string, value: string) => {
    const name = nameOf(value);
    const others = Object.entries(own.matched).map(([key, now]) => [key, name && nameOf(now) === name ? OUT : now]);
    const matched = { ...(Object.fromEntries(others) as Own['matched']), [head]: value };
    onChange({ matched, always: without(own.always, name) });
  };
  const forAll = (name: string, value: string) => {
    const others = without(own.always, name);
    onChange({ ...own, always: value === OUT ? others : { ...others, [name]: value } });
  };
  return (
    <div className="matchcolumns" data-testid="match-columns">
      {columns.taken
        .filter((row) => row.choices.length > 0 && !there.has(nameOf(row.heads[0] ?? '')))
        .map((row) => {
          const name = nameOf(row.heads[0] ?? '');
          return (
            <div key={name} className="matchrow">
              <Picker
                label={`All lines: ${name}`}
                value={own.always[name] ?? OUT}
                options={[{ value: OUT, label: 'Not said' }, ...row.choices.map((value) => ({ value, label: value }))]}
                onChange={(value) => forAll(name, value)}
              />
              <span className="firstline">{row.what}</span>
            </div>
          );
        })}
      {columns.file.map((row, n) => (
        <div key={`${n} ${row.head}`} className="matchrow">
          <Picker
            label={row.head || `Column ${n + 1}`}
            value={own.matched[row.head] ?? OUT}
            options={options}
            onChange={(value) => match(row.head, value)}
          />
          <span className="firstline">
            {row.first ? `First line: ${row.first}` : 'First line: empty'}
            <br />
            {what.get(own.matched[row.head] ?? '')}
          </span>
        </div>
      ))}
    </div>
  );
}

/** Columns that are needed and that nothing in the file is yet. */
export function missingOf(columns: FileColumns, own: Own): string[] {
  const there = new Set([...Object.values(own.matched).map(nameOf), ...Object.keys(own.always)]);
  return columns.taken.flatMap((row) => {
    const head = row.heads[0] ?? '';
    return row.needed && !there.has(nameOf(head)) ? [head] : [];
  });
}
