import type { components } from '../api/schema.gen';

type Schemas = components['schemas'];

/** Names of the trade, said everywhere alike. */
export const FAMILY: Record<Schemas['Family'], string> = {
  iat: 'Silicate type',
  oat: 'Organic acid',
  si_hoat: 'Organic with silicate',
  p_hoat: 'Organic with phosphate',
  noat: 'Heavy duty, fully formulated',
  glycol_free: 'Glycol-free',
  low_conductivity: 'Low-conductivity',
};

export const BASE: Record<Schemas['Base'], string> = {
  ethylene: 'ethylene glycol',
  propylene: 'propylene glycol',
  none: 'no glycol',
};

export const FORM: Record<Schemas['Form'], string> = { concentrate: 'concentrate', ready_mix: 'ready-mixed' };

export const STAGE: Record<Schemas['Stage'], string> = {
  know: 'Know',
  test: 'Test',
  open: 'Open',
  drain: 'Drain',
  flush: 'Flush',
  mix: 'Mix',
  fill: 'Fill',
  prove: 'Prove',
};

export const ROUTE: Record<Schemas['Route'], string> = {
  check: 'Check only',
  top_up: 'Top up',
  correct: 'Correct',
  renew: 'Renew',
  change_out: 'Change out',
  clean: 'Clean',
};

/** What a route means, in one line. */
export const ROUTE_SAYS: Record<Schemas['Route'], string> = {
  check: 'look and measure; nothing is opened',
  top_up: 'the level is low, the rest is right',
  correct: 'right coolant, wrong strength',
  renew: 'same chemistry goes in; rinsing is a choice',
  change_out: 'the old must come out to its limit',
  clean: 'rust, scale or sludge comes out first',
};

export const TOPPED_UP: Record<Schemas['ToppedUp'], string> = {
  nothing: 'nothing',
  same: 'the same',
  water: 'water',
  other: 'another kind',
  unknown: 'nobody knows',
};

export const TANK: Record<Schemas['TankKind'], string> = {
  degas: 'degas tank',
  overflow: 'overflow bottle',
  catch: 'catch tank',
  degas_and_catch: 'degas and catch tank',
  none: 'none',
};

export const LEVEL_RULE: Record<Schemas['LevelRule'], string> = {
  between_marks: 'between the marks',
  at_max: 'upper mark',
  below_lip: 'below the lip',
  half_full: 'half full',
};

export const LOOP_USE: Record<Schemas['LoopUse'], string> = {
  power_electronics: 'power electronics',
  battery: 'battery',
  fuel_cell: 'fuel cell',
};

export const FILTER: Record<Schemas['CoolantFilter'], string> = { none: 'none', blank: 'blank', charged: 'charged' };

export const WATER_KIND: Record<Schemas['WaterKind'], string> = {
  demineralised: 'demineralised',
  tap: 'tap',
  softened: 'softened',
};

export const METHOD: Record<Schemas['Method'], string> = {
  fill_run_drain: 'Fill, run, drain',
  cleaner: 'Cleaner',
  open_rinse: 'Rinse, drains open',
  hose_flow: 'Hose flow',
  parts: 'Part by part',
  blow_out: 'Blow out',
};

export const WASTE: Record<Schemas['WasteKind'], string> = {
  old_coolant: 'Old coolant',
  rinse_water: 'Rinse water',
  cleaner_water: 'Cleaner water',
  new_mix: 'New mix, drained again',
};

export const PROOF: Record<string, string> = {
  proven: 'Verified',
  read_again: 'Read again',
  too_weak: 'Too weak',
  too_strong: 'Too strong',
  does_not_agree: 'Does not agree',
  glycol_free: 'Glycol-free',
  checked: 'Checked',
  mixed_bases: 'Mixed bases',
  wrong_product: 'Wrong product',
  water_in: 'Water in it',
  use_unknown: 'Use not entered',
  not_measured: 'Conductivity not measured',
  conducts: 'Conducts too well',
};

export const MEASURED: Record<Schemas['Measured'], string> = {
  weighed: 'weighed',
  marks: 'jug marks',
  guessed: 'guessed',
};

export const MATERIAL: Record<Schemas['Material'], string> = {
  aluminium: 'aluminium',
  cast_iron: 'cast iron',
  copper_brass_solder: 'copper-brass and solder',
  wet_liners: 'wet liners',
  old_seals: 'old seals',
};

export const CAPACITY_FROM: Record<Schemas['CapacitySource'], string> = {
  measured: 'measured',
  manual: 'the book',
  remembered: 'memory',
  learned: 'readings',
};

/** "Organic acid, ethylene glycol"; null parts are unknown. */
export function chemistry(family?: Schemas['Family'] | null, base?: Schemas['Base'] | null): string {
  if (!family && !base) return 'unknown';
  if (base === 'none') return 'Glycol-free';
  return [family ? FAMILY[family] : 'unknown type', base ? BASE[base] : 'unknown base'].join(', ');
}
