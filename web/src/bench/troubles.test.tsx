import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { inApp, saying } from '../testing';
import { BrokenRows, RejudgedCards, RejudgedRow } from './Troubles';

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

describe('what waits beside the strips', () => {
  it('is a record that cannot be calculated, with the way to its entries', () => {
    const broken = {
      machine,
      loop_id: 21,
      loop_name: 'Engine loop',
      message: 'Open its record and undo the last entry.',
    };
    inApp(
      <MemoryRouter>
        <BrokenRows rows={[broken]} />
      </MemoryRouter>,
    );
    const strip = screen.getByTestId('broken');
    expect(strip.textContent).toContain('cannot be calculated');
    expect(strip.getAttribute('href')).toBe('/loops/21/record');
  });

  it('is what was signed and is worse by today’s rules, with the next act', () => {
    inApp(
      <MemoryRouter>
        <RejudgedCards rows={[row]} />
      </MemoryRouter>,
    );
    expect(screen.getByTestId('rejudged').textContent).toContain('Keep it indoors');
    expect(screen.getByTestId('rejudged').getAttribute('href')).toBe('/loops/21/record');
  });

  it('is answered only with words', async () => {
    inApp(<RejudgedRow row={row} />);
    await userEvent.click(screen.getByText('Answered'));
    expect(sent).toEqual([]);
    await userEvent.type(screen.getByLabelText('What did you do about it?'), ' called in for Monday ');
    await userEvent.click(screen.getByText('Answered'));
    await waitFor(() => expect(sent).toEqual([{ answer: 'called in for Monday' }]));
  });
});
