import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../../api/client';
import { benchOptions, lessonsOptions, sessionOptions } from '../../api/queries';
import { Refusal } from '../../controls/Refusal';
import { sayIn } from '../../language/say';
import { dateOf } from '../../language/time';
import { useUnits } from '../../units/UnitsContext';

type Row = Schemas['LessonRow'];

/** What the measured jobs of this loop and its sisters say of the next one; a lead takes it over or refuses. */
export function Taught({ loopId }: { loopId: number }) {
  const { system } = useUnits();
  const client = useQueryClient();
  const lessons = useQuery(lessonsOptions(loopId)).data;
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const decide = useMutation<Schemas['Lessons'], RefusalError, Schemas['LessonIn']>({
    mutationFn: (body) =>
      unwrap(api.POST('/api/loops/{loop_id}/lessons', { params: { path: { loop_id: loopId } }, body })),
    onSuccess: (fresh) => {
      client.setQueryData(lessonsOptions(loopId).queryKey, fresh);
      void client.invalidateQueries({ queryKey: benchOptions(loopId).queryKey });
    },
    onError: () => void client.invalidateQueries({ queryKey: lessonsOptions(loopId).queryKey }),
  });
  if (!lessons || lessons.rows.length === 0) return null;
  const press = (row: Row, take: boolean) =>
    !decide.isPending && decide.mutate({ key: row.key, take, value: row.value });
  return (
    <section aria-label="What its jobs taught" data-testid="taught">
      <h2 className="lbl">What its jobs taught</h2>
      <ul className="taughtrows">
        {lessons.rows.map((row) => (
          <li key={row.key}>
            <p>
              <b>{sayIn(row.said, system)}</b> {fromJobs(row)} {decidedOf(row, lead)}
            </p>
            {lead && (
              <span className="row">
                {row.taken !== true && (
                  <ButtonBase className="key small" aria-disabled={decide.isPending} onClick={() => press(row, true)}>
                    Use it next time
                  </ButtonBase>
                )}
                {row.taken !== false && (
                  <ButtonBase className="key small" aria-disabled={decide.isPending} onClick={() => press(row, false)}>
                    {row.taken ? 'Use it no more' : 'Refuse'}
                  </ButtonBase>
                )}
              </span>
            )}
          </li>
        ))}
      </ul>
      {decide.error && <Refusal which="Not saved." allowed={decide.error.message} />}
    </section>
  );
}

function fromJobs(row: Row): string {
  const sisters = row.sisters === 1 ? 'one sister machine' : `${row.sisters} sister machines`;
  const others = row.jobs - row.own;
  if (others === 0) return `Learned from ${row.jobs} jobs.`;
  return `Learned from ${row.jobs} jobs, ${others} of them on ${sisters}.`;
}

function decidedOf(row: Row, lead: boolean): string {
  const when = row.at === null ? '' : `, ${row.by}, ${dateOf(row.at)}`;
  if (row.taken === true) return `In use${when}.`;
  if (row.taken === false) return `Refused${when}.`;
  if (row.taken_value === null) return lead ? '' : 'A lead can use it.';
  return `In use with fewer jobs${when}.`;
}
