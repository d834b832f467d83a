import type { ReactNode } from 'react';
import './twin.css';

interface Props {
  caption: string;
  heads: readonly string[];
  rows: readonly (readonly ReactNode[])[];
}

/** The table twin of a chart: the same figures in rows, for whoever cannot see it or wants the figures. */
export function Twin({ caption, heads, rows }: Props) {
  return (
    <details className="twin">
      <summary>As a table</summary>
      <table className="ledger">
        <caption className="visually-hidden">{caption}</caption>
        <thead>
          <tr>
            {heads.map((head) => (
              <th key={head} scope="col">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map((row, i) => (
            <tr key={i}>
              {row.map((cell, k) => (
                <td key={k}>{cell}</td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </details>
  );
}
