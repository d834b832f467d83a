import { useQueryClient } from '@tanstack/react-query';
import { api, Refusal, unwrap } from './client';
import { sessionOptions } from './queries';

type MayLeave = () => Promise<boolean>;
let mayLeave: MayLeave = () => Promise.resolve(true);
let left: () => Promise<void> = () => Promise.resolve();

/** Who is asked before somebody signs out, and told after: this tablet's kit belongs to a person. */
export function atSignOut(may: MayLeave, forget: () => Promise<void>): void {
  mayLeave = may;
  left = forget;
}

/** Signs out, and forgets everything that was read. */
export function useSignOut(): () => Promise<void> {
  const client = useQueryClient();
  return async () => {
    if (!(await mayLeave())) return;
    try {
      await unwrap(api.DELETE('/api/session'));
    } catch (error) {
      if (error instanceof Refusal && error.code === 'needs_network') {
        window.alert(error.message);
        return;
      }
    }
    await left();
    client.clear();
    await client.invalidateQueries(sessionOptions);
  };
}
