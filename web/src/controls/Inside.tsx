import type { Schemas } from '../api/client';
import { BASE, FAMILY } from '../language/names';
import { Chips } from './Chips';
import { Segment } from './Segment';

export type BaseOrUnknown = Schemas['Base'] | 'unknown';
export type FamilyOrUnknown = Schemas['Family'] | 'unknown';

export const FAMILIES = (Object.keys(FAMILY) as Schemas['Family'][]).map((value) => ({ value, label: FAMILY[value] }));
const GLYCOL_FAMILIES = FAMILIES.filter((row) => row.value !== 'glycol_free');
const BASES = [
  { value: 'unknown', label: 'not known' },
  ...(Object.keys(BASE) as Schemas['Base'][]).map((value) => ({ value, label: BASE[value] })),
] as { value: BaseOrUnknown; label: string }[];

interface Props {
  base: BaseOrUnknown;
  family: FamilyOrUnknown;
  onChange: (part: { base?: BaseOrUnknown; family?: FamilyOrUnknown }) => void;
}

/** Base and family of what stands in a loop; without glycol there is but one family. */
export function Inside({ base, family, onChange }: Props) {
  return (
    <>
      <Segment
        label="Inside now (from papers or a reading, never from colour)"
        value={base}
        options={BASES}
        onChange={(next) => onChange(next === 'none' ? { base: next, family: 'glycol_free' } : { base: next })}
      />
      {base !== 'unknown' && base !== 'none' && (
        <Chips
          label="Inhibitor family, if known"
          options={GLYCOL_FAMILIES}
          picked={family === 'unknown' ? [] : [family]}
          onChange={(picked) => onChange({ family: picked.at(-1) ?? 'unknown' })}
        />
      )}
    </>
  );
}
