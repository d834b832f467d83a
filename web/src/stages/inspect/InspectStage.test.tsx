import { cleanup, fireEvent, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../../api/client';
import type { Recorder } from '../../bench/useRecorder';
import { aBench, inApp, saying } from '../../testing';
import { EMPTY, pendingOf, type TestDraft } from './draft';
import { Photos } from '../../bench/Photos';
import { InspectStage } from './InspectStage';
import { sampleWords, testWords } from './words';

const figure = (key: string, name: string, kind: string, unit: string, low = 0, high = 500) =>
  ({ key, name, kind, unit, low, high, required: true }) as Schemas['Figure'];
const words: Schemas['InspectionWords'] = {
  spots: [
    { spot: 'neck', name: 'At the neck' },
    { spot: 'bottle', name: 'Bottom of the bottle' },
  ],
  looks: [
    { look: 'clean_bright', name: 'Clean bright', says: 'nothing is wrong that the eye can see', sign: 'fine' },
    { look: 'orange_rust', name: 'Orange rust', says: 'it corrodes', sign: 'dirt' },
  ],
  checks: [
    {
      check: 'hoses',
      name: 'Hoses',
      how: 'Squeeze them cold.',
      figures: [],
      outcomes: [
        { key: 'sound', name: 'sound', sign: 'fine', says: '' },
        { key: 'cracked', name: 'cracked', sign: 'parts', says: 'renew as a set' },
      ],
    },
    {
      check: 'pressure',
      name: 'Pressure hold',
      how: 'Pump to cap pressure.',
      outcomes: [],
      figures: [
        figure('start_kpa', 'start', 'pressure', 'kPa'),
        figure('end_kpa', 'end', 'pressure', 'kPa'),
        figure('minutes', 'minutes', '', 'min', 1, 120),
      ],
    },
    {
      check: 'combustion_gas',
      name: 'Combustion gas',
      how: 'Test fluid over the neck.',
      figures: [],
      outcomes: [{ key: 'positive', name: 'changes', sign: 'cause', says: 'head gasket' }],
    },
  ],
} as unknown as Schemas['InspectionWords'];

const advice = (job_type: Schemas['JobType'], tests: Schemas['FurtherTest'][] = []): Schemas['Advice'] => ({
  job_type,
  stop: false,
  said: saying('Rust comes out first.'),
  reasons: [{ code: 'dirt', job_type, weight: 2, said: saying('Orange rust, at the neck.'), entry_id: 'e9' }],
  tests,
});

const benchWith = (change: Partial<Schemas['LoopState']>): Schemas['Bench'] =>
  aBench({
    last_entry_id: 'e9',
    stage: 'inspect',
    advice: advice('clean'),
    inspection: {
      asked: ['hoses', 'pressure'],
      opening: ['pressure', 'combustion_gas'],
      seen: [],
      skipped: [],
      reported: null,
      metered: null,
      job_type_chosen: null,
    },
    ...change,
  });

let answers: Record<string, () => Response> = {};
const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { 'Content-Type': 'application/json' } });

beforeEach(() => {
  localStorage.clear();
  answers = {
    '/api/session': () => json({ person: { id: 1, name: 'Tomo Reik', initials: 'TR', role: 'technician' } }),
    '/api/inspection': () => json(words),
    '/api/instruments': () => json({ instruments: [] }),
  };
  vi.stubGlobal('fetch', async (request: Request | string) => {
    const path = new URL(typeof request === 'string' ? request : request.url, 'http://x').pathname;
    return (answers[path] ?? (() => json({ field: '', code: 'x', message: 'not now' }, 500)))();
  });
});
afterEach(() => {
  cleanup();
  vi.unstubAllGlobals();
});

describe('what stands on the test sheet', () => {
  const draft = (part: Partial<TestDraft>): TestDraft => ({ ...EMPTY, ...part });
  const rows = words.checks as Schemas['CheckRow'][];

  it('is nothing until something is seen', () => {
    expect(pendingOf(draft({}), rows, 'metric')).toEqual({ facts: [], waits: null });
  });

  it('becomes facts in the units of the core, whatever was typed', () => {
    const typed = (text: string, unit = 'psi') => ({ text, unit });
    const sheet = draft({
      spot: 'neck',
      looks: ['orange_rust'],
      sediment: '4',
      checks: {
        hoses: { outcome: 'cracked', figures: {} },
        pressure: { outcome: null, figures: { start_kpa: typed('15'), end_kpa: typed('14'), minutes: typed('10') } },
      },
    } as Partial<TestDraft>);
    const { facts, waits } = pendingOf(sheet, rows, 'us');
    expect(waits).toBeNull();
    expect(facts.map((fact) => fact.kind)).toEqual(['sampled', 'tested', 'tested']);
    expect(facts[0]?.facts).toEqual({ spot: 'neck', looks: ['orange_rust'], sediment_mm: 4, note: '' });
    const { figures } = facts[2]?.facts as { figures: Record<string, number> };
    expect(figures.start_kpa).toBeCloseTo(103.42, 2); // 15 psi, as in every conversion table
    expect(figures.minutes).toBe(10);
  });

  it.each([
    [{ sediment: '4 cm' }, 'Fix the sediment'],
    [
      { checks: { pressure: { outcome: null, figures: { start_kpa: { text: '100', unit: 'kpa' } } } } },
      'Pressure hold: end is missing',
    ],
    [
      { checks: { pressure: { outcome: null, figures: { start_kpa: { text: 'lots', unit: 'kpa' } } } } },
      'Pressure hold: correct start',
    ],
    [{ value: { text: '-19', unit: 'degC' } }, 'Which instrument, how warm is the sample?'],
    [{ value: { text: 'cold', unit: 'degC' } }, 'Fix the reading'],
  ])('waits while %j cannot be recorded', (part, waits) => {
    expect(pendingOf(draft(part as Partial<TestDraft>), rows, 'metric').waits).toBe(waits);
  });
});

describe('InspectStage', () => {
  const show = (bench: Schemas['Bench']) => {
    const record = vi.fn();
    const recorder: Recorder = { record, busy: false, refusal: null, forget: () => undefined };
    inApp(<InspectStage bench={bench} recorder={recorder} />);
    return record;
  };
  const plate = () => screen.getByTestId('go');
  const facts = (record: ReturnType<typeof vi.fn>) => record.mock.calls[0]?.[0] as { kind: string; facts: object }[];

  it('leads from outside over the sample and the checks to the advice, and records nothing on the way', async () => {
    const record = show(benchWith({}));
    await screen.findByTestId('check-hoses');
    expect(plate().textContent).toContain('Next: sample');
    await userEvent.click(plate());
    await waitFor(() => expect(plate().textContent).toContain('Next: inside checks'));
    await userEvent.click(plate());
    await screen.findByTestId('check-pressure');
    expect(plate().textContent).toContain('Choose the job');
    await userEvent.click(plate());
    expect(screen.getByTestId('advice').textContent).toContain('Clean. Rust comes out first.');
    expect(record).not.toHaveBeenCalled();
  });

  it('records what was seen in one go', async () => {
    const record = show(benchWith({}));
    await userEvent.click(screen.getByText('Sample'));
    await userEvent.click(await screen.findByText('At the neck'));
    await userEvent.click(await screen.findByText('Orange rust'));
    expect(plate().textContent).toContain('Record what was found');
    await waitFor(() => expect(plate().getAttribute('aria-disabled')).toBe('false'));
    await userEvent.click(plate());
    expect(facts(record).map((fact) => fact.kind)).toEqual(['sampled']);
  });

  it('decides as advised, and says what was left out and why', async () => {
    const record = show(benchWith({}));
    await userEvent.click(screen.getByText('Decide'));
    await screen.findByText(/hoses, pressure hold/);
    await userEvent.click(screen.getByText('no time'));
    await userEvent.click(plate());
    expect(facts(record)).toEqual([
      { kind: 'skipped', facts: { checks: ['hoses', 'pressure'], reason: 'no time' } },
      { kind: 'job_type_chosen', facts: { job_type: 'clean', advised: 'clean', reason: '' } },
    ]);
  });

  it('asks why where the person decides otherwise', async () => {
    const record = show(benchWith({}));
    await userEvent.click(screen.getByText('Decide'));
    await userEvent.click(screen.getByRole('radio', { name: /^Refill/ }));
    expect(plate().textContent).toContain('Say why, against advice');
    await userEvent.type(screen.getByLabelText(/Against .*advice/), 'sold on Friday');
    expect(plate().textContent).toContain('Not checked: say why');
    await userEvent.click(screen.getByText('no time'));
    expect(plate().textContent).toContain('Refill, same type, against advice');
    await userEvent.click(plate());
    expect(facts(record)[1]?.facts).toEqual({ job_type: 'refill', advised: 'clean', reason: 'sold on Friday' });
  });

  it('puts the test that is asked for before the decision', async () => {
    const test = { check: 'combustion_gas', name: 'Combustion gas', why: saying('the gasket feeds rust') };
    const record = show(benchWith({ advice: advice('check', [test as Schemas['FurtherTest']]) }));
    await userEvent.click(screen.getByText('Decide'));
    expect(plate().textContent).toContain('Test: combustion gas');
    await userEvent.click(plate());
    const rows = await screen.findAllByTestId(/^check-/);
    expect(rows[0]?.dataset.testid).toBe('check-combustion_gas');
    expect(rows[0]?.textContent).toContain('Required: the gasket feeds rust.');
    expect(record).not.toHaveBeenCalled();
  });

  it('shows nothing that opens the loop before somebody made it safe to open', async () => {
    const { gate } = benchWith({}).state;
    show(benchWith({ gate: { ...gate, open: false, by_id: '' } }));
    await userEvent.click(screen.getByText(/^Inside/));
    expect(screen.getByTestId('to-open')).toBeTruthy();
    expect(screen.queryByTestId('check-pressure')).toBeNull();
    expect(plate().textContent).toContain('Check it is safe to open');
    await userEvent.click(plate());
    expect(screen.getByText('Safe to open?')).toBeTruthy();
  });

  it('signs a check off once it was decided', async () => {
    const inspection = {
      ...benchWith({}).state.inspection,
      job_type_chosen: { job_type: 'check', advised: 'check', reason: '' },
    } as Schemas['LoopState']['inspection'];
    const record = show(benchWith({ inspection, job_type: 'check', advice: advice('check') }));
    await userEvent.click(screen.getByText('Decide'));
    await userEvent.click(plate());
    expect(facts(record)).toEqual([
      { kind: 'signed_off', facts: { proof: 'checked', reason: '', service_mode_ended: false } },
    ]);
  });
});

describe('words of findings', () => {
  const units = {
    temperature: (c: number) => `${c} °C`,
    pressure: (kpa: number) => `${kpa} kPa`,
    volume: (litres: number) => `${litres} L`,
  };
  it('say where and what', () => {
    const sampled = { spot: 'bottle', looks: ['orange_rust'], sediment_mm: 4 } as Schemas['Sampled'];
    expect(sampleWords(sampled, words)).toBe('Bottom of the bottle: orange rust, 4 mm sediment');
    const tested = { check: 'pressure', outcome: null, figures: { start_kpa: 100, end_kpa: 98, minutes: 10 } };
    expect(testWords(tested as unknown as Schemas['Tested'], words, units)).toBe(
      'Pressure hold: start 100 kPa, end 98 kPa, minutes 10 min',
    );
  });
});

describe('Photos', () => {
  const photo = new File(['not a picture'], 'trap.svg', { type: 'image/svg+xml' });
  const add = () => fireEvent.change(screen.getByLabelText('Photo, rust'), { target: { files: [photo] } });

  it('says why one was refused and what is taken', async () => {
    answers['/api/loops/7/photos'] = () =>
      json({ field: 'photo', code: 'no_photo', message: 'This is no photo.' }, 400);
    inApp(<Photos loopId={7} entryId="e9" photos={[]} open what="rust" />);
    add();
    const alert = await screen.findByRole('alert');
    expect(alert.textContent).toContain('This is no photo.');
    expect(alert.textContent).toContain('JPEG, PNG or HEIC, at most 8 MB.');
  });

  it('offers no key once the job is signed', () => {
    inApp(<Photos loopId={7} entryId="e9" photos={[]} open={false} what="rust" />);
    expect(screen.queryByText('Photo')).toBeNull();
  });
});
