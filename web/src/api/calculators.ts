import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { api, type Refusal, type Schemas, unwrap } from './client';
import type { EntryIn } from './queries';

/** A value that follows another after a pause: typing asks once, not at every key. */
export function useSettled<T>(value: T, pauseMs = 90): T {
  const [settled, settle] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => settle(value), pauseMs);
    return () => clearTimeout(timer);
  }, [value, pauseMs]);
  return settled;
}

export interface Live<T> {
  answer: T | undefined;
  refusal: Refusal | null;
  /** The answer is to an earlier question: good to look at, not to act on. */
  stale: boolean;
}

/** Ask the server while somebody types: debounced, last answer wins, the answer before stays until the next one. */
function useLive<Q, A>(
  name: string,
  question: Q | null,
  ask: (question: Q, signal: AbortSignal) => Promise<A>,
): Live<A> {
  const now = JSON.stringify(question);
  const settled = useSettled(now);
  const asked = useQuery<A, Refusal>({
    queryKey: ['live', name, settled],
    queryFn: ({ signal }) => ask(JSON.parse(settled) as Q, signal),
    enabled: settled !== 'null',
    placeholderData: keepPreviousData,
    staleTime: 60_000,
    gcTime: 60_000,
    retry: false,
  });
  const stale = now !== settled || asked.isPlaceholderData || asked.isPending;
  if (settled === 'null') return { answer: undefined, refusal: null, stale: now !== settled };
  return { answer: asked.data, refusal: asked.error, stale };
}

export const useMix = (question: Schemas['MixIn'] | null): Live<Schemas['MixOut']> =>
  useLive('mix', question, (body, signal) => unwrap(api.POST('/api/compute/mix', { body, signal })));

/** name tells several of them on one page apart. */
export const useReadyMix = (name: string, question: Schemas['ReadyMixIn'] | null): Live<Schemas['ReadyMixOut']> =>
  useLive(`ready-mix ${name}`, question, (body, signal) =>
    unwrap(api.POST('/api/compute/ready-mix', { body, signal })),
  );

export const useBatch = (question: Schemas['BatchIn'] | null): Live<Schemas['BatchOut']> =>
  useLive('batch', question, (body, signal) => unwrap(api.POST('/api/compute/batch', { body, signal })));

export const useWholeCans = (question: Schemas['WholeCansIn'] | null): Live<Schemas['WholeCansOut']> =>
  useLive('whole-cans', question, (body, signal) => unwrap(api.POST('/api/compute/whole-cans', { body, signal })));

export const useBoil = (question: Schemas['BoilIn'] | null): Live<Schemas['BoilOut']> =>
  useLive('boil', question, (body, signal) => unwrap(api.POST('/api/compute/boil', { body, signal })));

export const useExpansion = (question: Schemas['ExpansionIn'] | null): Live<Schemas['ExpansionOut']> =>
  useLive('expansion', question, (body, signal) => unwrap(api.POST('/api/compute/expansion', { body, signal })));

export const useReading = (question: Schemas['ReadingIn'] | null): Live<Schemas['ReadingOut']> =>
  useLive('reading', question, (body, signal) => unwrap(api.POST('/api/compute/reading', { body, signal })));

/** The state as it would be with these entries. */
export const usePreview = (
  loopId: number,
  basis: string | null,
  entries: EntryIn[] | null,
  between = false,
): Live<Schemas['Preview']> =>
  useLive(`preview ${loopId} ${basis} ${between}`, entries, (given, signal) =>
    unwrap(
      api.POST('/api/loops/{loop_id}/preview', {
        params: { path: { loop_id: loopId } },
        body: { entries: given, between },
        signal,
      }),
    ),
  );
