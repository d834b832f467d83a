import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import type { Recorder } from '../bench/useRecorder';
import { aBench, inApp } from '../testing';
import { ReadingSum } from './verify/ReadingSum';
import { IdentifyStage } from './identify/IdentifyStage';

const choice = (id: number, name: string, verdict: Schemas['Verdict'], short: string): Schemas['Choice'] => ({
  product: {
    id,
    name,
    base: 'ethylene',
    family: 'oat',
    form: 'concentrate',
    glycol_mass_percent: 95,
    standards: [],
    strength_percent: 100,
    container_sizes_l: [5],
    price_per_l: null,
  },
  cost: null,
  supplies: [],
  judged: {
    verdict,
    short,
    old_limit_percent: 5,
    reasons: [{ code: 'r', sentence: `Because of ${name}.`, weight: verdict === 'no' ? 3 : 0 }],
  },
});

const bench = aBench(
  {},
  {
    choices: [choice(1, 'Winterline O', 'fits', 'fits'), choice(2, 'Old Guard S', 'no', 'no, maker requires another')],
  },
);

beforeEach(() => {
  localStorage.clear();
  localStorage.clear();
  vi.stubGlobal('fetch', async () => new Response('{}', { status: 500 }));
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('IdentifyStage', () => {
  const show = () => {
    const record = vi.fn();
    const recorder: Recorder = { record, busy: false, refusal: null, forget: () => undefined };
    inApp(<IdentifyStage bench={bench} recorder={recorder} />);
    return record;
  };
  const plate = () => screen.getByTestId('go');

  it('waits for a product, and refuses one that does not fit with its reason in sight', async () => {
    const record = show();
    expect(plate().textContent).toContain('Choose a coolant');
    await userEvent.click(screen.getByText('Old Guard S'));
    expect(screen.getByText('Because of Old Guard S.')).toBeTruthy();
    expect(plate().textContent).toContain('Old Guard S is not suitable: choose another');
    await userEvent.click(plate());
    expect(record).not.toHaveBeenCalled();
  });

  it('records the choice with climate and margin, and the freeze point as found only if it was typed', async () => {
    const record = show();
    await userEvent.click(screen.getByText('Winterline O'));
    await userEvent.click(plate());
    const planned = { kind: 'planned', facts: { product_id: 1, coldest_c: -38, margin_k: 5, reason: '' } };
    expect(record.mock.calls[0]?.[0]).toEqual([planned]);
    await userEvent.type(screen.getByLabelText(/As found/, { selector: 'input' }), '-19,5');
    await userEvent.click(plate());
    expect(record.mock.calls[1]?.[0]).toEqual([
      { kind: 'read', facts: { value: -19.5, place: 'as_found', branch: 'lean' } },
      planned,
    ]);
  });

  it('does not take a freeze point that cannot be', async () => {
    show();
    await userEvent.click(screen.getByText('Winterline O'));
    await userEvent.type(screen.getByLabelText(/As found/, { selector: 'input' }), '-70');
    expect(screen.getByRole('alert').textContent).toContain('must be between');
    expect(plate().textContent).toContain('Fix the freeze point as found');
  });

  it('says that nothing is recorded while something is typed', async () => {
    show();
    expect(screen.queryByText(/not recorded yet/)).toBeNull();
    await userEvent.click(screen.getByText('Winterline O'));
    expect(screen.getByText(/not recorded yet/)).toBeTruthy();
  });
});

describe('ReadingSum', () => {
  const answer: Schemas['ReadingOut'] = {
    refractive_index_20c: 1.389,
    glycol_mass_percent: 55.9,
    strength_percent: 56.4,
    freeze_c: -44.6,
    freeze_below_c: null,
    boil_c: 108,
    spread: { freeze_c: 1.5, strength_percent: 1 },
    below_detection: false,
    flags: [],
  };
  const show = (given: Schemas['ReadingOut']) =>
    inApp(<ReadingSum answer={given} value={-46.6} zero={-0.4} glycol="ethylene" scale="freeze_ethylene" />);

  it('takes the zero off in strength and closes on its face', async () => {
    vi.stubGlobal(
      'fetch',
      async () => new Response(JSON.stringify({ ...answer, glycol_mass_percent: 57.2 }), { status: 200 }),
    );
    show(answer);
    expect(screen.getByTestId('corrected').textContent).toBe('\u221244.6');
    await waitFor(() => expect(screen.getByText('57.2 % − 1.3 % = 55.9 %')).toBeTruthy());
  });

  it('invents no number off the scale', () => {
    const flags = [{ code: 'off_scale', message: 'Past the end of the scale: no number is known.' }];
    show({ ...answer, glycol_mass_percent: null, freeze_c: null, spread: null, flags });
    expect(screen.getByText(/no number is known/)).toBeTruthy();
    expect(screen.queryByTestId('corrected')).toBeNull();
  });

  it('shows what must be known of a reading', () => {
    show({ ...answer, flags: [{ code: 'other_scale', message: 'Read on the propylene scale.' }] });
    expect(screen.getByText('Read on the propylene scale.')).toBeTruthy();
  });
});
