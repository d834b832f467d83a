import type { Schemas } from '../../api/client';

export interface Place {
  to: string;
  name: string;
  /** Shown to leads only. */
  leads?: boolean;
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
  { to: '/people', name: 'People', leads: true },
  { to: '/data', name: 'Data', leads: true },
  { to: '/help', name: 'Help' },
];

/** The places somebody may go to. */
export const placesFor = (person: Schemas['PersonOut'] | null | undefined): readonly Place[] =>
  PLACES.filter((place) => !place.leads || person?.role === 'lead');
