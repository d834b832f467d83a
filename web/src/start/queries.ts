import { queryOptions } from '@tanstack/react-query';
import { api, unwrap } from '../api/client';

export const gettingStartedOptions = queryOptions({
  queryKey: ['getting-started'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/getting-started', { signal })),
});
