import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '../api/client';
import { useDepot } from '../api/useDepot';
import { Refusal } from '../controls/Refusal';
import { timeOf } from '../language/time';
import { importsOptions, useUndoImport } from './useImport';

/** What was imported before; a whole import can be undone, and counted again. */
export function Imports() {
  const imports = useQuery(importsOptions);
  const zone = useDepot()?.time_zone;
  const take = useUndoImport();
  const rows = imports.data?.imports ?? [];
  if (rows.length === 0) return null;
  return (
    <section aria-labelledby="imports">
      <h2 id="imports">Imported before</h2>
      {take.error && <Refusal which="Not changed." allowed={take.error.message} />}
      <ul className="importrows">
        {rows.map((row) => (
          <li key={row.id}>
            <div>
              <b>{row.file_name || 'A file'}</b>
              <span>
                {row.imported} readings, {row.person}, {timeOf(row.at, zone)}
                {state(row, zone)}
              </span>
            </div>
            {row.lines > 0 && (
              <ButtonBase
                className="key small"
                aria-label={`${row.undone_at ? 'Count again' : 'Undo import'} ${row.file_name}`}
                aria-disabled={take.isPending}
                onClick={() => !take.isPending && take.mutate({ id: row.id, undone: !row.undone_at })}
              >
                {row.undone_at ? 'Count again' : 'Undo import'}
              </ButtonBase>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}

function state(row: Schemas['ImportRow'], zone: string | undefined): string {
  if (row.lines === 0) return '. Cut off: import the file again';
  return row.undone_at ? `. Undone ${timeOf(row.undone_at, zone)} by ${row.undone_by ?? 'nobody'}` : '';
}
