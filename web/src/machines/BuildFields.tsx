import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../api/client';
import { Chips } from '../controls/Chips';
import { FAMILIES } from '../controls/Inside';
import { TextField } from '../controls/TextField';
import { MATERIAL } from '../language/names';
import type { TakeIn } from './takeIn';

const MATERIALS = (Object.keys(MATERIAL) as Schemas['Material'][]).map((value) => ({ value, label: MATERIAL[value] }));

interface Props {
  form: TakeIn;
  layouts: Schemas['GenericOut'][];
  onChange: (part: Partial<TakeIn>) => void;
}

/** A loop by how it is built, what it touches and what its maker asks for. */
export function BuildFields({ form, layouts, onChange }: Props) {
  return (
    <>
      <div className="starts" role="radiogroup" aria-label="Build of the loop">
        {layouts.map((row) => (
          <Start
            key={row.key}
            name={row.name}
            says={row.says}
            picked={form.layout === row.key}
            onPick={() => onChange({ layout: row.key })}
          />
        ))}
      </div>
      <Chips
        label="Materials in contact"
        options={MATERIALS}
        picked={form.materials}
        onChange={(materials) => onChange({ materials })}
      />
      <Chips
        label="Maker’s requirement"
        options={FAMILIES}
        picked={form.families}
        onChange={(families) => onChange({ families })}
      />
      {form.families.length > 0 && (
        <TextField
          name="stated"
          label="Where it is stated"
          value={form.statedIn}
          max={120}
          wide
          onChange={(statedIn) => onChange({ statedIn })}
        />
      )}
    </>
  );
}

interface StartProps {
  name: string;
  says: string;
  picked: boolean;
  onPick: () => void;
}

export function Start({ name, says, picked, onPick }: StartProps) {
  return (
    <ButtonBase className={`opt${picked ? ' picked' : ''}`} role="radio" aria-checked={picked} onClick={onPick}>
      <b>{name}</b>
      <small>{says}</small>
    </ButtonBase>
  );
}
