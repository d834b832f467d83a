import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { emptyOf, formOf, lineFromForm, type ProductForm } from '../products/lineForm';
import { freshId, layoutFromForm, layoutToForm } from './layoutForm';
import { specFromForm, specToForm } from './loopForm';

const layout: Schemas['Layout'] = {
  nodes: [
    { id: 'block', kind: 'block', name: 'Engine block', volume_l: 6.8, bottom_mm: 100, top_mm: 900, column: 0 },
    { id: 'rad', kind: 'radiator', name: 'Radiator', volume_l: 5.2, bottom_mm: 200, top_mm: 800, column: 2 },
  ],
  pipes: [{ start: 'block', end: 'rad', at_mm: 700, via: 'thermostat' }],
  drains: [{ letter: 'A', node: 'rad', height_mm: 210, share: { rad: 0.95, block: 0.5 } }],
  bleeders: [{ number: 1, node: 'block', height_mm: 880, kind: 'screw' }],
  fill_points: [{ number: 1, node: 'rad', name: 'cap' }],
  tank_total_l: 2.5,
};

const spec = {
  name: 'Engine loop',
  capacity_l: 12,
  capacity_source: 'manual',
  layout,
  coldest_c: -25,
  cap_gauge_kpa: 103.42,
  equipment: {
    tank: 'degas',
    level_rule: 'below_lip',
    level_below_lip_mm: 20,
    thermostat_opens_c: 85,
    preheater: true,
    preheater_pump: true,
    coolant_filter: 'charged',
    conductivity_limit_us_cm: null,
    interval: { months: 60, distance_km: 160934.4, hours: null },
  },
  maker_families: ['oat'],
  maker_standards: ['ASTM D3306', 'BS 6580'],
  maker_stated_in: 'book, page 3',
  materials: ['aluminium'],
  glycol_forbidden: false,
  low_conductivity: false,
  high_voltage: false,
  believed_base: 'ethylene',
  believed_family: null,
  believed_strength_percent: 41,
} as unknown as Schemas['LoopSpec'];

describe('a layout in the editor', () => {
  it('comes back as it went in', () => {
    expect(layoutFromForm(layoutToForm(layout))).toEqual(layout);
  });

  it('writes drains in words and percent', () => {
    expect(layoutToForm(layout).drains[0]?.share).toBe('Radiator 95, Engine block 50');
  });

  it.each([
    ['nodes', 'volume', 'a lot', 'Engine block: litres cannot be read: type a number.'],
    ['nodes', 'name', ' ', 'Vessel: name is missing.'],
    ['drains', 'share', 'Boot 50', 'Drain A: “Boot 50” cannot be read.'],
    ['drains', 'letter', '', 'Drain: letter is missing.'],
    ['pipes', 'at', '', 'Hose: height cannot be read'],
  ] as const)('says what of %s %s cannot be read', (rows, key, typed, said) => {
    const form = layoutToForm(layout);
    const changed = { ...form, [rows]: [{ ...form[rows][0], [key]: typed }, ...form[rows].slice(1)] };
    expect(layoutFromForm(changed)).toContain(said);
  });

  it('gives a new vessel an id nobody has', () => {
    expect(freshId([{ id: 'vessel3' }, { id: 'a' }])).toBe('vessel4');
  });
});

describe('a loop in the editor', () => {
  it('comes back as it went in, in its own units', () => {
    expect(specFromForm(specToForm(spec, 'metric'), 'metric')).toMatchObject({
      capacity_l: 12,
      coldest_c: -25,
      maker_standards: ['ASTM D3306', 'BS 6580'],
      equipment: { level_below_lip_mm: 20, coolant_filter: 'charged', interval: { months: 60, hours: null } },
    });
  });

  it('takes quarts, psi and miles', () => {
    const form = specToForm(spec, 'us');
    const typed = specFromForm(
      {
        ...form,
        capacity: { text: '12', unit: 'us_qt' },
        cap: { text: '15', unit: 'psi' },
        km: { text: '100000', unit: 'mi' },
      },
      'us',
    ) as Schemas['LoopSpec'];
    expect(typed.capacity_l).toBeCloseTo(11.356, 3); // 1 US quart is 0.946353 l
    expect(typed.cap_gauge_kpa).toBeCloseTo(103.42, 2);
    expect(typed.equipment.interval?.distance_km).toBeCloseTo(160934.4, 1); // 1 mile is 1.609344 km
  });

  it('asks about what could be read two ways, and never guesses', () => {
    const said = specFromForm({ ...specToForm(spec, 'metric'), capacity: { text: '1,250', unit: 'l' } }, 'metric');
    expect(said).toContain('Capacity: cannot read');
  });

  it('drops what no longer applies', () => {
    const form = { ...specToForm(spec, 'metric'), preheater: false, levelRule: 'between_marks' as const };
    const { equipment } = specFromForm(form, 'metric') as Schemas['LoopSpec'];
    expect(equipment.preheater_pump).toBe(false);
    expect(equipment.level_below_lip_mm).toBeNull();
  });
});

describe('a line of the catalogue in the editor', () => {
  const product = (part: Partial<ProductForm>) =>
    lineFromForm({ ...(emptyOf('product') as ProductForm), name: 'New', ...part }, 'metric');

  it('keeps containers and standards as lists, money with two decimals', () => {
    expect(product({ sizes: '5; 20,5', standards: 'ASTM D3306, BS 6580', price: '6,4', glycol: '95' })).toMatchObject({
      container_sizes_l: [5, 20.5],
      standards: ['ASTM D3306', 'BS 6580'],
      price_per_l: '6.40',
      glycol_mass_percent: 95,
    });
  });

  it('says that the label is silent with no figure, never with the usual one', () => {
    expect(product({ silent: true })).toMatchObject({ glycol_mass_percent: null });
  });

  it('knows that without glycol there is neither concentrate nor inhibitor family to ask for', () => {
    expect(product({ base: 'none' })).toMatchObject({
      family: 'glycol_free',
      form: 'ready_mix',
      glycol_mass_percent: 0,
    });
  });

  it.each([
    [{ name: ' ' }, 'The name is missing.'],
    [{ glycol: '' }, 'Glycol is missing.'],
    [{ price: '-2', glycol: '95' }, 'Price: it cannot be negative.'],
    [{ sizes: '5; big', glycol: '95' }, 'Containers: '],
  ])('refuses %j in a sentence', (part, said) => {
    expect(product(part)).toContain(said);
  });

  it('shows an agent with its label, and sends it back unchanged', () => {
    const agent = {
      id: 3,
      name: 'Scale out',
      kind: 'cleaner',
      container_ml: 500,
      treats_l: 11.36,
      light_min: 10,
      heavy_min: 180,
      limit_min: 240,
      rinse_below_percent: 1,
      price: '9.50',
      edited_at: '2026-11-01T10:00:00Z',
    } as unknown as Schemas['AgentOut'];
    expect(lineFromForm(formOf('agent', agent, 'metric'), 'metric')).toMatchObject({
      seen: '2026-11-01T10:00:00Z',
      treats_l: 11.36,
      limit_min: 240,
      rinse_below_percent: 1,
    });
  });
});
