import type { Schemas } from '../../api/client';
import type { Fact } from '../../bench/useRecorder';
import { numberOf } from '../../controls/NumberField';
import { kindOfTyped } from '../../controls/reading/scale';
import { parseTyped, type Typed } from '../../units/parse';
import type { System } from '../../units/units';

export type Panel = 'jar' | 'round' | 'methods' | 'waste';

export interface FlushDraft {
  panel: Panel;
  // the jar of the last round
  looks: Schemas['Look'][];
  sediment: string;
  value: Typed;
  instrument: string;
  sample: Typed;
  // the next round
  method: Schemas['Method'];
  water: string;
  agent: string;
  agentMl: string;
  canId: string;
  run: 'light' | 'heavy';
  litres: Record<string, Typed>;
  reversed: boolean;
  reason: string;
  // waste
  waste: Schemas['WasteKind'];
  wasteL: Typed;
  containers: string;
  /** Where the full ones stand. */
  stands: string;
  reuse: boolean;
}

const EMPTY_L: Typed = { text: '', unit: 'l' };
const EMPTY_C: Typed = { text: '', unit: 'degC' };

/** Whether the chosen method sweeps vessels while they run out, instead of filling the loop. */
export const sweeps = (bench: Schemas['Bench'], { method }: Pick<FlushDraft, 'method'>): boolean =>
  bench.flushing?.sweeps.includes(method) ?? false;

/** A clear jar is looked at first; then the next round, or the word that it is enough. */
export function startFlush(bench: Schemas['Bench']): FlushDraft {
  const { flush, job_type } = bench.state;
  const last = flush?.rounds.at(-1);
  const waters = bench.flushing?.waters ?? [];
  const wanted = (bench.flushing?.ahead[0]?.last ?? true) ? 'fit' : 'rinse_only';
  const water =
    waters.find((row) => row.judged.verdict === wanted) ?? waters.find((row) => row.kind === 'demineralised');
  const cleaner = bench.flushing?.cleaners[0];
  const first = (flush?.rounds.length ?? 0) === 1;
  const unseen = last !== undefined && last.number > 0 && !last.jar?.entry_id;
  return {
    panel: unseen ? 'jar' : flush?.enough.enough ? 'methods' : 'round',
    looks: [],
    sediment: '',
    value: EMPTY_C,
    instrument: '',
    sample: EMPTY_C,
    method: job_type === 'clean' && first ? 'cleaner' : 'fill_run_drain',
    water: String(water?.id ?? ''),
    agent: String(cleaner?.agent.id ?? ''),
    agentMl: cleaner ? String(Math.round(cleaner.dose.exact_ml)) : '',
    canId: '',
    run: 'heavy',
    litres: {},
    reversed: true,
    reason: '',
    waste: (flush?.waste.find((row) => row.kept_l < row.out_l - 0.05)?.kind ?? 'old_coolant') as Schemas['WasteKind'],
    wasteL: EMPTY_L,
    containers: '1',
    stands: '',
    reuse: false,
  };
}

/** How long a cleaner is to run. */
export const runMinutes = ({ runs }: Schemas['CleanerChoice'], run: 'light' | 'heavy'): number =>
  run === 'light' ? runs.light_min : runs.heavy_min;

export interface Ask {
  facts: Fact[] | null;
  waits: string | null;
}

/** The jar, and its reading where there is one. */
export function askJar(draft: FlushDraft, system: System): Ask {
  const sediment = draft.sediment.trim() === '' ? null : numberOf(draft.sediment);
  if (draft.sediment.trim() !== '' && sediment === null) return { facts: null, waits: 'Fix the sediment' };
  const seen = draft.looks.length > 0 || sediment !== null;
  const facts: Fact[] = seen
    ? [{ kind: 'sampled', facts: { spot: 'drain', looks: draft.looks, sediment_mm: sediment, note: '' } }]
    : [];
  const [value, sample] = [
    parseTyped(draft.value, kindOfTyped(draft.value), system),
    parseTyped(draft.sample, 'temperature', system),
  ];
  if (!value.ok && !value.empty) return { facts: null, waits: 'Fix the reading' };
  if (value.ok) {
    if (draft.instrument === '') return { facts: null, waits: 'Which instrument?' };
    if (!sample.ok) return { facts: null, waits: 'How warm is the sample?' };
    facts.push({
      kind: 'read',
      facts: {
        value: value.base,
        place: 'rinse',
        instrument_id: Number(draft.instrument),
        zero: null,
        sample_c: sample.base,
        after_hot_run: false,
      },
    });
  }
  return facts.length > 0 ? { facts, waits: null } : { facts: null, waits: 'What does the jar look like?' };
}

/** The next round, as it would be recorded. */
export function askRound(draft: FlushDraft, bench: Schemas['Bench'], system: System): Ask {
  const water_id = draft.water === '' ? null : Number(draft.water);
  const water = 'demineralised' as const;
  if (sweeps(bench, draft)) {
    const litres: Record<string, number> = {};
    for (const [vessel, typed] of Object.entries(draft.litres)) {
      const parsed = parseTyped(typed, 'volume', system);
      if (!parsed.ok && !parsed.empty) return { facts: null, waits: 'Fix the litres' };
      if (parsed.ok) litres[vessel] = parsed.base;
    }
    if (Object.keys(litres).length === 0) return { facts: null, waits: 'How many litres, through what?' };
    const facts = { method: draft.method, litres, water, water_id, reversed_first: draft.reversed, minutes: null };
    return { facts: [{ kind: 'vessels_rinsed', facts }], waits: null };
  }
  const base = { method: draft.method, water, water_id, fill_l: null };
  if (draft.method !== 'cleaner')
    return {
      facts: [{ kind: 'round_filled', facts: { ...base, agent_id: null, agent_ml: null, run_min: null } }],
      waits: null,
    };
  const choice = bench.flushing?.cleaners.find((row) => String(row.agent.id) === draft.agent);
  if (!choice) return { facts: null, waits: 'Which cleaner?' };
  const ml = numberOf(draft.agentMl);
  if (ml === null) return { facts: null, waits: 'How much cleaner?' };
  const taken = draft.canId === '' ? [] : [{ can_id: Number(draft.canId), litres: ml / 1000 }];
  const dosed = { agent_id: choice.agent.id, agent_ml: ml, run_min: runMinutes(choice, draft.run), taken };
  return { facts: [{ kind: 'round_filled', facts: { ...base, ...dosed } }], waits: null };
}

/** Containers lidded and labelled. */
export function askWaste(draft: FlushDraft, system: System): Ask {
  const [litres, containers] = [parseTyped(draft.wasteL, 'volume', system), numberOf(draft.containers)];
  if (!litres.ok)
    return { facts: null, waits: litres.empty ? 'How many litres are in the containers?' : 'Fix the litres' };
  if (containers === null || !Number.isInteger(containers)) return { facts: null, waits: 'How many containers?' };
  const facts = { kind: draft.waste, litres: litres.base, containers, reuse: draft.reuse, stands: draft.stands.trim() };
  return { facts: [{ kind: 'waste_kept', facts }], waits: null };
}
