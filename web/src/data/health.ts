import { queryOptions } from '@tanstack/react-query';
import { api, Refusal, type Schemas, unwrap } from '../api/client';

type Health = Schemas['Health'];

/** Whether all is well; where something is amiss the server answers 503, with what it is. */
async function asked(signal: AbortSignal): Promise<Health> {
  const got = api.GET('/api/health', { signal });
  try {
    return await unwrap(got);
  } catch (error) {
    const { error: body } = error instanceof Refusal && error.status === 503 ? await got : { error: undefined };
    if (body && 'checks' in body) return body;
    throw error;
  }
}

export const healthOptions = queryOptions<Health, Refusal>({
  queryKey: ['health'],
  queryFn: ({ signal }) => asked(signal),
});
