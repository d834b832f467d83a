import { queryOptions } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';

export const healthOptions = queryOptions({
  queryKey: ['data'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/data', { signal })),
});
