import { keepPreviousData, queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, type Refusal, type Schemas, unwrap } from './client';
import { nextTryIn } from './net';

export const sessionOptions = queryOptions({
  queryKey: ['session'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/session', { signal })),
  staleTime: Infinity,
  retryOnMount: false, // the page that says "no answer" asks for it too: it would go on loading for ever
});

/** What others do is seen within five seconds; where nothing changed the answer is empty. */
const BOARD_EVERY_MS = 4_000;

type BoardAnswer = { data?: Schemas['Board'] | undefined; error?: unknown; response: Response };

/** Asks with the tag of what is at hand: where nothing changed, that with the server's time of now. */
function unlessSeen(ask: (headers: Record<string, string>, signal: AbortSignal) => Promise<BoardAnswer>) {
  let seen: { etag: string; board: Schemas['Board'] } | null = null;
  return async (signal: AbortSignal): Promise<Schemas['Board']> => {
    const answer = await ask(seen ? { 'If-None-Match': seen.etag } : {}, signal);
    if (answer.response.status === 304 && seen) {
      return { ...seen.board, server_time: answer.response.headers.get('Server-Time') ?? seen.board.server_time };
    }
    const board = await unwrap<Schemas['Board']>(Promise.resolve(answer) as never);
    const etag = answer.response.headers.get('ETag');
    seen = etag ? { etag, board } : null;
    return board;
  };
}

const boardUnlessSeen = unlessSeen((headers, signal) => api.GET('/api/board', { signal, headers }));

export const boardOptions = queryOptions({
  queryKey: ['board'],
  queryFn: ({ signal }) => boardUnlessSeen(signal),
  refetchInterval: BOARD_EVERY_MS,
});

/** The board on a wall, by its link; it is looked at whether anybody touches the screen or not. */
export function wallOptions(token: string) {
  const wall = unlessSeen((headers, signal) =>
    api.GET('/api/wall/{token}', { params: { path: { token } }, signal, headers }),
  );
  return queryOptions({
    queryKey: ['wall', token],
    queryFn: ({ signal }) => wall(signal),
    refetchInterval: BOARD_EVERY_MS,
    refetchIntervalInBackground: true,
    retry: false,
  });
}

export const machinesOptions = queryOptions({
  queryKey: ['machines'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/machines', { signal })),
});

/** Every loop with what is inside and what is due. */
export const loopsOptions = queryOptions({
  queryKey: ['machines', 'loops'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/loops', { signal })),
  staleTime: 15_000,
});

export const peopleOptions = queryOptions({
  queryKey: ['people'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/people', { signal })),
});

export const layoutsOptions = (capacityL: number) =>
  queryOptions({
    queryKey: ['layouts', capacityL],
    queryFn: ({ signal }) => unwrap(api.GET('/api/layouts', { params: { query: { capacity_l: capacityL } }, signal })),
    placeholderData: keepPreviousData,
    staleTime: Infinity,
    retry: false,
  });

export const policyOptions = queryOptions({
  queryKey: ['policy'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/policy', { signal })),
});

export const machineOptions = (machineId: number) =>
  queryOptions({
    queryKey: ['machine', machineId],
    queryFn: ({ signal }) =>
      unwrap(api.GET('/api/machines/{machine_id}', { params: { path: { machine_id: machineId } }, signal })),
  });

export const inspectionOptions = queryOptions({
  queryKey: ['inspection'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/inspection', { signal })),
  staleTime: Infinity,
});

export const catalogueOptions = queryOptions({
  queryKey: ['catalogue'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/catalogue', { signal })),
});

/** Containers with what is left in them, and every line against its minimum. */
export const shelfOptions = queryOptions({
  queryKey: ['shelf'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/shelf', { signal })),
});

export const canOptions = (canId: number) =>
  queryOptions({
    queryKey: ['shelf', canId],
    queryFn: ({ signal }) => unwrap(api.GET('/api/cans/{can_id}', { params: { path: { can_id: canId } }, signal })),
  });

/** What stands full, who took waste, the register by month. */
export const wasteOptions = queryOptions({
  queryKey: ['waste'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/waste', { signal })),
});

/** Where a lot went. */
export const lotOptions = (lot: string) =>
  queryOptions({
    queryKey: ['shelf', 'lot', lot],
    queryFn: ({ signal }) => unwrap(api.GET('/api/lots', { params: { query: { lot } }, signal })),
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

export const historyOptions = (loopId: number) =>
  queryOptions({
    queryKey: ['history', loopId],
    queryFn: ({ signal }) =>
      unwrap(api.GET('/api/loops/{loop_id}/history', { params: { path: { loop_id: loopId } }, signal })),
  });

export const lessonsOptions = (loopId: number) =>
  queryOptions({
    queryKey: ['lessons', loopId],
    queryFn: ({ signal }) =>
      unwrap(api.GET('/api/loops/{loop_id}/lessons', { params: { path: { loop_id: loopId } }, signal })),
  });

export const ledgerOptions = (loopId: number) =>
  queryOptions({
    queryKey: ['ledger', loopId],
    queryFn: ({ signal }) =>
      unwrap(api.GET('/api/loops/{loop_id}/ledger', { params: { path: { loop_id: loopId } }, signal })),
  });

export const sheetOptions = (loopId: number, job: string | null) =>
  queryOptions({
    queryKey: ['sheet', loopId, job],
    queryFn: ({ signal }) =>
      unwrap(
        api.GET('/api/loops/{loop_id}/sheet', {
          params: { path: { loop_id: loopId }, query: job ? { job } : {} },
          signal,
        }),
      ),
  });

export const labelOptions = (loopId: number) =>
  queryOptions({
    queryKey: ['label', loopId],
    queryFn: ({ signal }) =>
      unwrap(api.GET('/api/loops/{loop_id}/label', { params: { path: { loop_id: loopId } }, signal })),
  });

export const seasonOptions = queryOptions({
  queryKey: ['season'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/season', { signal })),
});

const MOST_TRIES = 6;

/** Asked again only where nothing answered. */
const onlySilence = (failures: number, error: Refusal): boolean => error.status === 0 && failures < MOST_TRIES;

export type EntryIn = Schemas['EntriesIn']['entries'][number];

/** Open a job; what the whole application shows follows. The id is the client's: sent twice it is one job. */
export function useOpenJob(done: (job: Schemas['JobOpenedOut']) => void) {
  const client = useQueryClient();
  return useMutation<Schemas['JobOpenedOut'], Refusal, Schemas['JobIn']>({
    mutationFn: (body) => unwrap(api.POST('/api/jobs', { body })),
    retry: onlySilence,
    retryDelay: nextTryIn,
    onSuccess: async (job) => {
      await client.invalidateQueries();
      done(job);
    },
  });
}

/** A lead answers a signed job that today's rules judge worse. */
export function useAnswerRejudged() {
  const client = useQueryClient();
  return useMutation<unknown, Refusal, { id: number; answer: string }>({
    mutationFn: ({ id, answer }) =>
      unwrap(
        api.POST('/api/rejudged/{rejudged_id}/answer', { params: { path: { rejudged_id: id } }, body: { answer } }),
      ),
    onSuccess: () => client.invalidateQueries({ queryKey: ['board'] }),
  });
}

/** Record entries on a loop; the answer is the bench as it then is. */
export function useRecord(loopId: number) {
  const client = useQueryClient();
  return useMutation<Schemas['Bench'], Refusal, { entries: EntryIn[]; seen: string | null; between?: boolean }>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/loops/{loop_id}/entries', {
          params: { path: { loop_id: loopId } },
          body: { between: false, ...body },
        }),
      ),
    retry: onlySilence, // its ids stay the same: sent again after a dropped answer it is stored once
    retryDelay: nextTryIn,
    onSuccess: async (bench) => {
      await client.cancelQueries(benchOptions(loopId)); // one asked before this was stored would bring back what was
      client.setQueryData(benchOptions(loopId).queryKey, bench);
      void client.invalidateQueries({ queryKey: ['board'] });
      void client.invalidateQueries({ queryKey: ['ledger', loopId] });
      void client.invalidateQueries({ queryKey: ['history', loopId] });
      void client.invalidateQueries({ queryKey: ['machines'] });
      for (const name of ['sheet', 'label', 'season']) void client.invalidateQueries({ queryKey: [name] });
    },
  });
}

/** The starter list: coolants, waters and instruments that a depot may begin with. */
export const starterOptions = queryOptions({
  queryKey: ['starter'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/starter', { signal })),
});

/** Kinds of machine, as usually built. */
export const kindsOptions = queryOptions({
  queryKey: ['kinds'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/kinds', { signal })),
  staleTime: Infinity,
});

export const ownerOptions = (ownerUuid: string) =>
  queryOptions({
    queryKey: ['owner', ownerUuid],
    queryFn: ({ signal }) =>
      unwrap(api.GET('/api/owners/{owner_uuid}', { params: { path: { owner_uuid: ownerUuid } }, signal })),
  });

/** Machines by the name, telephone or e-mail of their owner; only the server has those. */
export const ownersFoundOptions = (words: string) =>
  queryOptions({
    queryKey: ['owners', words],
    queryFn: ({ signal }) => unwrap(api.GET('/api/owners', { params: { query: { find: words } }, signal })),
    enabled: words.length >= 4,
    staleTime: 30_000,
  });

export const ofOptions = (uuid: string) =>
  queryOptions({
    queryKey: ['of', uuid],
    queryFn: ({ signal }) => unwrap(api.GET('/api/of/{uuid}', { params: { path: { uuid } }, signal })),
  });
