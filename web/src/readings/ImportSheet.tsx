import Button from '@mui/material/Button';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useId, useRef, useState } from 'react';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { GoPlate } from '../controls/GoPlate';
import { Refusal } from '../controls/Refusal';

type Report = Schemas['ImportReport'];

function send(file: File, dry_run: 'yes' | 'no'): Promise<Report> {
  const form = new FormData();
  form.append('file', file);
  form.append('dry_run', dry_run);
  return unwrap(
    api.POST('/api/readings/import', {
      body: { file: file.name, dry_run }, // for the types; what is sent is the form
      bodySerializer: () => form,
    }),
  );
}

const count = (n: number, one: string, more: string): string => `${n} ${n === 1 ? one : more}`;

/** Readings out of a file: looked at line by line first, then taken whole or not at all. */
export function ImportSheet({ onDone }: { onDone: () => void }) {
  const id = useId();
  const client = useQueryClient();
  const input = useRef<HTMLInputElement>(null);
  const [file, choose] = useState<File | null>(null);
  const look = useMutation<Report, RefusalError, File>({ mutationFn: (given) => send(given, 'yes') });
  const take = useMutation<Report, RefusalError, File>({
    mutationFn: (given) => send(given, 'no'),
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['log'] });
      void client.invalidateQueries({ queryKey: ['history'] });
    },
  });
  const report = take.data ?? look.data;
  const done = take.isSuccess && take.data.error_count === 0;
  const waits = !file
    ? 'Choose a file'
    : look.isPending
      ? 'Checking every line'
      : !report
        ? 'The file cannot be read'
        : report.error_count > 0
          ? `Fix ${count(report.error_count, 'line', 'lines')} first`
          : report.new === 0
            ? 'Nothing new in this file'
            : null;
  return (
    <>
      <main id="work" className="importsheet">
        <h1 className="title">
          {done ? `${count(take.data.imported, 'reading', 'readings')} imported` : 'Import readings from a file'}
        </h1>
        <p className="ink2">
          CSV or JSON, as exported here; the header names the columns with their units. A file is imported whole or not
          at all. Imported readings show in Readings and in the history; they decide nothing in a job.
        </p>
        <input
          ref={input}
          id={id}
          type="file"
          name="readings"
          accept=".csv,.json"
          className="visually-hidden"
          onChange={(event) => {
            const given = event.target.files?.[0] ?? null;
            event.target.value = '';
            if (!given) return;
            choose(given);
            take.reset();
            look.mutate(given);
          }}
        />
        <Button className="key" component="label" htmlFor={id}>
          {file ? 'Choose another file' : 'Choose a file'}
        </Button>
        {file && (
          <p>
            <b>{file.name}</b>{' '}
            {report &&
              `${count(report.lines, 'line', 'lines')}: ${report.new} new, ${report.known} known already, ${report.error_count} refused.`}
          </p>
        )}
        {report && report.ignored.length > 0 && <p className="ink2">Not imported: {report.ignored.join(', ')}.</p>}
        {(look.error ?? take.error) && (
          <Refusal which="Nothing imported." allowed={(take.error ?? look.error)?.message ?? ''} />
        )}
        {report && report.errors.length > 0 && (
          <table className="ways lineerrors" data-testid="line-errors">
            <caption>
              Nothing imported.
              {report.error_count > report.errors.length && ` The first ${report.errors.length} of them:`}
            </caption>
            <tbody>
              {report.errors.map((row) => (
                <tr key={`${row.line} ${row.column}`}>
                  <th scope="row">line {row.line}</th>
                  <td>{row.column}</td>
                  <td>{row.message}</td>
                </tr>
              ))}
            </tbody>
          </table>
        )}
      </main>
      <div className="gocorner">
        {done ? (
          <GoPlate act="Show readings" then="marked as imported" onPress={onDone} />
        ) : (
          <GoPlate
            act={`Import ${count(report?.new ?? 0, 'reading', 'readings')}`}
            then="whole or not at all"
            waits={waits}
            busy={take.isPending}
            onPress={() => file && !take.isPending && take.mutate(file)}
          />
        )}
      </div>
    </>
  );
}
