import type { Schemas } from '../../api/client';
import type { Fact } from '../../bench/useRecorder';
import { parseTyped, type Typed } from '../../units/parse';
import type { System } from '../../units/units';

/** What is being felt, nothing recorded yet. */
export interface GateDraft {
  warmth: Schemas['Warmth'];
  held: 'open' | 'yes' | 'no';
  temperature: Typed;
  pressure: Schemas['Pressure'];
  soft: 'open' | 'yes' | 'no';
  gauge: Typed;
  ready: Schemas['Ready'][];
}

export const UNFELT: GateDraft = {
  warmth: 'hand',
  held: 'open',
  temperature: { text: '', unit: 'degC' },
  pressure: 'hose',
  soft: 'open',
  gauge: { text: '', unit: 'kpa' },
  ready: [],
};

/** The observation as a fact, or what is still to be felt. */
export function observed(draft: GateDraft, asked: Schemas['Asked'][], system: System): Fact | string {
  const facts: Schemas['GateObservedFacts'] = { warmth: draft.warmth, pressure: draft.pressure };
  if (draft.warmth === 'hand') {
    if (draft.held === 'open') return 'Feel cap and lower hose';
    facts.held = draft.held === 'yes';
  } else {
    const parsed = parseTyped(draft.temperature, 'temperature', system);
    if (!parsed.ok) return parsed.empty ? 'How warm is it?' : 'Correct the temperature';
    facts.temperature_c = parsed.base;
  }
  if (draft.pressure === 'hose') {
    if (draft.soft === 'open') return 'Squeeze the upper hose';
    facts.soft = draft.soft === 'yes';
  } else {
    const parsed = parseTyped(draft.gauge, 'pressure', system);
    if (!parsed.ok) return parsed.empty ? 'What does the gauge show?' : 'Correct the gauge';
    facts.gauge_kpa = parsed.base;
  }
  const ready = asked.map((row) => row.ready).filter((row) => draft.ready.includes(row));
  if (ready.length < asked.length) return 'Tick what stands ready';
  return { kind: 'gate_observed', facts: { ...facts, ready } };
}
