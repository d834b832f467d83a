import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { instrumentsOptions, machinesOptions, sessionOptions } from '../api/queries';
import { Segment } from '../controls/Segment';
import { PageFrame } from '../controls/menu/Page';
import { ImportSheet } from './ImportSheet';
import { exportHref } from './readingsQuery';
import { ReadingsTable } from './ReadingsTable';
import { Together } from './Together';
import './readings.css';

const VIEWS = [
  { value: 'all', label: 'Readings' },
  { value: 'together', label: 'Compare' },
  { value: 'import', label: 'Import' },
] as const;
type View = (typeof VIEWS)[number]['value'];

/** All readings of the depot: one by one, together, and out of a file. */
export default function ReadingsPage() {
  const [query, ask] = useSearchParams();
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const views = VIEWS.filter((row) => lead || row.value !== 'import');
  const view = views.find((row) => row.value === query.get('view'))?.value ?? 'all';
  const [where, filtered] = useState<string[]>([]);
  const only = useOnly(query);
  const turn = (next: View) => {
    const left = new URLSearchParams(query);
    if (next === 'all') left.delete('view');
    else left.set('view', next);
    ask(left);
  };
  const all = [...only.where, ...where];
  return (
    <PageFrame
      title="Readings"
      line="Every reading of this depot with its result"
      tools={
        <>
          <Segment label="View" hideLabel value={view} options={views} onChange={turn} />
          {view === 'all' &&
            (['csv', 'json'] as const).map((kind) => (
              <a key={kind} className="key" href={exportHref(kind, all)} download>
                Export {kind.toUpperCase()}
              </a>
            ))}
        </>
      }
      className="logpage"
    >
      {view === 'import' ? (
        <ImportSheet onDone={() => turn('all')} />
      ) : (
        <main id="work">
          {view === 'all' ? (
            <>
              {only.words && (
                <p>
                  Only <b>{only.words}</b>.{' '}
                  <ButtonBase className="key small" onClick={() => ask({})}>
                    All
                  </ButtonBase>
                </p>
              )}
              <ReadingsTable key={only.where.join()} fixed={only.where} onWhere={filtered} />
            </>
          ) : (
            <Together />
          )}
        </main>
      )}
    </PageFrame>
  );
}

/** The log of one loop or one instrument, by the address. */
function useOnly(query: URLSearchParams): { where: string[]; words: string } {
  const [loop, instrument] = [query.get('loop'), query.get('instrument')];
  const machines = useQuery({ ...machinesOptions, enabled: loop !== null }).data;
  const instruments = useQuery({ ...instrumentsOptions, enabled: instrument !== null }).data;
  const where = [...(loop ? [`loop_id~=~${loop}`] : []), ...(instrument ? [`instrument_id~=~${instrument}`] : [])];
  const machine = machines?.machines.find((row) => row.loops.some((one) => String(one.id) === loop));
  const named = instruments?.instruments.find((row) => String(row.id) === instrument);
  const words = [
    ...(loop ? [machine ? machine.machine.fleet_number : 'one loop'] : []),
    ...(instrument ? [named?.name ?? 'one instrument'] : []),
  ].join(', ');
  return { where, words };
}
