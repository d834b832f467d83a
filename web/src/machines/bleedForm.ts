import type { Schemas } from '../api/client';
import { numberOf, wrongNumber } from '../controls/NumberField';
import { Unreadable } from '../units/unreadable';
import type { Row } from './RowTable';

type Recipe = Schemas['BleedRecipe'];
type Step = Recipe['steps'][number];

/** A bleed recipe as it stands in the editor: everything typed. */
export interface BleedForm {
  name: string;
  statedIn: string;
  steps: Row[];
}

const text = (value: number | null | undefined): string => (value == null ? '' : String(value));
const yes = (value: boolean | undefined): string => (value ? 'yes' : 'no');

export function bleedToForm(recipe: Recipe): BleedForm {
  return {
    name: recipe.name,
    statedIn: recipe.stated_in ?? '',
    steps: recipe.steps.map((step) => ({
      act: step.act ?? '',
      seconds: text(step.seconds),
      rpm: step.pump ? 'pump' : text(step.rpm),
      heater: step.heater ?? 'any',
      blower: step.blower ?? 'any',
      ac: step.ac ?? 'any',
      cap: step.cap ?? 'tight',
      bleeder: text(step.bleeder),
      squeeze: yes(step.squeeze),
      nose_up: yes(step.nose_up),
      top_up: yes(step.top_up),
    })),
  };
}

export const freshStep = (): Row => ({
  act: '',
  seconds: '60',
  rpm: '800',
  heater: 'full',
  blower: 'any',
  ac: 'any',
  cap: 'open',
  bleeder: '',
  squeeze: 'no',
  nose_up: 'no',
  top_up: 'yes',
});

function figure(given: string | undefined, unit: string, what: string): number | null {
  const wrong = wrongNumber(given ?? '', unit);
  if (wrong) throw new Unreadable(`${what}: ${wrong}`);
  return numberOf(given ?? '');
}

/** What is typed as a recipe; throws Unreadable for the first thing that cannot be read. */
export function bleedFromForm(form: BleedForm): Recipe {
  const steps = form.steps.map((row, i): Step => {
    const what = `Bleed step ${i + 1}`;
    const pump = row.rpm?.trim().toLowerCase() === 'pump';
    const seconds = figure(row.seconds, 's', what);
    if (seconds === null && !row.act?.trim()) throw new Unreadable(`${what}: without a time, say until when.`);
    return {
      act: row.act?.trim() ?? '',
      seconds,
      rpm: pump ? null : figure(row.rpm, 'rpm, or pump', what),
      pump,
      heater: row.heater as Step['heater'],
      blower: row.blower as Step['blower'],
      ac: row.ac as Step['ac'],
      cap: row.cap as Step['cap'],
      bleeder: figure(row.bleeder, '', what),
      squeeze: row.squeeze === 'yes',
      nose_up: row.nose_up === 'yes',
      top_up: row.top_up === 'yes',
    };
  });
  return { name: form.name.trim(), stated_in: form.statedIn.trim(), steps };
}
