import type { Schemas } from '../../api/client';
import type { Typed } from '../../units/parse';

/** A reading as it is set, not logged yet. */
export interface VerifyDraft {
  instrumentId: number | null;
  value: Typed;
  sample: Typed;
  zero: Typed | null;
  afterHotRun: boolean;
  reason: string;
  edge: Schemas['Edge'];
  /** Service mode is ended, the high voltage works again. */
  live: boolean;
}

export type Instrument = Schemas['InstrumentOut'];
export const REPEATS = 3;
