import { queryOptions, useMutation, useQueryClient } from '@tanstack/react-query';
import { api, type Refusal, type Schemas, unwrap } from '../api/client';
import { peopleOptions, sessionOptions } from '../api/queries';

export const profileOptions = queryOptions({
  queryKey: ['profile'],
  queryFn: ({ signal }) => unwrap(api.GET('/api/profile', { signal })),
});

type People = Schemas['People'];
type Profile = Schemas['ProfileOut'];

/** A write that answers with everybody of the depot. */
function useWrite<T>(write: (given: T) => Promise<People>) {
  const client = useQueryClient();
  return useMutation<People, Refusal, T>({
    mutationFn: write,
    onSuccess: (people) => client.setQueryData(peopleOptions.queryKey, people),
  });
}

export const useEditPerson = () =>
  useWrite(({ id, ...body }: Schemas['PersonEdit'] & { id: number }) =>
    unwrap(api.PUT('/api/people/{person_id}', { params: { path: { person_id: id } }, body })),
  );

export const useSignOutPerson = () =>
  useWrite((id: number) =>
    unwrap(api.DELETE('/api/people/{person_id}/devices', { params: { path: { person_id: id } } })),
  );

export const useRevokePersonsToken = () =>
  useWrite(({ id, key }: { id: number; key: string }) =>
    unwrap(
      api.DELETE('/api/people/{person_id}/tokens/{token_key}', {
        params: { path: { person_id: id, token_key: key } },
      }),
    ),
  );

export function useAddPerson() {
  const client = useQueryClient();
  return useMutation<Schemas['PersonAdded'], Refusal, Schemas['PersonIn']>({
    mutationFn: (body) => unwrap(api.POST('/api/people', { body })),
    onSuccess: () => void client.invalidateQueries(peopleOptions),
  });
}

export function useResetPassword() {
  const client = useQueryClient();
  return useMutation<Schemas['PersonAdded'], Refusal, number>({
    mutationFn: (id) => unwrap(api.POST('/api/people/{person_id}/password', { params: { path: { person_id: id } } })),
    onSuccess: () => void client.invalidateQueries(peopleOptions),
  });
}

/** A write to one's own account; the session says it as well. */
function useOwn<T>(write: (given: T) => Promise<Profile>) {
  const client = useQueryClient();
  return useMutation<Profile, Refusal, T>({
    mutationFn: write,
    onSuccess: async (profile) => {
      client.setQueryData(profileOptions.queryKey, profile);
      await client.invalidateQueries(sessionOptions);
    },
  });
}

export const useOwnName = () => useOwn((name: string) => unwrap(api.PUT('/api/profile', { body: { name } })));
export const useOwnPassword = () =>
  useOwn((body: Schemas['PasswordIn']) => unwrap(api.POST('/api/profile/password', { body })));
export const useSignOutElsewhere = () => useOwn(() => unwrap(api.DELETE('/api/profile/devices')));
export const useRevokeToken = () =>
  useOwn((key: string) =>
    unwrap(api.DELETE('/api/profile/tokens/{token_key}', { params: { path: { token_key: key } } })),
  );

/** A new token, that is answered this once. */
export function useMakeToken() {
  const client = useQueryClient();
  return useMutation<Schemas['TokenMade'], Refusal, Schemas['TokenIn']>({
    mutationFn: (body) => unwrap(api.POST('/api/profile/tokens', { body })),
    onSuccess: (made) => client.setQueryData(profileOptions.queryKey, made.profile),
  });
}
