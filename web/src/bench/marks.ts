import type { Schemas } from '../api/client';
import type { FrostMarks } from '../figures/FrostRule';
import { number } from '../units/units';

/** Marks of the frost rule that every stage shows: what was found, what is in it now, how cold it gets here. */
export function stateMarks(state: Schemas['LoopState'], coldest: number | null): FrostMarks {
  const rinsed = (state.flush?.rounds.length ?? 0) > 1 || state.poured.product_l > 0;
  const changed = state.drained_l !== null && rinsed;
  const foundKnown = state.found.strength_percent !== null && state.found.base !== 'none';
  return {
    found: foundKnown && !changed ? state.claim.freeze_c : null,
    now: changed && state.claim.why !== 'read' ? state.claim.freeze_c : null,
    coldest,
  };
}

export const strengthTag = (percent: number): string => `${number(percent, 0)} % vol`;
