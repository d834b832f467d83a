import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../api/client';
import { TextField } from '../controls/TextField';
import { type BleedForm, bleedToForm, freshStep } from './bleedForm';
import { RowTable } from './RowTable';

const words = (names: Record<string, string>) => Object.entries(names).map(([value, label]) => ({ value, label }));
const SETTING = words({ any: 'as it is', off: 'off', low: 'low', full: 'full' });
const CAP = words({ open: 'open', funnel: 'funnel', engaged: 'just engaged', tight: 'tight' });
const YES_NO = words({ no: 'no', yes: 'yes' });

interface Props {
  form: BleedForm | null;
  recipes: Schemas['BleedRecipe'][];
  onChange: (form: BleedForm | null) => void;
}

/** The loop's own bleed recipe, begun from a generic one; without one, its build decides. */
export function BleedEditor({ form, recipes, onChange }: Props) {
  if (!form)
    return (
      <div className="layouteditor">
        <p>No recipe of its own: the generic one for this build is used. Start from one of these:</p>
        <div className="row">
          {recipes.map((recipe) => (
            <ButtonBase key={recipe.name} className="key" onClick={() => onChange(bleedToForm(recipe))}>
              {recipe.name}
            </ButtonBase>
          ))}
        </div>
      </div>
    );
  return (
    <div className="layouteditor">
      <div className="row">
        <TextField
          name="recipe-name"
          label="Recipe"
          value={form.name}
          max={60}
          wide
          onChange={(name) => onChange({ ...form, name })}
        />
        <TextField
          name="recipe-stated"
          label="Stated in"
          value={form.statedIn}
          max={120}
          wide
          onChange={(statedIn) => onChange({ ...form, statedIn })}
        />
        <ButtonBase className="key" onClick={() => onChange(null)}>
          Use the generic recipe
        </ButtonBase>
      </div>
      <RowTable
        name="Steps"
        says="no time: ended by hand; no rpm: engine off, or write pump"
        columns={[
          { key: 'act', label: 'what', wide: true },
          { key: 'seconds', label: 's' },
          { key: 'rpm', label: 'rpm' },
          { key: 'heater', label: 'heater', options: SETTING },
          { key: 'blower', label: 'blower', options: SETTING },
          { key: 'ac', label: 'AC', options: SETTING },
          { key: 'cap', label: 'neck', options: CAP },
          { key: 'bleeder', label: 'bleeder' },
          { key: 'squeeze', label: 'squeeze', options: YES_NO },
          { key: 'nose_up', label: 'nose up', options: YES_NO },
          { key: 'top_up', label: 'top up', options: YES_NO },
        ]}
        rows={form.steps}
        fresh={freshStep}
        onChange={(steps) => onChange({ ...form, steps })}
      />
      <p className="ink2">Before a step that opens a hot loop, the guided steps stop for the safe-to-open check.</p>
    </div>
  );
}
