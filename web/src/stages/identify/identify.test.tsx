import { cleanup, screen, within } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../../api/client';
import { inApp } from '../../testing';
import { Chooser, durationWords } from './Chooser';
import { insideWrong, meteredFact, toldFact, type InsideDraft } from './inside';

afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

const choice = (cost: Partial<Schemas['ChangeCost']> | null): Schemas['Choice'] =>
  ({
    product: { id: 1, name: 'Longhaul N', base: 'ethylene', family: 'noat', form: 'concentrate' },
    judged: {
      verdict: 'fits_after_change_out',
      short: 'fits after changing type',
      old_limit_percent: 5,
      reasons: [{ code: 'other_family', sentence: 'Inside is another family.', weight: 1 }],
    },
    cost: cost && {
      rinses: 2,
      rinse_water_l: 83.5,
      product_l: 30.2,
      mix_water_l: 12,
      waste_l: 125,
      hands_min: 95,
      wait_min: { low: 130, high: 320 },
      price: 210.4,
      old_percent: 1.3,
      reason: null,
      ...cost,
    },
  }) as unknown as Schemas['Choice'];

describe('what a change costs', () => {
  const show = (cost: Partial<Schemas['ChangeCost']> | null) => {
    vi.stubGlobal('fetch', async () => new Response('{}', { status: 500 }));
    const one = choice(cost);
    inApp(<Chooser choices={[one]} picked={one} onPick={() => undefined} />);
  };

  it('stands beside its verdict: rinses, litres, time and money', () => {
    show({});
    const cost = within(screen.getByTestId('cost'));
    for (const said of ['83.5 L', '125.0 L', 'about 1 h 30', '2 h 15 to 5 h 15', '210'])
      cost.getByText(new RegExp(said));
    screen.getByText('2 rinses, 83.5 L water');
  });

  it('says that the limit is out of reach rather than a number of rinses', () => {
    show({
      rinses: null,
      reason: { code: 'x', sentence: 'Too little comes out.', template: 'Too little comes out.', values: {} },
    });
    screen.getByText('too many rinses');
    screen.getByText('Too little comes out.');
  });

  it('is left out where the core gives none', () => {
    show(null);
    expect(screen.queryByTestId('cost')).toBeNull();
  });

  it.each([
    [12, '10 min'],
    [58, '1 h'],
    [61, '1 h'],
    [95, '1 h 30'],
    [320, '5 h 15'],
  ])('%d minutes are "%s"', (minutes, said) => {
    expect(durationWords(minutes)).toBe(said);
  });
});

describe('what a person says of the filling', () => {
  const draft: InsideDraft = {
    base: 'unknown',
    family: 'oat',
    toppedUp: 'water',
    changedOn: '',
    changedKm: { text: '', unit: 'mi' },
    changedHours: '900',
    km: { text: '100', unit: 'mi' },
    hours: '1200',
    replaced: false,
  };

  it('is told with what is unknown left open', () => {
    expect(toldFact(draft, 'us').facts).toEqual({
      base: null,
      family: 'oat',
      topped_up: 'water',
      changed_on: null,
      changed_km: null,
      changed_hours: 900,
    });
    expect(toldFact({ ...draft, base: 'none' }, 'us').facts).toMatchObject({ base: 'none', family: 'glycol_free' });
  });

  it('has meters in kilometres, or none', () => {
    expect((meteredFact(draft, 'us')?.facts as { distance_km: number }).distance_km).toBeCloseTo(160.93, 2);
    expect(meteredFact({ ...draft, km: { text: '', unit: 'km' }, hours: '' }, 'metric')).toBeNull();
  });

  it('is wrong where it cannot be read', () => {
    expect(insideWrong({ ...draft, hours: 'many' }, 'us')).toBe(true);
    expect(insideWrong(draft, 'us')).toBe(false);
  });
});
