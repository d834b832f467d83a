import { cleanup, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { MemoryRouter } from 'react-router';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { inApp, plain } from '../testing';
import { temperatureText } from '../units/units';
import { Bands } from './Bands';
import { BrokenRows } from './BrokenRows';
import { ago, rowTime } from './rowTime';
import { Side } from './Side';

const NOW = Date.parse('2026-11-30T12:00:00Z');
const before = (minutes: number) => new Date(NOW - minutes * 60_000).toISOString();
const words = (template: string, values = {}) => ({ template, values });
const machine = { id: 1, fleet_number: 'G-07', kind: 'Piste groomer', description: '', year: null };

function strip(
  part: Partial<Schemas['Strip']> & { number?: string; row?: Partial<Schemas['BoardRow']> },
): Schemas['Strip'] {
  const { number = 'G-07', row, ...rest } = part;
  return {
    machine: { ...machine, fleet_number: number },
    loop_id: number.charCodeAt(0),
    loop_name: 'Engine',
    loop_position: 1,
    loops_on_machine: 1,
    capacity_l: 32,
    wait: { kind: 'hands', timer: null, since: before(43), until: null },
    band: 'your_turn',
    parking: 'bay',
    frost_low_c: null,
    by: { id: 1, username: 'ines', name: 'Ines Hale', initials: 'IH', role: 'technician' },
    ...rest,
    row: {
      stage: 'mix',
      stages: [],
      act: words('Set the target, accept the mix'),
      then: words('then mix and fill'),
      inside: words('Drained'),
      protects: words('keep indoors'),
      timers: [],
      claim: { why: 'weakest_vessel', freeze_c: -1, safe_to_c: -1 },
      frost_risk: true,
      changed_at: before(43),
      ...row,
    },
  };
}

const cold = (celsius: number) => temperatureText(celsius, 'metric', 0);
const wait = (part: Partial<Schemas['Wait']>): Schemas['Wait'] => ({
  kind: 'hands',
  timer: null,
  since: null,
  until: null,
  ...part,
});

beforeEach(() => localStorage.clear());
afterEach(cleanup);

describe('the time of a row', () => {
  it.each([
    [{ wait: wait({ kind: 'limit', timer: 'cleaner', since: before(5) }) }, '+5 min', 'over limit'],
    [{ wait: wait({ timer: 'warm_up', since: before(3) }) }, '+3 min', 'warm-up over'],
    [{ wait: wait({ kind: 'paused', since: before(9) }), frost_low_c: -12 }, 'tonight', '−12 °C'],
    [{ wait: wait({ since: before(43) }) }, '43 min', 'waiting'],
    [{ wait: wait({ timer: 'cooling', since: before(4) }) }, '4 min', 'may be cold'],
    [{ wait: wait({ kind: 'counting', timer: 'bleed', until: before(-1.5) }) }, '01:30', 'bleed'],
    [{ wait: wait({ kind: 'cooling', timer: 'cooling', until: before(-16) }) }, '~15 min', 'to cool'],
    [{ wait: wait({ kind: 'paused', since: before(60 * 30) }) }, '30 h', 'paused'],
  ] as const)('%#', (part, head, text) => {
    const said = rowTime(strip(part as Partial<Schemas['Strip']>), NOW, cold);
    expect([plain(said.head), plain(said.text)]).toEqual([head, text]);
  });

  it('is said in a word or two, however long ago', () => {
    expect([0, 100, 130, 60 * 60].map((minutes) => ago(before(minutes), NOW))).toEqual([
      'now',
      '100 min',
      '2 h',
      '3 days',
    ]);
  });
});

describe('the bands', () => {
  const rows = [
    strip({ number: 'A-1', band: 'act_now' }),
    strip({ number: 'B-2' }),
    strip({ number: 'C-3', band: 'paused' }),
  ];
  const show = () =>
    inApp(
      <MemoryRouter>
        <Bands strips={rows} now={NOW} />
      </MemoryRouter>,
    );

  it('stand in their order with their number, and stay folded', async () => {
    show();
    expect(screen.getAllByRole('heading').map((one) => one.textContent?.match(/^\D+\d/)?.[0])).toEqual([
      'Act now 1',
      'Your turn 1',
      'Paused 1',
    ]);
    await userEvent.click(screen.getByRole('button', { name: /Paused/ }));
    expect(screen.queryByText('C-3')).toBeNull();
    cleanup();
    show();
    expect(screen.queryByText('C-3')).toBeNull();
    expect(screen.getByText('B-2')).toBeTruthy();
  });

  it('never fold what needs an act now', () => {
    show();
    expect(screen.queryByRole('button', { name: /Act now/ })).toBeNull();
  });
});

it('a record that cannot be calculated leads to its entries', () => {
  inApp(
    <MemoryRouter>
      <BrokenRows
        rows={[{ machine, loop_id: 21, loop_name: 'Engine', message: 'Open its record, undo the last entry.' }]}
      />
    </MemoryRouter>,
  );
  expect(screen.getByTestId('broken').textContent).toContain('cannot be calculated');
  expect(screen.getByTestId('broken').getAttribute('href')).toBe('/loops/21/record');
});

describe('beside the bands', () => {
  const due = (part: Partial<Schemas['ComingBack']>): Schemas['ComingBack'] => ({
    machine,
    loop_id: 4,
    loop_name: 'Engine',
    why: 'first',
    said: { code: '', sentence: '', template: 'Cold level.', values: {} },
    due_on: '2026-11-27',
    overdue: false,
    today: false,
    with_reading: false,
    ...part,
  });
  const board = (part: Partial<Schemas['Board']>) =>
    ({
      strips: [],
      overrides: [],
      finished: [],
      coming: [],
      frost: { season: 'free', starts_on: '2026-09-28', machines: 0, loud: 0 },
      broken: [],
      rejudged: [],
      server_time: '2026-11-30T12:00:00Z',
      night: { low: null, by: null, service: 'none', wrong: '', forecast_c: null },
      ...part,
    }) as Schemas['Board'];
  const show = (part: Partial<Schemas['Board']>) =>
    inApp(
      <MemoryRouter>
        <Side board={board(part)} zone="UTC" />
      </MemoryRouter>,
    );

  it('what is due says what and when, and has its key', () => {
    show({
      coming: [
        due({ overdue: true }),
        due({ why: null, loop_id: 5 }),
        due({ today: true, with_reading: true, loop_id: 6 }),
      ],
    });
    const rows = screen.getAllByRole('listitem');
    expect(rows.map((row) => row.querySelector('.sidetext b')?.textContent)).toEqual([
      'Level check overdue',
      'Service 27 Nov',
      'Reading today',
    ]);
    expect(
      within(rows[0] as HTMLElement)
        .getByRole('link', { name: 'Check G-07' })
        .getAttribute('href'),
    ).toBe('/loops/4/check');
    expect(
      within(rows[1] as HTMLElement)
        .getByRole('link', { name: 'Start G-07' })
        .getAttribute('href'),
    ).toBe('/machines?find=G-07');
  });

  it('what is worse by today’s rules leads to its record', () => {
    const said = { code: '', sentence: '', template: 'Keep it indoors.', values: {} };
    const row = {
      id: 9,
      machine,
      loop_id: 21,
      loop_name: 'Engine',
      signed_at: before(9),
      code: 'mixed_bases',
      said,
      act: said,
    };
    show({ rejudged: [row] });
    expect(screen.getByTestId('rejudged').getAttribute('href')).toBe('/loops/21/record');
    expect(screen.getByText('Keep it indoors.')).toBeTruthy();
  });
});
