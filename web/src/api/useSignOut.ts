import { useQueryClient } from '@tanstack/react-query';
import { api } from './client';
import { sessionOptions } from './queries';

/** Signs out, and forgets everything that was read. */
export function useSignOut(): () => Promise<void> {
  const client = useQueryClient();
  return async () => {
    await api.DELETE('/api/session');
    client.clear();
    await client.invalidateQueries(sessionOptions);
  };
}
