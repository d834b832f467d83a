import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { sessionOptions } from '../api/queries';
import { AddFromList } from '../controls/AddFromList';
import { GoPlate } from '../controls/GoPlate';
import { Tick } from '../controls/icons';
import { Page, Waiting } from '../controls/menu/Page';
import { NotHere } from '../controls/NotHere';
import { Refusal } from '../controls/Refusal';
import { gettingStartedOptions } from './queries';
import './start.css';

type Row = Schemas['StartStepOut'];

interface Words {
  head: string;
  /** What is there, or what it is for. */
  says: (row: Row) => string;
  /** Of the starter list; else a page. */
  list?: 'coolants' | 'waters' | 'instruments';
  to: string;
  key: string;
}

const STEPS: Record<Row['step'], Words> = {
  coolants: {
    head: 'Coolants',
    says: (row) =>
      (row.labels_missing ?? 0) > 0
        ? `${row.labels_missing} from the list: enter what the label states, then it can be used`
        : row.many > 0
          ? `${row.many} in Products`
          : 'What stands on the shelf, by its label',
    list: 'coolants',
    to: '/products',
    key: 'Enter labels',
  },
  water: {
    head: 'Mixing water',
    says: (row) => (row.many > 0 ? `${row.many} in Products` : 'Demineralised, or tap water with an analysis'),
    list: 'waters',
    to: '/products#waters',
    key: 'Water',
  },
  instrument: {
    head: 'An instrument',
    says: (row) => (row.many > 0 ? `${row.many} in Instruments` : 'The refractometer, by its scale'),
    list: 'instruments',
    to: '/instruments',
    key: 'Instruments',
  },
  people: {
    head: 'People',
    says: (row) => (row.many > 1 ? `${row.many} may sign in` : 'Only you so far'),
    to: '/people',
    key: 'Add people',
  },
  machine: {
    head: 'A first machine',
    says: (row) => (row.many > 0 ? `${row.many} in Machines` : 'Number or plate, and its kind'),
    to: '/machines/new',
    key: 'Take in a machine',
  },
};

/** The first day: what a workshop needs before its first job, each ticked by what is really there. */
export default function GettingStartedPage() {
  const start = useQuery(gettingStartedOptions);
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const [list, openList] = useState<Words['list'] | null>(null);
  const client = useQueryClient();
  const go = useNavigate();
  const away = useMutation<Schemas['GettingStarted'], RefusalError>({
    mutationFn: () => unwrap(api.POST('/api/getting-started')),
    onSuccess: (fresh) => {
      client.setQueryData(gettingStartedOptions.queryKey, fresh);
      void go('/');
    },
  });
  if (start.isError)
    return (
      <NotHere head="Getting started cannot be shown." text={start.error.message} retry={() => void start.refetch()} />
    );
  if (!start.data) return <Waiting title="Getting started" />;
  const { steps, shown } = start.data;
  const next = steps.find((row) => !row.done);
  const act = (row: Row) => {
    const words = STEPS[row.step];
    if (words.list && row.many === 0 && lead) openList(words.list);
    else void go(words.to);
  };
  return (
    <Page
      title="Getting started"
      line="What a workshop needs before its first job"
      tools={
        lead &&
        shown && (
          <ButtonBase className="key" aria-disabled={away.isPending} onClick={() => !away.isPending && away.mutate()}>
            Put away
          </ButtonBase>
        )
      }
      className="startpage"
      go={
        next ? (
          <GoPlate act={keyOf(next, lead)} then={STEPS[next.step].head.toLowerCase()} onPress={() => act(next)} />
        ) : (
          <GoPlate act="To the board" then="start a job" onPress={() => void go('/')} />
        )
      }
    >
      {away.error && <Refusal which="Not put away." allowed={away.error.message} />}
      <ol className="startsteps">
        {steps.map((row) => {
          const words = STEPS[row.step];
          return (
            <li key={row.step} className={row.done ? 'done' : ''} data-step={row.step}>
              <span className="boxmark" role="img" aria-label={row.done ? 'done' : 'open'}>
                {row.done && <Tick />}
              </span>
              <div>
                <b>{words.head}</b>
                <span>{words.says(row)}</span>
              </div>
              <div className="stepkeys">
                {words.list && lead && (
                  <ButtonBase className="key" onClick={() => openList(words.list ?? null)}>
                    Add from the list
                  </ButtonBase>
                )}
                {(lead || row.step === 'machine') && (
                  <Link className="key" to={words.to}>
                    {words.key}
                  </Link>
                )}
              </div>
            </li>
          );
        })}
      </ol>
      {list && <AddFromList of={list} onClose={() => openList(null)} />}
    </Page>
  );
}

const keyOf = (row: Row, lead: boolean): string =>
  STEPS[row.step].list && row.many === 0 && lead ? 'Add from the list' : STEPS[row.step].key;
