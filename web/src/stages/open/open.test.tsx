import { cleanup, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../../api/client';
import type { Recorder } from '../../bench/useRecorder';
import { aBench, inApp, saying } from '../../testing';
import { type GateDraft, observed, UNFELT } from './gate';
import { OpenStage } from './OpenStage';

const ticked: Schemas['Ready'][] = ['supported', 'tray'];
const asked: Schemas['Asked'][] = ticked.map((ready) => ({ ready, name: `${ready} is ready` }));
const gate = (part: Partial<Schemas['Gate']> = {}): Schemas['Gate'] => ({
  open: false,
  reasons: [saying('Two signs first.')],
  asked: [],
  asked_drain: asked,
  observed: false,
  observed_at: null,
  by: '',
  by_id: '',
  ...part,
});
const bench = (given: Schemas['Gate']) => aBench({ stage: 'open', gate: given });

let opens = true;
beforeEach(() => {
  localStorage.clear();
  vi.stubGlobal('fetch', async (request: Request) => {
    const body = request.url.includes('/preview') ? { state: { gate: gate({ open: opens, observed: true }) } } : {};
    return new Response(JSON.stringify(body), { headers: { 'Content-Type': 'application/json' } });
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('what is felt', () => {
  const felt = (part: Partial<GateDraft>) =>
    observed({ ...UNFELT, held: 'yes', soft: 'yes', ready: ticked, ...part }, asked, 'us');

  it('becomes a fact in the units of the core, ticks of other loops left out', () => {
    const fact = felt({
      warmth: 'probe',
      temperature: { text: '88', unit: 'degF' },
      pressure: 'gauge',
      gauge: { text: '0', unit: 'psi' },
      ready: ['preheater_off', ...ticked],
    });
    expect(fact).toMatchObject({ kind: 'gate_observed', facts: { gauge_kpa: 0, ready: ticked } });
    const facts = (fact as { facts: { temperature_c: number; held?: boolean } }).facts;
    expect(facts.temperature_c).toBeCloseTo(31.1, 1);
    expect(facts.held).toBeUndefined();
  });

  it.each<[Partial<GateDraft>, string]>([
    [{ held: 'open' }, 'Check cap and lower hose'],
    [{ soft: 'open' }, 'Squeeze the upper hose'],
    [{ ready: ['tray'] }, 'Tick what is ready'],
    [{ warmth: 'infrared' }, 'How warm is it?'],
    [{ warmth: 'probe', temperature: { text: 'warm', unit: 'degC' } }, 'Fix the temperature'],
    [{ pressure: 'gauge' }, 'What does the gauge show?'],
  ])('%j waits: %s', (part, waits) => {
    expect(felt(part)).toBe(waits);
  });
});

describe('OpenStage', () => {
  const show = (given: Schemas['Gate']) => {
    const record = vi.fn();
    const recorder: Recorder = { record, busy: false, refusal: null, forget: () => undefined };
    inApp(<OpenStage bench={bench(given)} recorder={recorder} />);
    return record;
  };
  const plate = () => screen.getByTestId('go');
  const feel = async () => {
    await userEvent.click(screen.getByText('held, both'));
    await userEvent.click(screen.getByText('soft'));
    await userEvent.click(within(screen.getByLabelText('Ready')).getByText('All ready'));
  };

  it('waits for both signs and for what stands ready, one after the other', async () => {
    show(gate());
    expect(plate().textContent).toContain('Check cap and lower hose');
    await userEvent.click(screen.getByText('held, both'));
    expect(plate().textContent).toContain('Squeeze the upper hose');
    await userEvent.click(screen.getByText('soft'));
    expect(plate().textContent).toContain('Tick what is ready');
  });

  it('is passed only as the core says', async () => {
    const record = show(gate());
    await feel();
    await waitFor(() => expect(plate().textContent).toContain('Confirm safe to open'));
    await userEvent.click(plate());
    const [fact] = record.mock.calls[0]?.[0] as { kind: string; facts: { held: boolean; soft: boolean } }[];
    expect(fact).toMatchObject({ kind: 'gate_observed', facts: { held: true, soft: true } });
  });

  it('records a gate that stays shut as what it is', async () => {
    opens = false;
    show(gate({ observed: true, reasons: [saying('58 °C is not under 45 °C: wait.')], by: 'Tomo Reik' }));
    expect(screen.getByTestId('gate').textContent).toContain('Not safe to open. 58 °C is not under 45 °C: wait.');
    await feel();
    await waitFor(() => expect(plate().textContent).toContain('Record: not safe yet'));
    opens = true;
  });

  it('asks whoever comes next to feel it again', () => {
    show(gate({ open: true, observed: true, by: 'Tomo Reik', reasons: [saying('31 °C, hose soft.')] }));
    expect(screen.getByTestId('gate').textContent).toContain(
      'Tomo Reik made the check. Whoever opens it must make it.',
    );
  });
});
