import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { inApp, saying } from '../testing';
import { RejudgedRow } from './Troubles';

const machine = { id: 3, fleet_number: 'X-31', kind: 'Carrier', description: '', year: null };
const row: Schemas['RejudgedOut'] = {
  id: 9,
  machine,
  loop_id: 21,
  loop_name: 'Engine loop',
  signed_at: '2026-11-25T20:56:00Z',
  code: 'mixed_bases',
  said: saying('Signed as verified, today no verdict: mixed bases.'),
  act: saying('Keep it indoors. Start a job: change type.'),
};

let sent: unknown[] = [];
beforeEach(() => {
  sent = [];
  vi.stubGlobal('fetch', async (request: Request) => {
    if (request.method === 'POST') sent.push(await request.clone().json());
    return new Response('{}', { headers: { 'Content-Type': 'application/json' } });
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('a signed job that is worse by today’s rules', () => {
  it('is answered only with words', async () => {
    inApp(<RejudgedRow row={row} />);
    await userEvent.click(screen.getByText('Answered'));
    expect(sent).toEqual([]);
    await userEvent.type(screen.getByLabelText('What did you do about it?'), ' called in for Monday ');
    await userEvent.click(screen.getByText('Answered'));
    await waitFor(() => expect(sent).toEqual([{ answer: 'called in for Monday' }]));
  });
});
