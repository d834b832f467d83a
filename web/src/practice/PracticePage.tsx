import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { sessionOptions } from '../api/queries';
import { goTo } from '../api/where';
import { NotHere } from '../controls/NotHere';
import { Page, Waiting } from '../controls/menu/Page';
import { Refusal } from '../controls/Refusal';
import { timeOf } from '../language/time';
import { FreePractice } from './FreePractice';
import { LeadsPart } from './LeadsPart';
import { type Practice, practiceOptions, useBegin } from './queries';
import './practice.css';

const WORK = { high_voltage: 'high-voltage loops', cleaner: 'cleaners' } as const;

/** Lessons in rising order, free practice, one's own runs; for leads what is asked for, and their own lessons. */
export default function PracticePage() {
  const practice = useQuery(practiceOptions);
  const session = useQuery(sessionOptions).data;
  const begin = useBegin();
  if (practice.isError)
    return (
      <NotHere head="Practice cannot be shown." text={practice.error.message} retry={() => void practice.refetch()} />
    );
  if (!practice.data) return <Waiting title="Practice" />;
  const { lessons, runs, asked } = practice.data;
  const lead = session?.person?.role === 'lead';
  const open = runs.filter((run) => run.ended_at === null);
  return (
    <Page
      title="Practice"
      line="The whole job on a machine that answers. At the end you see what was true. Nothing of it is recorded at the depot"
      tools={
        lead && (
          <Link className="key small" to="/practice/record">
            Record
          </Link>
        )
      }
      mainClass="practice"
    >
      <section aria-label="Lessons">
        <h2>Lessons</h2>
        {begin.error && <Refusal which="Not begun." allowed={begin.error.message} />}
        <ol className="lessons">
          {lessons.map((lesson, index) => (
            <li key={lesson.key} className="lesson">
              <span className="place">{index + 1}</span>
              <div>
                <h3>{lesson.name}</h3>
                <p>{lesson.story}</p>
                <p className="ink2">
                  {[
                    lesson.machine,
                    lesson.loops > 1 ? `${lesson.loops} loops` : '',
                    lesson.own ? 'of this depot' : '',
                    ...asked
                      .filter((row) => row.lesson === lesson.key)
                      .map((row) => `asked for before ${WORK[row.work]}`),
                    lesson.reached ? 'you reached its aims' : '',
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </p>
              </div>
              <span className="lessonkey">
                <ButtonBase
                  className="key"
                  aria-label={`Begin: ${lesson.name}`}
                  aria-disabled={begin.isPending}
                  onClick={() => !begin.isPending && begin.mutate({ lesson: lesson.key })}
                >
                  Begin
                </ButtonBase>
              </span>
            </li>
          ))}
        </ol>
      </section>
      <div>
        {open.length > 0 && (
          <section aria-label="Go on">
            <h2>Go on</h2>
            {open.map((run) => (
              <RunRow key={run.id} run={run} act="Go on" to={`/practice/${run.id}/`} />
            ))}
          </section>
        )}
        <FreePractice begin={begin} />
        {runs.length > open.length && (
          <section aria-label="Done">
            <h2>Done</h2>
            {runs
              .filter((run) => run.ended_at !== null)
              .map((run) => (
                <RunRow key={run.id} run={run} act="See the truth" to={`/practice/truth/${run.id}`} />
              ))}
          </section>
        )}
        {lead && <LeadsPart practice={practice.data} />}
      </div>
    </Page>
  );
}

function RunRow({ run, act, to }: { run: Practice['runs'][number]; act: string; to: string }) {
  const zone = useQuery(sessionOptions).data?.depot?.time_zone;
  const end = run.reached ? 'aims reached' : run.unsafe > 0 ? 'not safe' : 'not all aims reached';
  return (
    <p className="runrow">
      <span>
        <b>{run.name}</b>{' '}
        <span className="ink2">
          {timeOf(run.started_at, zone)}, seed {run.seed}
          {run.ended_at === null ? '' : `, ${end}`}
        </span>
      </span>
      <ButtonBase className="key small" onClick={() => goTo(to)}>
        {act}
      </ButtonBase>
    </p>
  );
}
