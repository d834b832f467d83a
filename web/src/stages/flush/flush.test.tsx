import { screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { jarLook, jarWords } from '../../figures/jarLook';
import { aBench, inApp, saying } from '../../testing';
import { askDrain, caughtFrom, startDrain } from '../drain/draft';
import { askJar, askRound, askWaste, runMinutes, startFlush } from './draft';
import { RoundsTable } from './RoundsTable';
import { Methods } from './Methods';

const aRound = (part: Partial<Schemas['RoundState']>): Schemas['RoundState'] => ({
  number: 0,
  entry_id: 'd',
  at: '2026-11-26T09:00:00Z',
  by: 'IH',
  method: null,
  step: 'plan',
  water: null,
  water_l: 0,
  opened: null,
  out_l: 24.5,
  vessels: [],
  ran_percent: null,
  finished_old_percent: 23.4,
  finished_sd_percent: 1,
  source: 'predicted',
  jar: null,
  thin: [],
  ...part,
});

const aFlush = (part: Partial<Schemas['FlushState']> = {}): Schemas['FlushState'] => ({
  step: 'plan',
  rounds: [aRound({})],
  limit_percent: 5,
  finished_old_percent: 23.4,
  finished_sd_percent: 1,
  finished_likely_percent: { low: 21.5, high: 25.4 },
  cleaner: null,
  solids_mg_l: 0,
  enough: { enough: false, short: [saying('over')], notes: [] },
  ended: false,
  early: '',
  water_l: {},
  waste: [{ kind: 'old_coolant', out_l: 24.5, kept_l: 0, containers: 0, reuse_l: 0, more: 2 }],
  no_reuse: [],
  ...part,
});

const CLEANER = {
  agent: {
    id: 3,
    name: 'Rinseflow',
    kind: 'cleaner',
    container_ml: 325,
    treats_l: 11.4,
    light_min: 10,
    heavy_min: 180,
    limit_min: 240,
    rinse_below_percent: 1,
    price: null,
    edited_at: '',
  },
  dose: { containers: 3, exact_ml: 912.28 },
  runs: { light_min: 10, heavy_min: 180, limit_min: 240 },
} as Schemas['CleanerChoice'];
const water = (id: number, kind: Schemas['WaterKind'], verdict: Schemas['WaterVerdict']) =>
  ({ id, name: kind, kind, judged: { verdict, reasons: [] } }) as unknown as Schemas['WaterOut'];
const FLUSHING: Schemas['FlushBench'] = {
  sweeps: ['open_rinse', 'hose_flow', 'parts', 'blow_out'],
  methods: [],
  ahead: [
    { number: 1, water_l: 24.5, ran_percent: 23.4, finished_percent: 5.5, finished_high_percent: 6.4, last: false },
    { number: 2, water_l: 24.5, ran_percent: 5.5, finished_percent: 1.3, finished_high_percent: 1.7, last: true },
  ],
  cleaners: [CLEANER],
  waters: [water(1, 'demineralised', 'fit'), water(2, 'tap', 'rinse_only')],
};
const bench = (
  flush: Schemas['FlushState'],
  more: Partial<Schemas['FlushBench']> = {},
  job_type: Schemas['JobType'] = 'change_type',
) => aBench({ flush, job_type }, { flushing: { ...FLUSHING, ...more } });

describe('what a flush begins with', () => {
  it('is tap for early rounds and demineralised for the last', () => {
    expect(startFlush(bench(aFlush())).water).toBe('2');
    expect(startFlush(bench(aFlush(), { ahead: FLUSHING.ahead.slice(1) })).water).toBe('1');
  });

  it('is the jar of a round that nobody looked at yet', () => {
    expect(startFlush(bench(aFlush())).panel).toBe('round');
    const unseen = aFlush({ rounds: [aRound({}), aRound({ number: 1, entry_id: 'r', method: 'fill_run_drain' })] });
    expect(startFlush(bench(unseen)).panel).toBe('jar');
    const enough = aFlush({ enough: { enough: true, short: [], notes: [] } });
    expect(startFlush(bench(enough)).panel).toBe('methods');
  });

  it('is cleaner first where rust brought it in, at the dose of its label', () => {
    const draft = startFlush(bench(aFlush(), {}, 'clean'));
    expect([draft.method, draft.agentMl]).toEqual(['cleaner', '912']);
    expect(runMinutes(CLEANER, 'heavy')).toBe(180);
    expect(runMinutes(CLEANER, 'light')).toBe(10);
  });
});

describe('what is recorded', () => {
  const start = startFlush(bench(aFlush()));

  it('is a jar with its reading, or what it waits for', () => {
    expect(askJar(start, 'metric').waits).toBe('What does the jar look like?');
    const seen = { ...start, looks: ['crystal_clear' as const], value: { text: '-2,8', unit: 'degC' as const } };
    expect(askJar(seen, 'metric').waits).toBe('Which instrument?');
    const asked = askJar({ ...seen, instrument: '4', sample: { text: '20', unit: 'degC' } }, 'metric').facts;
    expect(asked?.map((fact) => fact.kind)).toEqual(['sampled', 'read']);
    expect(asked?.[1]?.facts).toMatchObject({ place: 'rinse', value: -2.8, instrument_id: 4, sample_c: 20 });
    expect(askJar({ ...seen, sediment: 'some' }, 'metric').waits).toBe('Fix the sediment');
  });

  it('is a fill, a cleaner or a sweep', () => {
    const here = bench(aFlush());
    expect(askRound(start, here, 'metric').facts?.[0]).toMatchObject({ kind: 'round_filled', facts: { water_id: 2 } });
    const dosed = askRound({ ...start, method: 'cleaner' }, here, 'metric').facts?.[0];
    expect(dosed?.facts).toMatchObject({ agent_id: 3, agent_ml: 912, run_min: 180 });
    expect(askRound({ ...start, method: 'cleaner', agentMl: '' }, here, 'metric').waits).toBe('How much cleaner?');
    const swept = { ...start, method: 'parts' as const, litres: { block: { text: '20', unit: 'l' as const } } };
    expect(askRound(swept, here, 'metric').facts?.[0]).toMatchObject({
      kind: 'vessels_rinsed',
      facts: { litres: { block: 20 } },
    });
    expect(askRound({ ...swept, litres: {} }, here, 'metric').waits).toBe('How many litres, through what?');
  });

  it('is whole containers of waste', () => {
    const filled = { ...start, wasteL: { text: '24.5', unit: 'l' as const } };
    expect(askWaste(start, 'metric').waits).toBe('How many litres are in the containers?');
    expect(askWaste({ ...filled, containers: '1.5' }, 'metric').waits).toBe('How many containers?');
    expect(askWaste(filled, 'metric').facts?.[0]?.facts).toMatchObject({ litres: 24.5, containers: 1, reuse: false });
  });
});

describe('litres out', () => {
  const plan: Schemas['DrainPlan'] = {
    points: [{ where: 'A', name: 'Radiator', expected_l: 15.6, by_hand: false, hints: [] }],
    hints: [],
  };
  const start = startDrain(plan);

  it('are weights, in pounds too, with their spill once', () => {
    const caught = [
      { ...caughtFrom('A'), gross: { text: '17.3', unit: 'kg' as const }, tare: { text: '1.3', unit: 'kg' as const } },
      { ...caughtFrom('A'), gross: { text: '10 lb', unit: 'kg' as const } },
    ];
    const asked = askDrain({ ...start, caught, spilled: { text: '0.2', unit: 'l' } }, 'metric');
    expect(asked.facts?.caught?.map((row) => row.spilled_l)).toEqual([0.2, 0]);
    expect(asked.facts?.caught?.[0]).toMatchObject({ where: 'A', gross_kg: 17.3, tare_kg: 1.3 });
    expect(asked.facts?.caught?.[1]?.gross_kg).toBeCloseTo(4.536, 3);
  });

  it('are marks with the temperature of the fluid, or as known', () => {
    const marks = [{ ...caughtFrom('A'), marks: { text: '24.5', unit: 'l' as const } }];
    const asked = askDrain({ ...start, mode: 'marks', caught: marks, at: { text: '45', unit: 'degC' } }, 'metric');
    expect(asked.facts?.caught?.[0]).toMatchObject({ marks_l: 24.5, at_c: 45 });
    const told = askDrain(
      { ...start, mode: 'contents_reported', total: { text: '24,5', unit: 'l' }, measured: 'guessed' },
      'metric',
    );
    expect(told.facts).toMatchObject({ drained_l: 24.5, measured: 'guessed', caught: [] });
  });

  it('wait where nothing or nothing readable is given', () => {
    expect(askDrain(start, 'metric')).toEqual({ facts: null, bad: false });
    const bad = [{ ...caughtFrom('A'), gross: { text: 'heavy', unit: 'kg' as const } }];
    expect(askDrain({ ...start, caught: bad }, 'metric')).toEqual({ facts: null, bad: true });
  });
});

describe('jars', () => {
  const jar = (looks: Schemas['Look'][], sediment_mm: number | null = null): Schemas['Jar'] => ({
    entry_id: 'e',
    looks,
    sediment_mm,
    read_entry_id: null,
    says: null,
  });

  it('are drawn from the data, the darkest word first', () => {
    expect(jarLook(null)).toEqual({ kind: 'empty' });
    const rusty = jarLook(jar(['crystal_clear', 'orange_rust', 'particles'], 4));
    expect(rusty).toMatchObject({ kind: 'sampled', sedimentMm: 4, grains: true, haze: 0 });
    expect(jarLook(jar(['cloudy']))).toMatchObject({ haze: 0.34, grains: false });
  });

  it('are said in words', () => {
    expect(jarWords(null)).toBe('no sample taken');
    expect(jarWords(jar(['orange_rust', 'fine_sand'], 4))).toBe('orange rust, sand-like rust, 4 mm sediment');
  });
});

describe('the rounds', () => {
  it('show what each left against the limit, and what is predicted as such', () => {
    const done = aRound({
      number: 1,
      entry_id: 'r',
      method: 'fill_run_drain',
      water: 'tap',
      finished_old_percent: 1.3,
      source: 'corrected',
    });
    inApp(<RoundsTable flush={aFlush({ rounds: [aRound({}), done] })} ahead={FLUSHING.ahead.slice(1)} vessels={[]} />);
    screen.getByText(/limit 5 %/);
    screen.getByText('23.4 %');
    screen.getByText('after refill');
    screen.getByText('corrected');
    screen.getByText('predicted, at most 1.7 %');
    screen.getByText(/runs at 5.5 %/);
  });

  it('say plainly what a round did not do', () => {
    const thin = [saying('The 3-minute run never opened the thermostat: the block was not exchanged.')];
    inApp(
      <RoundsTable
        flush={aFlush({ rounds: [aRound({}), aRound({ number: 1, entry_id: 'r', method: 'fill_run_drain', thin })] })}
        ahead={[]}
        vessels={[]}
      />,
    );
    screen.getByText(/never opened the thermostat/);
  });
});

describe('methods', () => {
  const method = (part: Partial<Schemas['FlushMethodPlan']>) =>
    ({
      method: 'fill_run_drain',
      name: 'fill, run, drain',
      rounds: 2,
      rounds_high: 3,
      finished_percent: 1.3,
      reaches: true,
      water_l: 49,
      demineralised_l: 24.5,
      waste_l: 49,
      hands_min: 30,
      wait_min: { low: 250, high: 560 },
      reason: null,
      note: null,
      ...part,
    }) as Schemas['FlushMethodPlan'];

  it('stand side by side with rounds, water, hands and waiting in words', () => {
    inApp(
      <Methods
        limit={5}
        usual={10}
        methods={[
          method({}),
          method({
            method: null,
            name: 'drain and refill',
            rounds: 0,
            reaches: false,
            finished_percent: 23.4,
            reason: saying('23.4 % old would stay in it.'),
          }),
        ]}
      />,
    );
    screen.getByText('To 5 % old');
    screen.getByText('2, perhaps 3');
    expect(screen.getAllByText('4¼ h to 9¼ h')).toHaveLength(2);
    screen.getByText('23.4 % old would stay in it.');
  });
});
