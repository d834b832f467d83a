import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { v4 as uuid } from 'uuid';
import { api, type Refusal, type Schemas, unwrap } from '../api/client';

export type PlanRow = Schemas['PlanRow'];

export const planOptions = (weeks: number) =>
  queryOptions({
    queryKey: ['plan', weeks],
    queryFn: ({ signal }) => unwrap(api.GET('/api/plan', { params: { query: { weeks } }, signal })),
    placeholderData: keepPreviousData,
  });

export const attentionOptions = queryOptions({
  queryKey: ['attention'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/attention', { signal })),
});

export const figuresOptions = (months: number) =>
  queryOptions({
    queryKey: ['figures', months],
    queryFn: ({ signal }) => unwrap(api.GET('/api/figures', { params: { query: { months } }, signal })),
    placeholderData: keepPreviousData,
  });

/** Move something that comes due to a day, or give it to somebody. */
export function useAppoint(weeks: number) {
  const client = useQueryClient();
  return useMutation<Schemas['Plan'], Refusal, Schemas['AppointmentIn'] & { key: string }>({
    mutationFn: ({ key, ...body }) =>
      unwrap(api.PUT('/api/plan/{key}', { params: { path: { key }, query: { weeks } }, body } as never)),
    onSuccess: (plan) => client.setQueryData(planOptions(weeks).queryKey, plan),
  });
}

/** A lead has read it, and says what is done about it. */
export function useAnswer(row: Schemas['AttentionRow']) {
  const client = useQueryClient();
  return useMutation<unknown, Refusal, string>({
    mutationFn: (answer) =>
      row.kind === 'not_checked'
        ? unwrap(api.POST('/api/machines/{machine_id}/checked', { params: { path: { machine_id: Number(row.id) } } }))
        : row.kind === 'new_verdict'
          ? unwrap(
              api.POST('/api/rejudged/{rejudged_id}/answer', {
                params: { path: { rejudged_id: Number(row.id) } },
                body: { answer },
              }),
            )
          : unwrap(
              api.POST('/api/loops/{loop_id}/entries', {
                params: { path: { loop_id: row.loop_id } },
                body: {
                  entries: [{ id: uuid(), kind: 'acknowledged', facts: { entry_id: row.id, answer } }],
                  seen: null,
                  between: false,
                },
              }),
            ),
    onSuccess: async () => {
      await client.invalidateQueries(attentionOptions);
      void client.invalidateQueries({ queryKey: ['board'] });
    },
  });
}
