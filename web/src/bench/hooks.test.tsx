import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import type { ReactNode } from 'react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { api, onSignedOut, Refusal, type Schemas, unwrap } from '../api/client';
import { useDraft } from './useDraft';
import { useTabDraft } from './useTabDraft';
import { asPreview, type Fact, useRecorder } from './useRecorder';

interface Sent {
  method: string;
  url: string;
  body: { entries: { id: string; kind: string }[]; seen: string | null; data?: unknown };
}

let sent: Sent[] = [];
let answers: (() => Response)[] = [];

const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });

beforeEach(() => {
  sent = [];
  answers = [];
  localStorage.clear();
  vi.stubGlobal('fetch', async (request: Request) => {
    const text = await request.clone().text();
    sent.push({ method: request.method, url: new URL(request.url).pathname, body: text ? JSON.parse(text) : {} });
    const next = answers.shift();
    if (!next) throw new TypeError('Failed to fetch');
    return next();
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const wrapper = ({ children }: { children: ReactNode }) => (
  <QueryClientProvider client={new QueryClient({ defaultOptions: { mutations: { retry: false } } })}>
    {children}
  </QueryClientProvider>
);
const state = { last_entry_id: 'e1' } as Schemas['LoopState'];
const bench = (drafts: Schemas['Bench']['drafts'] = []) =>
  ({ loop: { id: 7 }, drafts, state }) as unknown as Schemas['Bench'];
const drained: Fact = { kind: 'drained', facts: { drained_l: 24.5, measured: 'weighed' } };

describe('useRecorder', () => {
  it('sends the same facts again under the same id when no answer came', async () => {
    answers = [
      () => {
        throw new TypeError('Failed to fetch');
      },
      () => json(201, bench()),
    ];
    const { result } = renderHook(() => useRecorder(7, state), { wrapper });
    act(() => result.current.record([drained]));
    await waitFor(() => expect(sent).toHaveLength(2), { timeout: 5000 });
    expect(sent[1]?.body.entries[0]?.id).toBe(sent[0]?.body.entries[0]?.id);
    expect(sent[0]?.body.seen).toBe('e1');
    await waitFor(() => expect(result.current.busy).toBe(false));
    expect(result.current.refusal).toBeNull();
  });

  it('gives other facts another id, and stored ones a new one next time', async () => {
    answers = [() => json(201, bench()), () => json(201, bench()), () => json(201, bench())];
    const { result } = renderHook(() => useRecorder(7, state), { wrapper });
    for (const litres of [24.5, 24.5, 25]) {
      act(() => result.current.record([{ kind: 'drained', facts: { drained_l: litres, measured: 'weighed' } }]));
      await waitFor(() => expect(result.current.busy).toBe(false));
    }
    await waitFor(() => expect(sent).toHaveLength(3));
    expect(new Set(sent.map((row) => row.body.entries[0]?.id)).size).toBe(3);
  });

  it('keeps the refusal as the server said it', async () => {
    answers = [() => json(409, { field: 'seen', code: 'ledger_moved', message: 'Tomo drained meanwhile.' })];
    const { result } = renderHook(() => useRecorder(7, state), { wrapper });
    act(() => result.current.record([drained]));
    await waitFor(() => expect(result.current.refusal?.message).toBe('Tomo drained meanwhile.'));
    expect(result.current.refusal?.status).toBe(409);
  });

  it('previews under ids that are no entry’s', () => {
    expect(asPreview([drained, drained]).map((entry) => entry.id)).toEqual([
      '00000000-0000-4000-8000-000000000000',
      '00000000-0000-4000-8000-000000000001',
    ]);
  });
});

describe('useTabDraft', () => {
  const opened = (about: string) => renderHook(() => useTabDraft('temper.look.7', about, { text: '', level: 'open' }));

  it('is there again after a reload, until it has been recorded', () => {
    const first = opened('e1');
    act(() => first.result.current.change({ text: '0,4' }));
    first.unmount();
    expect(opened('e1').result.current.draft).toMatchObject({ text: '0,4', level: 'open' });
    act(() => first.result.current.settle());
    expect(opened('e1').result.current.draft.text).toBe('');
  });

  it('does not come back once something else has been recorded', () => {
    const first = opened('e1');
    act(() => first.result.current.change({ text: '0,4' }));
    expect(opened('e2').result.current.draft.text).toBe('');
  });
});

describe('useDraft', () => {
  const start = { text: '' };
  const draftOf = (data: Record<string, unknown>): Schemas['DraftOut'] => ({
    stage: 'drain',
    data,
    updated_at: '2026-11-24T10:00:00Z',
  });

  it('brings back what the server kept', () => {
    const { result } = renderHook(() => useDraft(bench([draftOf({ text: '41,5' })]), 'drain', start), { wrapper });
    expect(result.current.draft.text).toBe('41,5');
    expect(result.current.touched).toBe(true);
  });

  it('keeps it in this tab until the server has it', async () => {
    const { result } = renderHook(() => useDraft(bench(), 'drain', start), { wrapper });
    act(() => result.current.change({ text: '41' }));
    expect(localStorage.getItem('temper.draft.7.drain')).toBe('{"text":"41"}');
    await waitFor(() => expect(sent).toHaveLength(1), { timeout: 2000 }); // no answer: the line is down
    expect(localStorage.getItem('temper.draft.7.drain')).toBe('{"text":"41"}');
    answers = [() => json(200, draftOf({ text: '41,5' }))];
    act(() => result.current.change({ text: '41,5' }));
    await waitFor(() => expect(localStorage.getItem('temper.draft.7.drain')).toBeNull(), { timeout: 2000 });
    expect(sent[1]).toMatchObject({
      method: 'PUT',
      url: '/api/loops/7/drafts/drain',
      body: { data: { text: '41,5' } },
    });
  });

  it('prefers what this tab still holds, and survives a broken backup', () => {
    localStorage.setItem('temper.draft.7.drain', '{"text":"42"}');
    const held = renderHook(() => useDraft(bench([draftOf({ text: '41' })]), 'drain', start), { wrapper });
    expect(held.result.current.draft.text).toBe('42');
    localStorage.setItem('temper.draft.7.mix', '{broken');
    const broken = renderHook(() => useDraft(bench(), 'mix', start), { wrapper });
    expect(broken.result.current.draft.text).toBe('');
  });

  it('is forgotten once recorded', async () => {
    const { result } = renderHook(() => useDraft(bench(), 'drain', start), { wrapper });
    act(() => result.current.change({ text: '41' }));
    act(() => result.current.settle());
    expect(localStorage.getItem('temper.draft.7.drain')).toBeNull();
    await new Promise((done) => setTimeout(done, 700));
    expect(sent).toHaveLength(0);
  });
});

describe('the client', () => {
  it('tells whoever listens that nobody is signed in any more', async () => {
    const listener = vi.fn();
    const stop = onSignedOut(listener);
    answers = [() => json(401, { field: '', code: 'signed_out', message: 'Sign in.' })];
    await expect(unwrap(api.GET('/api/board'))).rejects.toMatchObject({ status: 401, code: 'signed_out' });
    stop();
    answers = [() => json(401, { field: '', code: 'signed_out', message: 'Sign in.' })];
    await expect(unwrap(api.GET('/api/board'))).rejects.toBeInstanceOf(Refusal);
    expect(listener).toHaveBeenCalledTimes(1);
  });

  it('turns an answer without a body into words', async () => {
    answers = [() => new Response('<h1>oh</h1>', { status: 502 })];
    await expect(unwrap(api.GET('/api/board'))).rejects.toMatchObject({ status: 502 });
  });

  it('sends the CSRF token with what writes', async () => {
    document.cookie = 'csrftoken=abc';
    const headers: (string | null)[] = [];
    vi.stubGlobal('fetch', async (request: Request) => {
      headers.push(request.headers.get('X-CSRFToken'));
      return json(200, {});
    });
    await unwrap(api.GET('/api/board'));
    await unwrap(api.DELETE('/api/session'));
    expect(headers).toEqual([null, 'abc']);
  });
});
