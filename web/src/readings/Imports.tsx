import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '../api/client';
import { useDepot } from '../api/useDepot';
import { Refusal } from '../controls/Refusal';
import { timeOf } from '../language/time';
import { importsOptions, useTakeBack } from './useImport';

/** What was imported before; a whole import can be taken back, and put back. */
export function Imports() {
  const imports = useQuery(importsOptions);
  const zone = useDepot()?.time_zone;
  const take = useTakeBack();
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
                aria-label={`${row.taken_back_at ? 'Put back' : 'Take back'} ${row.file_name}`}
                aria-disabled={take.isPending}
                onClick={() => !take.isPending && take.mutate({ id: row.id, taken_back: !row.taken_back_at })}
              >
                {row.taken_back_at ? 'Put back' : 'Take back'}
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
  return row.taken_back_at ? `. Taken back ${timeOf(row.taken_back_at, zone)} by ${row.taken_back_by ?? 'nobody'}` : '';
}
