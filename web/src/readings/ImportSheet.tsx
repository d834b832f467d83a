import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useId, useState } from 'react';
import type { Refusal as RefusalError } from '../api/client';
import { GoPlate } from '../controls/GoPlate';
import { Refusal } from '../controls/Refusal';
import { Imports } from './Imports';
import { MatchColumns, missingOf } from './MatchColumns';
import {
  fileColumnsOf,
  type FileColumns,
  NOTHING_SAID,
  type Own,
  type Report,
  sendFile,
  useProgress,
  useReadingsChanged,
} from './useImport';

const count = (n: number, one: string, more: string): string => `${n} ${n === 1 ? one : more}`;

/** A file, under one id for as long as it is the one that was chosen. */
interface Chosen {
  file: File;
  id: string;
}

/** Readings out of a file: its columns matched, every line looked at, then all of them count or none. */
export function ImportSheet({ onDone }: { onDone: () => void }) {
  const input = useId();
  const changed = useReadingsChanged();
  const [chosen, choose] = useState<Chosen | null>(null);
  const [own, setOwn] = useState<Own>(NOTHING_SAID);
  const look = useMutation<Report, RefusalError, { given: Chosen; as: Own }>({
    mutationFn: ({ given, as }) => sendFile({ ...given, own: as }, 'yes'),
  });
  const columns = useMutation<FileColumns, RefusalError, Chosen>({
    mutationFn: ({ file }) => fileColumnsOf(file),
    onSuccess: (found, given) =>
      match(given, found, { matched: Object.fromEntries(found.file.map((row) => [row.head, row.guess])), always: {} }),
  });
  const take = useMutation<Report, RefusalError, Chosen>({
    mutationFn: (given) => sendFile({ ...given, own }, 'no'),
    onSuccess: changed,
  });
  /** What the columns are; looked at line by line once all that are needed are there. */
  function match(given: Chosen, found: FileColumns, as: Own): void {
    setOwn(as);
    look.reset();
    if (missingOf(found, as).length === 0) look.mutate({ given, as });
  }
  const runs = look.isPending || take.isPending;
  const progress = useProgress(chosen?.id ?? '', runs);
  const report = take.data ?? look.data;
  const done = take.isSuccess && take.data.error_count === 0;
  const missing = columns.data ? missingOf(columns.data, own) : [];
  const refused = take.error ?? look.error ?? columns.error;
  const waits = waitsFor({ chosen, missing, looking: columns.isPending || look.isPending, report });
  return (
    <>
      <main id="work" className="importsheet">
        <h1 className="title">
          {done ? `${count(take.data.imported, 'reading', 'readings')} imported` : 'Import readings from a file'}
        </h1>
        <p className="ink2">
          CSV or JSON. All readings of a file count, or none. They show in Readings and in the history; they decide
          nothing in a job. <a href="/api/readings/template.csv">Template to fill in</a>
        </p>
        <input
          id={input}
          type="file"
          name="readings"
          accept=".csv,.json"
          className="visually-hidden"
          onChange={(event) => {
            const file = event.target.files?.[0] ?? null;
            event.target.value = '';
            if (!file) return;
            const given = { file, id: crypto.randomUUID() };
            choose(given);
            take.reset();
            look.reset();
            columns.mutate(given);
          }}
        />
        <Button className="key" component="label" htmlFor={input}>
          {chosen ? 'Choose another file' : 'Choose a file'}
        </Button>
        {chosen && (
          <p>
            <b>{chosen.file.name}</b> {report && said(report)}
          </p>
        )}
        {report && report.ignored.length > 0 && <p className="ink2">Not imported: {report.ignored.join(', ')}.</p>}
        {runs && (
          <p role="status">
            {take.isPending ? 'Importing' : 'Looking at every line'}
            {progress !== null && (
              <>
                {' '}
                <progress value={progress} aria-label="Done so far" /> {Math.round(progress * 100)} %
              </>
            )}
          </p>
        )}
        {refused && <Refusal which="Nothing imported." allowed={refused.message} />}
        {missing.length > 0 && (
          <Refusal which="Which columns are these?" allowed={`Say which column is ${missing.join(', ')}.`} />
        )}
        {report && report.errors.length > 0 && <LineErrors report={report} />}
        {chosen && columns.data && !done && (
          <details className="matching" open={missing.length > 0 || undefined}>
            <summary>Columns of the file</summary>
            <MatchColumns columns={columns.data} own={own} onChange={(as) => match(chosen, columns.data, as)} />
          </details>
        )}
        <Imports />
      </main>
      <div className="gocorner">
        {done ? (
          <GoPlate act="Show readings" then="marked as imported" onPress={onDone} />
        ) : (
          <GoPlate
            act={`Import ${count(report?.new ?? 0, 'reading', 'readings')}`}
            then="all of them count, or none"
            waits={waits}
            busy={take.isPending}
            onPress={() => chosen && !take.isPending && take.mutate(chosen)}
          />
        )}
      </div>
    </>
  );
}

function said(report: Report): string {
  const known = report.undone
    ? `${report.known} known already (${report.undone} undone)`
    : `${report.known} known already`;
  return `${count(report.lines, 'line', 'lines')}: ${report.new} new, ${known}, ${report.error_count} refused.`;
}

interface Waits {
  chosen: Chosen | null;
  missing: string[];
  looking: boolean;
  report: Report | undefined;
}

/** What has to be before anything can be imported; null when nothing is in the way. */
function waitsFor({ chosen, missing, looking, report }: Waits): string | null {
  if (!chosen) return 'Choose a file';
  if (looking) return 'Checking every line';
  if (missing.length > 0) return 'Match the columns';
  if (!report) return 'The file cannot be read';
  if (report.error_count > 0) return `Fix ${count(report.error_count, 'line', 'lines')} first`;
  return report.new === 0 ? 'Nothing new in this file' : null;
}

function LineErrors({ report }: { report: Report }) {
  return (
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
  );
}
