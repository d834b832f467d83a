import type { Schemas } from '../../api/client';
import { practiceRun } from '../../api/where';

export interface Place {
  to: string;
  name: string;
  /** Shown to leads only. */
  leads?: boolean;
  /** Not while somebody practises. */
  depot?: boolean;
}

/** The places of the menu, in its order. */
export const PLACES: readonly Place[] = [
  { to: '/', name: 'Board' },
  { to: '/machines', name: 'Machines' },
  { to: '/readings', name: 'Readings' },
  { to: '/instruments', name: 'Instruments' },
  { to: '/products', name: 'Products' },
  { to: '/shelf', name: 'Shelf' },
  { to: '/rules', name: 'Rules' },
  { to: '/practice', name: 'Practice', depot: true },
  { to: '/people', name: 'People', leads: true, depot: true },
  { to: '/data', name: 'Data', leads: true, depot: true },
  { to: '/help', name: 'Help' },
];

/** The places somebody may go to. */
export const placesFor = (person: Schemas['PersonOut'] | null | undefined): readonly Place[] =>
  PLACES.filter((place) => (!place.leads || person?.role === 'lead') && !(place.depot && practiceRun !== null));
