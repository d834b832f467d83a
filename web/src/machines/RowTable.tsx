import ButtonBase from '@mui/material/ButtonBase';
import InputBase from '@mui/material/InputBase';
import NativeSelect from '@mui/material/NativeSelect';
import { Plus } from '../controls/icons';

export type Row = Record<string, string>;

export interface Column {
  key: string;
  label: string;
  /** Words to choose from; without them it is typed. */
  options?: { value: string; label: string }[];
  wide?: boolean;
}

interface Props {
  name: string;
  says: string;
  columns: Column[];
  rows: Row[];
  fresh: () => Row;
  onChange: (rows: Row[]) => void;
}

/** A few rows of a few values, typed or chosen; what the values mean is checked elsewhere. */
export function RowTable({ name, says, columns, rows, fresh, onChange }: Props) {
  const set = (at: number, key: string, value: string) =>
    onChange(rows.map((row, i) => (i === at ? { ...row, [key]: value } : row)));
  return (
    <section className="rowtable" aria-label={name}>
      <h3>
        {name} <span>{says}</span>
      </h3>
      <table>
        <thead>
          <tr>
            {columns.map((column) => (
              <th key={column.key}>{column.label}</th>
            ))}
            <th aria-label="take out" />
          </tr>
        </thead>
        <tbody>
          {rows.map((row, at) => (
            // rows have no identity of their own until they are kept
            <tr key={at}>
              {columns.map((column) => (
                <td key={column.key} className={column.wide ? 'wide' : ''}>
                  {column.options ? (
                    <NativeSelect
                      value={row[column.key] ?? ''}
                      disableUnderline
                      inputProps={{ 'aria-label': `${name} ${at + 1}, ${column.label}` }}
                      onChange={(event) => set(at, column.key, event.target.value)}
                    >
                      {column.options.map((option) => (
                        <option key={option.value} value={option.value}>
                          {option.label}
                        </option>
                      ))}
                    </NativeSelect>
                  ) : (
                    <InputBase
                      value={row[column.key] ?? ''}
                      inputProps={{ 'aria-label': `${name} ${at + 1}, ${column.label}`, autoComplete: 'off' }}
                      onChange={(event) => set(at, column.key, event.target.value)}
                    />
                  )}
                </td>
              ))}
              <td>
                <ButtonBase
                  className="key small"
                  aria-label={`Remove: ${name} ${at + 1}`}
                  onClick={() => onChange(rows.filter((_, i) => i !== at))}
                >
                  out
                </ButtonBase>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <ButtonBase className="key small" onClick={() => onChange([...rows, fresh()])}>
        <Plus />
        &nbsp;Add row
      </ButtonBase>
    </section>
  );
}
