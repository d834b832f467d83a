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
  /** Number of the person, as the control keeps it; '' until somebody is chosen. */
  isolatedBy: string;
}

export const UNFELT: GateDraft = {
  warmth: 'hand',
  held: 'open',
  temperature: { text: '', unit: 'degC' },
  pressure: 'hose',
  soft: 'open',
  gauge: { text: '', unit: 'kpa' },
  ready: [],
  isolatedBy: '',
};

/** What is opened next: the cap alone, or a drain, which asks for stands and tray as well. */
export type Purpose = 'cap' | 'drain';

type Gate = Schemas['Gate'];

/** Whether this person may open it now. */
export const standsFor = (gate: Gate, me: number | undefined, purpose: Purpose): boolean =>
  gate.open && gate.by_id === String(me) && (purpose === 'cap' || (gate.asked_drain ?? []).length === 0);

/** What has to stand ready for it, as far as it is not confirmed. */
export const askedFor = (gate: Gate, purpose: Purpose): Schemas['Asked'][] => [
  ...gate.asked,
  ...(purpose === 'drain' ? (gate.asked_drain ?? []) : []),
];

/** Only what stands ready is still to be confirmed: the check itself stands. */
export const onlyReady = (gate: Gate, me: number | undefined, purpose: Purpose): boolean =>
  purpose === 'drain' && standsFor(gate, me, 'cap') && !standsFor(gate, me, 'drain');

const NOT_READY = 'Tick what is ready';

/** The confirmation of what stands ready, or what is still to be ticked. */
export function confirmed(draft: GateDraft, asked: Schemas['Asked'][]): Fact | string {
  const ready = asked.map((row) => row.ready).filter((row) => draft.ready.includes(row));
  return ready.length < asked.length ? NOT_READY : { kind: 'ready_confirmed', facts: { ready } };
}

/** The observation as a fact, or what is still to be felt. */
export function observed(draft: GateDraft, asked: Schemas['Asked'][], system: System): Fact | string {
  const facts: Schemas['GateObservedFacts'] = { warmth: draft.warmth, pressure: draft.pressure };
  if (draft.warmth === 'hand') {
    if (draft.held === 'open') return 'Check cap and lower hose';
    facts.held = draft.held === 'yes';
  } else {
    const parsed = parseTyped(draft.temperature, 'temperature', system);
    if (!parsed.ok) return parsed.empty ? 'How warm is it?' : 'Fix the temperature';
    facts.temperature_c = parsed.base;
  }
  if (draft.pressure === 'hose') {
    if (draft.soft === 'open') return 'Squeeze the upper hose';
    facts.soft = draft.soft === 'yes';
  } else {
    const parsed = parseTyped(draft.gauge, 'pressure', system);
    if (!parsed.ok) return parsed.empty ? 'What does the gauge show?' : 'Fix the gauge';
    facts.gauge_kpa = parsed.base;
  }
  const ready = asked.map((row) => row.ready).filter((row) => draft.ready.includes(row));
  if (ready.length < asked.length) return NOT_READY;
  if (ready.includes('isolated')) {
    const who = Number(draft.isolatedBy);
    if (!draft.isolatedBy || !Number.isInteger(who)) return 'Who isolated it?';
    facts.isolated_by_id = who;
  }
  return { kind: 'gate_observed', facts: { ...facts, ready } };
}
