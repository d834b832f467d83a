import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../../api/client';
import { inApp, plain } from '../../testing';
import { batchQuestion } from './batch';
import { Cans } from './panels/Cans';
import { Heat } from './panels/Heat';
import { HowSure } from './panels/HowSure';
import { OtherWays } from './panels/OtherWays';
import { PourPanel } from './panels/PourPanel';
import { readyMixChoice, readyMixQuestion } from './readyMix';
import type { MixController } from './useMixController';

const product = (form: Schemas['Form'], more: Partial<Schemas['ProductOut']> = {}): Schemas['ProductOut'] => ({
  id: form === 'concentrate' ? 1 : 2,
  name: form,
  base: 'ethylene',
  family: 'oat',
  form,
  glycol_mass_percent: form === 'concentrate' ? 95 : 50,
  strength_percent: form === 'concentrate' ? 100 : 50,
  standards: [],
  container_sizes_l: [5, 20],
  price_per_l: '6.40',
  ...more,
});

const row = (of: Schemas['ProductOut'], verdict: Schemas['Verdict'] = 'fits') =>
  ({
    product: of,
    judged: { verdict, short: verdict, old_limit_percent: 5, reasons: [] },
    cost: null,
    supplies: [],
  }) as Schemas['Choice'];

const bench = {
  loop: { id: 1, capacity_l: 32, cap_gauge_kpa: 103, room_l: 2 },
  choices: [row(product('concentrate')), row(product('ready_mix'))],
  altitude_m: 1120,
  currency: 'EUR',
  policy: { bay_c: 10, hot_c: 95, corrosion_minimum_percent: 40, thumb_percent: 60, bucket_l: 25, jug_l: 5 },
} as unknown as Schemas['Bench'];

const mix = {
  feasible: true,
  concentrate_l: 18.3,
  water_l: 6.6,
  kept_back_l: 0.4,
  blend_percent: 73.5,
  final: { strength_percent: 56.5, poured_percent: 56.5, freeze_c: -45 },
  inputs: [
    {
      name: 'loop_volume_l',
      sd: 1.6,
      half: 3.136,
      share_percent: 92,
      measured_sd: 0.32,
      freeze_c_low: -47,
      freeze_c_high: -43.2,
    },
    { name: 'glycol_mass_percent', sd: 0.5, half: 0.98, share_percent: 7.6 },
    { name: 'drained_l', sd: 0.2, half: 0.392, share_percent: 0.4 },
  ],
  warnings: [],
} as unknown as Schemas['MixOut'];

const controller = (change = vi.fn()): MixController =>
  ({
    product: product('concentrate'),
    glycol: 'ethylene',
    target: { ok: true, base: -45, unit: 'degC' },
    draft: { beSure: false, atHand: {} },
    question: {
      glycol: 'ethylene',
      loop_volume_l: 32,
      inside: { volume_l: 7.5 },
      target_freeze_c: -45,
      concentrate: { glycol_mass_percent: 95 },
    },
    change,
  }) as unknown as MixController;

const ANSWERS: Record<string, unknown> = {
  batch: {
    whole: [{ size_l: 5, count: 3 }],
    whole_cans: 3,
    whole_l: 15,
    needed: [{ size_l: 5, count: 4 }],
    water_l: 6.2,
    part: { size_l: 5, pour_l: 3.3, stays_l: 1.7 },
    to_buy: [{ size_l: 5, count: 4 }],
    left_over_l: 1.7,
    short_l: 0,
    buckets: { count: 1, product_mark_l: 18.3, full_mark_l: 24.5 },
    water: { size_l: 5, whole: 1, last_mark_l: 1.2 },
    cost_used: 117.12,
    cost_bought: 128,
  },
  boil: { absolute_kpa: 191.5, boil_c: 127.8, margin_c: 32.8 },
  expansion: { rise_l: 1.8, fits: true, extrapolated: false },
};

let asked: Record<string, unknown[]> = {};

beforeEach(() => {
  localStorage.clear();
  asked = {};
  vi.stubGlobal('fetch', async (request: Request) => {
    const name = request.url.split('/').at(-1) ?? '';
    const body = (await request.json()) as Record<string, unknown>;
    (asked[name] ??= []).push(body);
    const strength = (body.ready_mix as { strength_percent: number } | undefined)?.strength_percent;
    const ready = {
      ready_mix_l: 24.5,
      final: { freeze_c: -22.6 - ((strength ?? 50) - 50) },
      misses_by_c: 22.4 - ((strength ?? 50) - 50),
      boost: strength === 50 ? { concentrate_l: 11.7, ready_mix_l: 13 } : null,
    };
    return new Response(JSON.stringify(ANSWERS[name] ?? ready), { headers: { 'Content-Type': 'application/json' } });
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('the questions a worksheet asks', () => {
  it('names the ready-mix of the same kind, and none that may not go in', () => {
    expect(readyMixChoice(bench, product('concentrate'))?.product.form).toBe('ready_mix');
    const refused = { ...bench, choices: [row(product('ready_mix'), 'no')] };
    expect(readyMixChoice(refused, product('concentrate'))).toBeUndefined();
    const other = { ...bench, choices: [row(product('ready_mix', { base: 'propylene' }))] };
    expect(readyMixChoice(other, product('concentrate'))).toBeUndefined();
  });

  it('asks for the loop as the mix does, and not suitable while something is missing', () => {
    expect(readyMixQuestion(controller(), 50)).toMatchObject({
      loop_volume_l: 32,
      ready_mix: { strength_percent: 50 },
    });
    expect(readyMixQuestion(controller(), null)).toBeNull();
    expect(readyMixQuestion({ ...controller(), question: null }, 50)).toBeNull();
  });

  it('sends the largest sizes first with what stands here, and the price as a number', () => {
    const c = { ...controller(), draft: { beSure: false, atHand: { '5': 2 } } } as unknown as MixController;
    const question = batchQuestion(bench, c, mix);
    expect(question?.containers).toEqual([
      { size_l: 20, at_hand: 0 },
      { size_l: 5, at_hand: 2 },
    ]);
    expect(question).toMatchObject({ price_per_l: 6.4, bucket_l: 25, jug_l: 5, kept_back_l: 0.4 });
  });
});

describe('PourPanel', () => {
  it('says whole cans, what stays in the last one, and what is kept back', async () => {
    inApp(<PourPanel bench={bench} c={controller()} mix={mix} />);
    expect(plain((await screen.findByTestId('step-whole')).textContent)).toContain('3 × 5 L, whole');
    expect(plain(screen.getByTestId('step-part').textContent)).toContain('1.7 L stays');
    expect(plain(screen.getByTestId('step-water').textContent)).toContain('0.4 L kept');
    expect(plain(screen.getByTestId('step-water').textContent)).toContain('6.2 L demin. water');
    expect(plain(screen.getByTestId('step-pour').textContent)).toContain('then top up with the 0.4 L');
  });
});

describe('OtherWays', () => {
  it('shows where each would end, the plan first', async () => {
    inApp(<OtherWays bench={bench} c={controller()} mix={mix} />);
    await screen.findByText(/some concentrate/);
    await screen.findByText(/Rule of thumb, 60 %/);
    const rows = screen.getAllByRole('row').map((each) => each.textContent);
    expect(rows[0]).toContain('reaches it');
    expect(rows.filter((text) => text?.includes(' short'))).toHaveLength(3);
    expect(plain(rows.join())).toContain('22.4 °C short');
  });
});

describe('OtherWays of a ready-mix', () => {
  it('is as it is, and the shot of its own kind where there is one', async () => {
    const c = { ...controller(), product: product('ready_mix') } as MixController;
    const asItIs = { ...mix, water_l: 0, feasible: false, reason: { code: 'x', message: '', misses_by_c: 1 } };
    inApp(<OtherWays bench={bench} c={c} mix={asItIs as unknown as Schemas['MixOut']} />);
    await screen.findByText(/some concentrate/);
    const rows = screen.getAllByRole('row').map((each) => each.textContent);
    expect(rows).toHaveLength(2);
    expect(rows[0]).toContain('undiluted');
    expect(plain(rows[0])).toContain('1.0 °C short');
    expect(asked['ready-mix']?.[0]).toMatchObject({ concentrate: { glycol_mass_percent: 95 } });
  });
});

describe('HowSure', () => {
  it('leaves out what hardly matters, and says what measuring would gain', () => {
    inApp(<HowSure c={controller()} mix={mix} />);
    const text = screen.getAllByRole('listitem').map((each) => each.textContent);
    expect(text).toHaveLength(2);
    expect(plain(text[0])).toContain('Capacity ±3.1 L: 92 % of the uncertainty. If measured: −47 °C to −43 °C.');
    expect(text[1]).not.toContain('If');
  });

  it('plans to be sure when asked', async () => {
    const change = vi.fn();
    inApp(<HowSure c={controller(change)} mix={mix} />);
    await userEvent.click(screen.getByRole('checkbox', { name: /Guarantee −45\s°C/ }));
    expect(change).toHaveBeenCalledWith({ beSure: true });
  });
});

describe('Cans', () => {
  it('says what is needed until somebody counts, then what is short', async () => {
    const { unmount } = inApp(<Cans bench={bench} c={controller()} mix={mix} />);
    expect(plain((await screen.findByTestId('to-buy')).textContent)).toBe('Needs 4 × 5 L.');
    expect(document.body.textContent).toContain('117.12 EUR poured');
    unmount();
    const counted = { ...controller(), draft: { beSure: false, atHand: { '5': 0 } } } as unknown as MixController;
    inApp(<Cans bench={bench} c={counted} mix={mix} />);
    expect(plain((await screen.findByTestId('to-buy')).textContent)).toBe('Not enough: fetch or buy 4 × 5 L.');
    expect(document.body.textContent).toContain('128.00 EUR to buy');
  });

  it('counts in the draft', async () => {
    const change = vi.fn();
    inApp(<Cans bench={bench} c={controller(change)} mix={mix} />);
    await userEvent.click(screen.getByLabelText('20 L cans in stock: more'));
    expect(change).toHaveBeenCalledWith({ atHand: { '20': 1 } });
  });

  it('says so where no size is known', () => {
    const c = { ...controller(), product: product('concentrate', { container_sizes_l: [] }) } as MixController;
    inApp(<Cans bench={bench} c={c} mix={mix} />);
    expect(document.body.textContent).toContain('No container sizes are known');
  });
});

describe('Heat', () => {
  it('counts cap, altitude and room in', async () => {
    inApp(<Heat bench={bench} c={controller()} mix={mix} />);
    expect(plain((await screen.findByTestId('boil')).textContent)).toContain(
      'Boils at 128 °C under its 103 kPa cap at 1120 m, 32.8 °C above 95 °C.',
    );
    expect(plain((await screen.findByTestId('rise')).textContent)).toContain(
      '2.0 L of room above the cold mark: fits.',
    );
    expect(asked.boil?.[0]).toMatchObject({ altitude_m: 1120, cap_gauge_kpa: 103, operating_c: 95 });
  });

  it('claims no cap it does not know, and says what will be pushed out', async () => {
    ANSWERS.expansion = { rise_l: 2.4, fits: false, extrapolated: false };
    const unknown = { ...bench, loop: { ...bench.loop, cap_gauge_kpa: null } };
    inApp(<Heat bench={unknown} c={controller()} mix={mix} />);
    expect((await screen.findByTestId('boil')).textContent).toContain('without pressure');
    expect((await screen.findByTestId('rise')).textContent).toContain('will be pushed out');
    expect(asked.boil?.[0]).toMatchObject({ cap_gauge_kpa: 0 });
  });
});
