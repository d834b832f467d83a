import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../../api/client';
import type { Recorder } from '../../bench/useRecorder';
import { aBench, inApp, saying, plain } from '../../testing';
import { toPour, wayOf } from './PourSheet';
import { BleedSheet } from './BleedSheet';
import { PourLedger } from './PourLedger';
import { Runner } from './Runner';
import { ShutSheet } from './ShutSheet';
import { SignsSheet } from './SignsSheet';
import { SlipPanel } from './SlipPanel';
import { TopUpKeys } from './TopUpKeys';
import { UnderSheet } from './UnderSheet';

type Fill = Schemas['FillState'];
const step = (part: Partial<Schemas['BleedStepState']> = {}): Schemas['BleedStepState'] => ({
  number: 1,
  act: 'Idle, top up',
  seconds: 300,
  words: ['800 rpm', 'neck open'],
  heats: true,
  opens: false,
  top_up: true,
  ...part,
});
const run = (part: Partial<Schemas['BleedRunState']> = {}): Schemas['BleedRunState'] => ({
  entry_id: 'r',
  started_at: '2026-11-26T10:00:00Z',
  by: 'IH',
  step: 0,
  began_at: '2026-11-26T10:00:00Z',
  ends_at: null,
  left_s: 130,
  held: true,
  gate: false,
  over: false,
  ...part,
});
const fill = (part: Partial<Fill> = {}): Fill =>
  ({
    step: 'pour',
    closing: [],
    under: null,
    methods: [],
    vacuum: null,
    pours: [],
    expected_l: 24.5,
    accepted_l: 0,
    ends_freeze_c: null,
    ends_likely: null,
    slip: null,
    air: null,
    top_ups: null,
    bleed: {
      recipe: { name: 'Degas tank', steps: [] },
      steps: [step(), step({ number: 2, act: 'Lift the funnel', seconds: null, opens: true })],
      run: null,
      attempts: 0,
      outcome: null,
      signs: [],
      asked: [
        { sign: 'heater_hot', name: 'Heater blows hot' },
        { sign: 'bottom_hot', name: 'Bottom hose hot' },
      ],
      said: null,
    },
    ...part,
  }) as Fill;
const plan = {
  product: { id: '1', name: 'Winterline O' },
  coldest_c: -38,
  margin_k: 5,
  target_freeze_c: -45,
  concentrate_l: 18,
  water_l: 6,
} as Schemas['PlanState'];
const poured = { product_l: 5, water_l: 4, left_product_l: 13, left_water_l: 2, room_l: 15, at_mark: false };
const bench = (given: Partial<Fill>, state: Partial<Schemas['LoopState']> = {}) =>
  aBench({
    stage: 'fill',
    fill: fill(given),
    plan,
    poured,
    top_up_share: 0.75,
    gate: { open: false, reasons: [], by_id: '' } as unknown as Schemas['Gate'],
    ...state,
  });
const recorder = () =>
  ({ record: vi.fn(), busy: false, refusal: null, forget: vi.fn() }) as unknown as Recorder & {
    record: ReturnType<typeof vi.fn>;
  };
/** The facts of the first entry that was recorded. */
const recorded = (r: { record: ReturnType<typeof vi.fn> }) =>
  (r.record.mock.calls[0]?.[0] as { facts: Record<string, number | boolean> }[])[0]?.facts ?? {};

beforeEach(() => {
  localStorage.clear();
  vi.stubGlobal('fetch', async () => new Response('{}', { headers: { 'Content-Type': 'application/json' } }));
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});
const plate = () => screen.getByTestId('go');

describe('the closing check', () => {
  const closing = [
    { key: 'drain:A', act: 'Shut A', detail: 'radiator', tap: 'A', done: false },
    { key: 'cap', act: 'The right cap is ready', detail: '', tap: '', done: false },
  ];

  it('names what is still to be felt, and records all at once', async () => {
    const r = recorder();
    inApp(<ShutSheet bench={bench({ step: 'shut', closing })} recorder={r} />);
    expect(plate().textContent).toContain('0 of 2 done: Shut A');
    await userEvent.click(screen.getByRole('checkbox', { name: /Shut A/ }));
    expect(plate().textContent).toContain('1 of 2 done: The right cap');
    await userEvent.click(plate());
    expect(r.record).not.toHaveBeenCalled();
    await userEvent.click(screen.getByRole('checkbox', { name: /right cap/ }));
    await userEvent.click(plate());
    expect(r.record.mock.calls[0]?.[0]).toEqual([{ kind: 'closed', facts: { points: ['drain:A', 'cap'] } }]);
  });
});

describe('a look underneath', () => {
  it('asks where dripping before it is recorded', async () => {
    const r = recorder();
    inApp(<UnderSheet bench={bench({ step: 'under' })} recorder={r} />);
    await userEvent.click(screen.getByRole('button', { name: 'dripping' }));
    expect(plate().textContent).toContain('Where does it drip?');
    await userEvent.type(screen.getByLabelText('Where'), 'lower hose');
    await userEvent.click(plate());
    expect(r.record.mock.calls[0]?.[0]).toEqual([{ kind: 'looked_under', facts: { dry: false, where: 'lower hose' } }]);
  });
});

describe('a slip', () => {
  const slip = {
    kind: 'loop_strength' as const,
    entry_id: 'e',
    said: saying('Blended at the loop strength.'),
    unless_c: -29.2,
    unless: saying('If the rest is mixed the same way, it ends at −29.2 °C.'),
    replan: { product_l: 12.7, water_l: 2.1, feasible: true, freeze_c: -45, said: saying('Pour 12.7 and 2.1.') },
  };

  it('is answered with where it ends and a plan that is taken in one press', async () => {
    const r = recorder();
    inApp(<SlipPanel state={bench({ slip }).state} recorder={r} />);
    expect(screen.getByTestId('slip').textContent).toContain('ends at −29.2 °C');
    await userEvent.click(screen.getByRole('button', { name: 'Use the new plan' }));
    expect(recorded(r)).toMatchObject({ concentrate_l: 12.7, water_l: 2.1, target_freeze_c: -45 });
  });

  it('past repair offers the best that is left, with its freeze point as the target', async () => {
    const r = recorder();
    const best = { ...slip, replan: { ...slip.replan, feasible: false, freeze_c: -31 } };
    inApp(<SlipPanel state={bench({ slip: best }).state} recorder={r} />);
    await userEvent.click(screen.getByRole('button', { name: /Accept −31\s°C/ }));
    expect(recorded(r).target_freeze_c).toBe(-31);
  });

  it('sets the fields to the new plan, else to what is left of the old one', () => {
    expect(toPour(bench({ slip }).state)).toEqual({ product: 12.7, water: 2.1 });
    expect(toPour(bench({}).state)).toEqual({ product: 13, water: 2 });
  });
});

describe('how it goes in', () => {
  const methods = (['gravity', 'hose', 'vacuum'] as const).map((method) => ({ method }) as Fill['methods'][number]);
  const pour = (method: string) => ({ method }) as Fill['pours'][number];

  it.each([
    ['as advised at first', {}, 'gravity'],
    ['as the last pour did', { pours: [pour('hose')] }, 'hose'],
    ['by the vacuum that was pulled', { vacuum: {} as Fill['vacuum'] }, 'vacuum'],
    ['by hand, what the vacuum left', { vacuum: {} as Fill['vacuum'], pours: [pour('vacuum')] }, 'gravity'],
    ['as advised, where the last way is not offered', { pours: [pour('points')] }, 'gravity'],
  ])('%s', (_, part, way) => {
    expect(wayOf(fill({ methods, ...part }))).toBe(way);
  });
});

describe('what is in so far', () => {
  it('counts up, and says what each pour came to with its interval', () => {
    const row = {
      entry_id: 'a',
      at: '2026-11-26T10:00:00Z',
      by: 'IH',
      product: 'Winterline O',
      product_l: 5.6,
      water_l: 4.4,
      total_l: 10,
      at_mark: false,
      bleeding: false,
      point: null,
      strength_percent: 32,
      freeze_c: -17.4,
      likely: { low: -19, high: -16 },
      method: 'gravity' as const,
    };
    inApp(<PourLedger fill={fill({ pours: [row] })} />);
    const text = screen.getByLabelText('Poured so far').textContent ?? '';
    expect(plain(text)).toContain('of about 24.5 L');
    expect(plain(text)).toContain('5.6 L Winterline O + 4.4 L water');
    expect(plain(text)).toContain('−17.4 °C');
    expect(plain(text)).toContain('−19 °C to −16 °C');
  });
});

describe('the guided steps', () => {
  const running = (part: Partial<Schemas['BleedRunState']>) =>
    bench({ step: 'bleed', bleed: { ...fill().bleed, run: run(part) } });

  it('shows what is left of a held step and goes on', async () => {
    const r = recorder();
    inApp(<Runner bench={running({})} recorder={r} />);
    expect(screen.getByRole('timer').textContent).toBe('02:10');
    await userEvent.click(screen.getByRole('button', { name: 'Continue' }));
    expect(r.record.mock.calls[0]?.[0]).toEqual([{ kind: 'bleed_goes_on', facts: {} }]);
  });

  it('stops for the gate where the next step opens what ran shut', () => {
    inApp(<Runner bench={running({ gate: true, held: false, left_s: 0 })} recorder={recorder()} />);
    expect(plate().textContent).toContain('Engine off: check it is safe');
    expect(screen.getByTestId('runner').textContent).toContain('safe to open');
  });

  it('ends in a branch with what was seen', async () => {
    const r = recorder();
    inApp(<Runner bench={running({})} recorder={r} />);
    await userEvent.click(screen.getByRole('button', { name: 'Something is wrong' }));
    await userEvent.click(screen.getByRole('button', { name: /Overheating/ }));
    expect(r.record.mock.calls[0]?.[0]).toEqual([
      { kind: 'bleed_ended', facts: { outcome: 'overheating', signs: [] } },
    ]);
  });

  it('logs a top-up of the blend as litres and share: the core splits it', async () => {
    const r = recorder();
    inApp(<TopUpKeys bench={running({})} recorder={r} />);
    await userEvent.type(screen.getByLabelText('Topped up to the mark with'), '0.8');
    await userEvent.click(screen.getByText('demineralised'));
    await userEvent.click(screen.getByRole('button', { name: /Record 0.8\sL/ }));
    const facts = recorded(r);
    expect(facts.bleeding).toBe(true);
    expect(facts).toMatchObject({ mixture_l: 0.8, product_share: 0.75, water: 'demineralised' });
  });

  const hot = { gate: { open: false, ran_shut: true, reasons: [], by_id: '' } as unknown as Schemas['Gate'] };

  it('offers no top-up while it runs shut', () => {
    inApp(<Runner bench={bench({ bleed: { ...fill().bleed, run: run({}) } }, hot)} recorder={recorder()} />);
    expect(screen.getByTestId('no-top-up').textContent).toContain('safe to open');
    expect(screen.queryByLabelText('Topped up to the mark with')).toBeNull();
  });

  it('asks for the two signs after it overheated, and offers the top-up once they are given', () => {
    const bleed = { ...fill().bleed, attempts: 1, outcome: 'overheating' as const, level_first: true };
    inApp(<BleedSheet bench={{ ...bench({ bleed }, hot), recipes: [] }} recorder={recorder()} />);
    expect(plate().textContent).toContain('Check it is safe to open');
    expect(screen.queryByLabelText('Topped up to the mark with')).toBeNull();
    cleanup();
    inApp(<BleedSheet bench={{ ...bench({ bleed }), recipes: [] }} recorder={recorder()} />);
    expect(plate().textContent).toContain('Bleed again');
    expect(screen.getByLabelText('Topped up to the mark with')).toBeTruthy();
  });

  it('takes two signs to say that the air is out', async () => {
    const r = recorder();
    inApp(<SignsSheet bench={running({})} recorder={r} onBack={vi.fn()} />);
    await userEvent.click(screen.getByRole('checkbox', { name: 'Heater blows hot' }));
    expect(plate().textContent).toContain('One more sign');
    await userEvent.click(screen.getByRole('checkbox', { name: 'Bottom hose hot' }));
    await userEvent.click(plate());
    expect(r.record.mock.calls[0]?.[0]).toEqual([
      { kind: 'bleed_ended', facts: { outcome: 'finished', signs: ['heater_hot', 'bottom_hot'] } },
    ]);
  });
});
