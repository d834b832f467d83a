import createClient, { type Middleware } from 'openapi-fetch';
import { shownSystem } from '../units/units';
import { inUnits, type Message } from '../language/say';
import { watched } from './net';
import { base } from './where';
import type { components, paths } from './schema.gen';

export type Schemas = components['schemas'];

/** A line of the record: its facts have the shape of its kind. */
export type EntryOut = Schemas['EntryOut'];
export type EntryOf<K extends EntryOut['kind']> = Extract<EntryOut, { kind: K }>;

/** Whether a line is of a kind, for filters. */
export const isKind =
  <K extends EntryOut['kind']>(kind: K) =>
  (entry: EntryOut): entry is EntryOf<K> =>
    entry.kind === kind;

/**
 * A refusal as the server gives it: which value, what is allowed, what to do. status 0: no answer at all.
 * said: its figures as data; the message is then written in the units on show, whenever it is read.
 */
export class Refusal extends Error {
  constructor(
    readonly status: number,
    readonly field: string,
    readonly code: string,
    message: string,
    said: Message | null = null,
  ) {
    super(message);
    if (said) Object.defineProperty(this, 'message', { get: () => inUnits({ message, said }, shownSystem()) });
  }
}

interface Cookies {
  get(name: string): Promise<{ value?: string } | null>;
}

/** The token that every change carries; a service worker has no document to read it from. */
export async function csrf(): Promise<string> {
  const name = 'csrftoken';
  if (typeof document === 'undefined')
    return (await (globalThis as unknown as { cookieStore?: Cookies }).cookieStore?.get(name))?.value ?? '';
  const found = document.cookie.split('; ').find((part) => part.startsWith(`${name}=`));
  return found?.slice(name.length + 1) ?? '';
}

const signedOutListeners = new Set<() => void>();

/** Told whenever the server says that nobody is signed in any more. */
export function onSignedOut(listener: () => void): () => void {
  signedOutListeners.add(listener);
  return () => signedOutListeners.delete(listener);
}

const door: Middleware = {
  async onRequest({ request }) {
    if (request.method !== 'GET') request.headers.set('X-CSRFToken', await csrf());
    return request;
  },
  onResponse({ response }) {
    if (response.status === 401) signedOutListeners.forEach((listener) => listener());
    return response;
  },
};

export const api = createClient<paths>({
  baseUrl: globalThis.location.origin + base,
  fetch: watched,
});
api.use(door);

/** The depot's own, from within practice too: runs and lessons are kept there. */
export const depotApi = createClient<paths>({ baseUrl: globalThis.location.origin, fetch: watched });
depotApi.use(door);

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer, or its refusal thrown. */
export async function unwrap<T>(asked: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>;
  try {
    got = await asked;
  } catch (error) {
    if (error instanceof DOMException && error.name === 'AbortError') throw error;
    throw new Refusal(0, '', 'no_answer', 'The server does not answer. Nothing is lost: try again in a moment.');
  }
  if (got.response.ok) return got.data as T;
  const body = got.error as Partial<Schemas['Problem']> | undefined;
  throw new Refusal(
    got.response.status,
    body?.field ?? '',
    body?.code ?? 'error',
    body?.message ?? `The server answered ${got.response.status}. Nothing is lost: try again.`,
    body?.said ?? null,
  );
}

/** Add a photo to an entry: a form with a file, which is the one thing that is not JSON. */
export const addPhoto = (loopId: number, id: string, entryId: string, file: File): Promise<Schemas['Bench']> => {
  const form = new FormData();
  form.append('id', id);
  form.append('entry_id', entryId);
  form.append('file', file);
  return unwrap(
    api.POST('/api/loops/{loop_id}/photos', {
      params: { path: { loop_id: loopId } },
      body: form as unknown as { id: string; entry_id: string; file: string },
      bodySerializer: (body) => body as unknown as FormData,
    }),
  );
};
