import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter, Route, Routes } from 'react-router';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../../api/client';
import { inApp, saying } from '../../testing';
import HistoryPage from './HistoryPage';
import { marksOf } from './marks';

vi.mock('./HistoryChart', () => ({
  default: ({ axis, events }: { axis: string; events: unknown[] }) => (
    <p>
      drawn: {axis}, {events.length} events
    </p>
  ),
}));

const event = (part: Partial<Schemas['Event']>): Schemas['Event'] => ({
  at: '2026-10-26T08:00:00Z',
  kind: 'reading',
  entry_id: 'e1',
  strength_percent: 44.2,
  freeze_c: -28.9,
  predicted_percent: null,
  target_c: -36,
  said: saying('Read −28.9 °C.'),
  ...part,
});

const CLAIMED = 'As found it freezes at −28.9 °C.'; // its terms are keys of their own
let life: Record<string, unknown>;
let taught: Partial<Schemas['LessonRow']>[] = [];
let role: string;
let sent: Request[];

beforeEach(() => {
  sent = [];
  role = 'technician';
  life = {
    machine: { id: 5, fleet_number: 'P-06', kind: 'Pump set', description: '', year: 2014 },
    loop: { id: 9, name: 'Engine loop', capacity_l: 12 },
    state: {
      inside: { base: 'ethylene', family: 'oat' },
      inhibitor: [],
      claim: { said: saying(CLAIMED) },
      due: { overdue: true, said: saying('Due since 1 Nov.'), life: { by: saying('By hours.') } },
      job_id: null,
      signed_at: null,
      last_entry_id: 'e1',
      overrides: [],
    },
    history: {
      events: [event({}), event({ entry_id: 'e2', at: '2026-11-20T08:00:00Z' })],
      levels: [],
      ages: [],
      reserve: null,
      slope: { leaks: true, said: saying('Loses 1.0 % a month: look for the leak.') },
      loss: {
        kind: 'leaks',
        said: saying('Leak suspected: 0.50 L a week.'),
        per_1000_km: { value: 2.5, half_width: 0.2 },
        per_100_h: null,
      },
    },
    photos: [],
    coldest_c: -22,
  };
  taught = [];
  vi.stubGlobal('fetch', async (request: Request) => {
    sent.push(request);
    const { pathname } = new URL(request.url);
    const json = (body: unknown) =>
      new Response(JSON.stringify(body), { headers: { 'Content-Type': 'application/json' } });
    if (pathname === '/api/session') return json({ person: { role, name: 'M' }, depot: { time_zone: 'UTC' } });
    if (pathname === '/api/loops/9/history') return json(life);
    if (pathname === '/api/loops') return json({ loops: [] });
    if (pathname === '/api/loops/9/lessons') return json({ rows: taught });
    return json({});
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const show = () =>
  inApp(
    <MemoryRouter initialEntries={['/loops/9/history']}>
      <Routes>
        <Route path="/loops/:loopId/history" element={<HistoryPage />} />
      </Routes>
    </MemoryRouter>,
  );

describe('HistoryPage', () => {
  it('answers first: how it stands, when it is due, whether it leaks', async () => {
    show();
    await screen.findByText((_text, element) => element?.tagName === 'P' && element.textContent === CLAIMED);
    expect(screen.getByText('Due since 1 Nov. By hours.').className).toBe('hot');
    expect(screen.getByTestId('slope').textContent).toContain('look for the leak');
    expect(screen.getByTestId('loss').textContent).toContain('0.50 L a week');
    expect(screen.getByTestId('loss').className).toBe('hot');
    await screen.findByText('drawn: freeze, 2 events');
    await userEvent.click(screen.getByText('strength', { selector: 'button' }));
    await screen.findByText('drawn: strength, 2 events');
    expect(screen.getAllByText('Read −28.9 °C.')).toHaveLength(2);
  });

  it('draws no line through one reading', async () => {
    (life.history as { events: unknown[] }).events = [event({})];
    show();
    await screen.findByText('One reading so far.');
    expect(screen.queryByText(/^drawn/)).toBeNull();
  });

  it.each(['technician', 'lead'])(
    'shows a decision against the advice to a %s; a lead says that it was seen',
    async (who) => {
      role = who;
      const state = life.state as { overrides: unknown[] };
      state.overrides = [{ entry_id: 'e3', person: 'Tomo', at: '2026-11-20T09:00:00Z', acknowledged: null }];
      (life.history as { events: unknown[] }).events.push(
        event({ kind: 'override', entry_id: 'e3', said: saying('Renewed against the advice to clean.') }),
      );
      show();
      await screen.findByText(/Tomo, /);
      expect(screen.getAllByText('Renewed against the advice to clean.').length).toBeGreaterThan(0);
      if (who === 'technician') return expect(screen.queryByText('Mark as seen')).toBeNull();
      await userEvent.click(await screen.findByText('Mark as seen'));
      const posted = sent.find((request) => request.method === 'POST');
      expect(new URL(posted?.url ?? '').pathname).toBe('/api/loops/9/entries');
    },
  );
});

describe('what its jobs taught', () => {
  const drain = { key: 'drain', value: 0.7, jobs: 4, own: 3, sisters: 1, said: saying('A drain gives 11.8 L.') };

  it('says from how many jobs, and that a lead can use it', async () => {
    taught = [{ ...drain, taken: null, taken_value: null, by: '', at: null }];
    show();
    const rows = await screen.findByTestId('taught');
    expect(rows.textContent).toContain('Learned from 4 jobs, 1 of them on one sister machine. A lead can use it.');
    expect(rows.querySelector('button')).toBeNull();
  });

  it('is taken over by a lead, with the value on show', async () => {
    role = 'lead';
    taught = [{ ...drain, taken: null, taken_value: null, by: '', at: null }];
    show();
    await userEvent.click(await screen.findByText('Use it next time'));
    const post = sent.find((request) => request.method === 'POST');
    expect(await post?.json()).toEqual({ key: 'drain', take: true, value: 0.7 });
  });
});

describe('marks of services and top-ups', () => {
  const at = (kind: 'service' | 'top_up', at: string) => ({ kind, at, entry_id: at }) as Schemas['Event'];

  it('gives top-ups close together one label, and turns it at the end of the line', () => {
    const rows = [
      at('service', '2025-01-01T08:00:00Z'),
      at('top_up', '2025-06-01T08:00:00Z'),
      at('top_up', '2025-12-20T08:00:00Z'),
      at('top_up', '2025-12-27T08:00:00Z'),
      at('top_up', '2025-12-31T08:00:00Z'),
    ];
    expect(marksOf(rows).map((mark) => mark.label)).toEqual(['service', 'top-up', '3 top-ups', '', '']);
    expect(marksOf(rows).map((mark) => mark.atEnd)).toEqual([false, false, true, false, false]);
  });

  it('stands where there is one mark alone', () => {
    expect(marksOf([at('service', '2025-01-01T08:00:00Z')])).toHaveLength(1);
  });
});
