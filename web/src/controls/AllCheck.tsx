import { Check } from './Check';

interface Props<T extends string> {
  label: string;
  rows: readonly T[];
  picked: readonly T[];
  onChange: (picked: T[]) => void;
}

/** All of a list by one tap, which can be unticked again; not shown for a list of one. */
export function AllCheck<T extends string>({ label, rows, picked, onChange }: Props<T>) {
  if (rows.length < 2) return null;
  const all = rows.every((row) => picked.includes(row));
  return (
    <Check
      label={label}
      checked={all}
      onChange={(on) => onChange(on ? [...new Set([...picked, ...rows])] : picked.filter((row) => !rows.includes(row)))}
    />
  );
}
