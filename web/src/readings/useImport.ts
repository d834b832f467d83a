import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, type Refusal, type Schemas, unwrap } from '../api/client';

export type Report = Schemas['ImportReport'];
export type FileColumns = Schemas['FileColumns'];
/** What somebody says of their file: its headers -> those here, '' for one left out; and what all its lines have. */
export interface Own {
  matched: Record<string, string>;
  always: Record<string, string>;
}
export const NOTHING_SAID: Own = { matched: {}, always: {} };

/** A form with a file, which is the one thing that is not JSON. */
function form(file: File, more: Record<string, string> = {}): FormData {
  const found = new FormData();
  found.append('file', file);
  for (const [name, value] of Object.entries(more)) found.append(name, value);
  return found;
}

export const fileColumnsOf = (file: File): Promise<FileColumns> =>
  unwrap(
    api.POST('/api/readings/import/columns', {
      body: { file: file.name }, // for the types; what is sent is the form
      bodySerializer: () => form(file),
    }),
  );

interface Sent {
  file: File;
  id: string;
  own: Own;
}

/** Look at every line (dry), or import. The same id twice imports once. */
export const sendFile = ({ file, id, own }: Sent, dry_run: 'yes' | 'no'): Promise<Report> =>
  unwrap(
    api.POST('/api/readings/import', {
      body: { file: file.name, dry_run },
      bodySerializer: () =>
        form(file, {
          dry_run,
          id,
          columns: JSON.stringify(own.matched),
          always: JSON.stringify(own.always),
        }),
    }),
  );

/** How far an import is, 0 to 1; asked while it runs. */
export function useProgress(id: string, runs: boolean): number | null {
  const asked = useQuery({
    queryKey: ['import-progress', id],
    enabled: runs,
    refetchInterval: 700,
    queryFn: ({ signal }) =>
      unwrap(api.GET('/api/readings/imports/{import_id}/progress', { params: { path: { import_id: id } }, signal })),
  });
  return runs ? (asked.data?.done ?? null) : null;
}

export const importsOptions = queryOptions({
  queryKey: ['imports'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/readings/imports', { signal })),
});

/** What changes with the readings that count. */
export function useReadingsChanged(): () => void {
  const client = useQueryClient();
  return () => {
    for (const key of ['log', 'history', 'imports', 'watch']) void client.invalidateQueries({ queryKey: [key] });
  };
}

/** Undo a whole import, or let it count again. */
export function useUndoImport() {
  const client = useQueryClient();
  const changed = useReadingsChanged();
  return useMutation<Schemas['Imports'], Refusal, { id: string; undone: boolean }>({
    mutationFn: ({ id, undone }) =>
      unwrap(api.PUT('/api/readings/imports/{import_id}', { params: { path: { import_id: id } }, body: { undone } })),
    onSuccess: (imports) => {
      changed();
      client.setQueryData(importsOptions.queryKey, imports);
    },
  });
}
