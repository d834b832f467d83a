import { keepPreviousData, queryOptions } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';

export interface Asked {
  /** A column; with - falling. */
  sort: string;
  /** Conditions as field~operator~value. */
  where: string[];
  after: string;
  size: number;
}

/** A page of the log. */
export const logOptions = (asked: Asked) =>
  queryOptions({
    queryKey: ['log', asked],
    queryFn: ({ signal }) =>
      unwrap(
        api.GET('/api/readings', {
          params: {
            query: {
              sort: asked.sort,
              size: asked.size,
              ...(asked.where.length > 0 ? { where: asked.where } : {}),
              ...(asked.after ? { after: asked.after } : {}),
            },
          },
          signal,
        }),
      ),
    placeholderData: keepPreviousData,
  });

/** What the readings say together. */
export const watchOptions = queryOptions({
  queryKey: ['log', 'watch'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/readings/watch', { signal })),
});

/** Where the log comes as a file. */
export const exportHref = (kind: 'csv' | 'json', where: string[]): string => {
  const query = new URLSearchParams(where.map((row) => ['where', row]));
  return `/api/readings/export/${kind}${where.length > 0 ? `?${query}` : ''}`;
};
