import type { Schemas } from '../../api/client';

/** A round in words, as it stands under its jar. */
export const roundName = (round: Schemas['RoundState']): string =>
  round.number === 0
    ? 'as found'
    : round.method === 'cleaner'
      ? `round ${round.number}, cleaner`
      : `round ${round.number}`;
