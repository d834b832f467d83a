import type { Schemas } from '../../api/client';
import type { Typed } from '../../units/parse';

/** A pour as it is typed, until it is recorded. */
export interface FillDraft {
  product: Typed;
  water: Typed;
  /** A kind of water, or a water of the depot by its number. */
  kind: Schemas['Water'] | '' | `of ${number}`;
  atMark: boolean;
  method: Schemas['FillMethod'];
  point: string;
  /** Water went into a loop that takes none. */
  mistake: boolean;
  productId: string;
  /** The can it comes out of, by its number; empty: not said. */
  canId: string;
  vacuum: Typed;
  drop: Typed;
  heldMin: string;
  loopC: Typed;
}
