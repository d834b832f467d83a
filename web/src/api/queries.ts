import { queryOptions, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, Refusal, type Schemas, unwrap } from './client';

export const sessionOptions = queryOptions({
  queryKey: ['session'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/session', { signal })),
  staleTime: Infinity,
});

export const boardOptions = queryOptions({
  queryKey: ['board'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/board', { signal })),
  refetchInterval: 15_000,
});

export const machinesOptions = queryOptions({
  queryKey: ['machines'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/machines', { signal })),
});

export const instrumentsOptions = queryOptions({
  queryKey: ['instruments'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/instruments', { signal })),
});

export const benchOptions = (loopId: number) =>
  queryOptions({
    queryKey: ['bench', loopId],
    queryFn: ({ signal }) => unwrap(api.GET('/api/loops/{loop_id}', { params: { path: { loop_id: loopId } }, signal })),
    refetchInterval: 20_000,
  });

export const ledgerOptions = (loopId: number) =>
  queryOptions({
    queryKey: ['ledger', loopId],
    queryFn: ({ signal }) =>
      unwrap(api.GET('/api/loops/{loop_id}/ledger', { params: { path: { loop_id: loopId } }, signal })),
  });

export type EntryIn = Schemas['EntriesIn']['entries'][number];

/** Record entries on a loop; the answer is the bench as it then is. */
export function useRecord(loopId: number) {
  const client = useQueryClient();
  return useMutation<Schemas['Bench'], Refusal, { entries: EntryIn[]; seen: string | null }>({
    mutationFn: (body) =>
      unwrap(api.POST('/api/loops/{loop_id}/entries', { params: { path: { loop_id: loopId } }, body })),
    onSuccess: (bench) => {
      client.setQueryData(benchOptions(loopId).queryKey, bench);
      void client.invalidateQueries({ queryKey: ['board'] });
      void client.invalidateQueries({ queryKey: ['ledger', loopId] });
      void client.invalidateQueries({ queryKey: ['machines'] });
    },
  });
}

/** A value that follows another after a pause: typing asks once, not at every key. */
export function useSettled<T>(value: T, pauseMs = 90): T {
  const [settled, settle] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => settle(value), pauseMs);
    return () => clearTimeout(timer);
  }, [value, pauseMs]);
  return settled;
}

interface Live<T> {
  answer: T | undefined;
  refusal: Refusal | null;
}

/** Ask the server while somebody types: debounced, last answer wins, the answer before stays until the next one. */
function useLive<Q, A>(
  name: string,
  question: Q | null,
  ask: (question: Q, signal: AbortSignal) => Promise<A>,
): Live<A> {
  const settled = useSettled(JSON.stringify(question));
  const asked = useQuery<A, Refusal>({
    queryKey: ['live', name, settled],
    queryFn: ({ signal }) => ask(JSON.parse(settled) as Q, signal),
    enabled: settled !== 'null',
    placeholderData: (before) => before,
    staleTime: 60_000,
    gcTime: 60_000,
    retry: false,
  });
  return settled === 'null' ? { answer: undefined, refusal: null } : { answer: asked.data, refusal: asked.error };
}

export const useMix = (question: Schemas['MixIn'] | null): Live<Schemas['MixOut']> =>
  useLive('mix', question, (body, signal) => unwrap(api.POST('/api/compute/mix', { body, signal })));

export const useReading = (question: Schemas['ReadingIn'] | null): Live<Schemas['ReadingOut']> =>
  useLive('reading', question, (body, signal) => unwrap(api.POST('/api/compute/reading', { body, signal })));

/** The state as it would be with these entries. */
export const usePreview = (loopId: number, basis: string | null, entries: EntryIn[] | null): Live<Schemas['Preview']> =>
  useLive(`preview ${loopId} ${basis}`, entries, (given, signal) =>
    unwrap(
      api.POST('/api/loops/{loop_id}/preview', {
        params: { path: { loop_id: loopId } },
        body: { entries: given },
        signal,
      }),
    ),
  );
