import type { Schemas } from '../api/client';

/** A vessel of a layout drawn full; what is inside is not known. */
export const asFull = (node: Schemas['Node']): Schemas['VesselState'] => ({
  id: node.id,
  name: node.name,
  kind: node.kind,
  volume_l: node.volume_l,
  litres: node.volume_l,
  old_percent: null,
  old_sd_percent: 0,
  litres_sd: 0,
  strength_percent: null,
  freeze_c: null,
});
