import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef } from 'react';
import { v4 as uuid } from 'uuid';
import { depotApi, type Refusal, type Schemas, unwrap } from '../api/client';
import { goTo } from '../api/where';

export type Bench = Schemas['PracticeBench'];
export type Act = Schemas['Act'];
export type Practice = Schemas['Practice'];

export const practiceOptions = queryOptions({
  queryKey: ['practice'],
  queryFn: ({ signal }) => unwrap(depotApi.GET('/api/practice', { signal })),
});

export const benchOptions = (run: string) =>
  queryOptions({
    queryKey: ['practice bench', run],
    queryFn: ({ signal }) =>
      unwrap(depotApi.GET('/api/practice/runs/{run_id}', { params: { path: { run_id: run } }, signal })),
  });

export const truthOptions = (run: string) =>
  queryOptions({
    queryKey: ['practice truth', run],
    queryFn: ({ signal }) =>
      unwrap(depotApi.GET('/api/practice/runs/{run_id}/truth', { params: { path: { run_id: run } }, signal })),
    staleTime: Infinity,
  });

export const recordOptions = queryOptions({
  queryKey: ['practice record'],
  queryFn: ({ signal }) => unwrap(depotApi.GET('/api/practice/record', { signal })),
});

/** Begin a run: the page is loaded again, in the practice depot. Pressed twice it begins once. */
export function useBegin() {
  const id = useRef(uuid());
  return useMutation<Bench, Refusal, Omit<Schemas['PracticeRunIn'], 'id'>>({
    mutationFn: (given) => unwrap(depotApi.POST('/api/practice/runs', { body: { ...given, id: id.current } })),
    onSuccess: (bench) => goTo(`/practice/${bench.run.id}/machines`),
    onError: () => {
      id.current = uuid();
    },
  });
}

/** What hands do in a run, and time that is run forward: all that is shown is asked for again. */
export function useHands(run: string) {
  const client = useQueryClient();
  const fresh = (bench: Bench) => {
    client.setQueryData(benchOptions(run).queryKey, bench);
    void client.invalidateQueries({ predicate: ({ queryKey }) => !String(queryKey[0]).startsWith('practice') });
  };
  const act = useMutation<Bench, Refusal, { id: string; act: Act }>({
    mutationFn: (body) =>
      unwrap(depotApi.POST('/api/practice/runs/{run_id}/acts', { params: { path: { run_id: run } }, body })),
    onSuccess: fresh,
  });
  const wait = useMutation<Bench, Refusal, number>({
    mutationFn: (minutes) =>
      unwrap(
        depotApi.POST('/api/practice/runs/{run_id}/wait', { params: { path: { run_id: run } }, body: { minutes } }),
      ),
    onSuccess: fresh,
  });
  return { act, wait };
}

/** End a run and show its truth. */
export function useEnd(run: string) {
  return useMutation<unknown, Refusal>({
    mutationFn: () => unwrap(depotApi.POST('/api/practice/runs/{run_id}/truth', { params: { path: { run_id: run } } })),
    onSuccess: () => goTo(`/practice/truth/${run}`),
  });
}
