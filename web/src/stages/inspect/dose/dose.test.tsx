import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../../../api/client';
import type { Recorder } from '../../../bench/useRecorder';
import { aBench, inApp, saying } from '../../../testing';
import { EMPTY, pendingOf, type TestDraft } from '../draft';
import { DoseSheet } from './DoseSheet';

const STRIPS = {
  check: 'inhibitor',
  name: 'Strips',
  how: '',
  outcomes: [],
  figures: [{ key: 'nitrite_mg_l', name: 'nitrite', unit: 'mg/l', kind: '', low: 0, high: 10000, required: false }],
} as unknown as Schemas['CheckRow'];

const OFFER = {
  agent: { id: 4, name: 'Linerdose' },
  dose: { ml: 730, at_most_mg_l: {}, said: saying('Pour 730 ml.') },
  refused: '',
} as unknown as Schemas['AdditiveChoice'];

const LINE = {
  inhibitor: 'nitrite_mg_l',
  allowed_low_mg_l: 800,
  allowed_high_mg_l: 3200,
  said: saying('Nitrite: 300.'),
};

let cans: Partial<Schemas['CanOut']>[] = [];
beforeEach(() => {
  cans = [{ id: 9, agent_id: 4, left_l: 0.4, emptied: false, number: 'C-007', lot: 'LD 77' }];
  vi.stubGlobal('fetch', async (request: Request) => {
    const { pathname } = new URL(request.url);
    const body =
      pathname === '/api/shelf'
        ? { cans }
        : pathname === '/api/session'
          ? { person: { id: 1, name: 'Ines Halvard', initials: 'IH', role: 'technician' } }
          : {};
    return new Response(JSON.stringify(body), { headers: { 'Content-Type': 'application/json' } });
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

function show(dose: Partial<Schemas['DoseState']>, draft: Partial<TestDraft> = {}, safe = true) {
  const record = vi.fn();
  const recorder = { record, busy: false, refusal: null } as unknown as Recorder;
  const state = {
    stage: 'inspect' as const,
    dose: {
      step: 'pour',
      said: saying('Still low: dose again by these strips, or refill.'),
      poured: [],
      verdict: null,
      ...dose,
    },
    inhibitor: [LINE],
  } as unknown as Partial<Schemas['LoopState']>;
  const bench = aBench(state, { dosing: [OFFER] });
  const changed = vi.fn();
  inApp(
    <DoseSheet
      bench={bench}
      recorder={recorder}
      dose={bench.state.dose as Schemas['DoseState']}
      draft={{ ...EMPTY, ...draft }}
      onChange={changed}
      settle={vi.fn()}
      safe={safe}
      onOpen={vi.fn()}
    />,
  );
  return { record, changed };
}

const plate = () => screen.getByTestId('go');

describe('strips as they are matched to their card', () => {
  const draft = (text: string): TestDraft => ({
    ...EMPTY,
    checks: { inhibitor: { outcome: null, figures: { nitrite_mg_l: { text, unit: 'degC' } } } },
  });
  const card = (text: string) =>
    (
      pendingOf(draft(text), [STRIPS], 'metric', { nitrite_mg_l: [800, 0, 300] }).facts[0]
        ?.facts as Schemas['TestedFacts']
    ).card;

  it('go with the bands of the card, in order', () => {
    expect(card('300')).toEqual({ nitrite_mg_l: [0, 300, 800] });
  });

  it('stand alone where the figure is none of them', () => {
    expect(card('420')).toEqual({});
  });
});

describe('the dose', () => {
  it('says before it is opened what to pour and what is short on the shelf', async () => {
    show({}, {}, false);
    expect(await screen.findByText(/Not enough on the shelf: 400 ml here/)).toBeTruthy();
    expect(plate().textContent).toContain('Check it is safe to open');
  });

  it('is recorded as it was poured, out of its container', async () => {
    const { record } = show({}, { agentId: 4, doseMl: '730', canId: '9' });
    await userEvent.click(plate());
    expect(record.mock.calls[0]?.[0]).toEqual([
      { kind: 'dosed', facts: { agent_id: 4, dose_ml: 730, taken: [{ can_id: 9, litres: 0.73 }] } },
    ]);
  });

  it('waits for the litres, and for how it ran', () => {
    show({}, { agentId: 4 });
    expect(plate().textContent).toContain('Enter the ml poured');
    cleanup();
    show({ step: 'run' }, { minutes: '25' });
    expect(plate().textContent).toContain('Check both hoses');
  });

  it('is signed off without a word only where it protects', async () => {
    show({ step: 'done', verdict: 'still_low' });
    expect(plate().textContent).toContain('Dose again, or say why not');
    cleanup();
    show({ step: 'done', verdict: 'overdosed' });
    expect(plate().textContent).toContain('choose another job type');
    cleanup();
    const { record } = show({ step: 'done', verdict: 'protected' });
    await userEvent.click(plate());
    expect(record.mock.calls[0]?.[0][0].facts).toEqual({ proof: 'checked', reason: '', service_mode_ended: false });
  });
});
