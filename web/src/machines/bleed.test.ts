import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { orSentence } from '../units/unreadable';
import { bleedFromForm, bleedToForm, freshStep } from './bleedForm';

const recipe: Schemas['BleedRecipe'] = {
  name: 'Lift drive',
  stated_in: 'page 41',
  steps: [
    { act: 'idle', seconds: 300, rpm: 900, heater: 'full', cap: 'open', top_up: true },
    { act: 'until the swirl is seen', seconds: null, pump: true, cap: 'open' },
  ],
};

describe('a bleed recipe in the editor', () => {
  it('comes back as it went in', () => {
    const back = bleedFromForm(bleedToForm(recipe));
    expect(back.steps[0]).toMatchObject({
      act: 'idle',
      seconds: 300,
      rpm: 900,
      pump: false,
      cap: 'open',
      top_up: true,
    });
    expect(back.steps[1]).toMatchObject({ seconds: null, rpm: null, pump: true });
    expect(back.stated_in).toBe('page 41');
  });

  it.each([
    [{ seconds: 'long' }, /Bleed step 1: Cannot read/],
    [{ seconds: '', act: '' }, /without a time, say until when/],
    [{ rpm: 'fast' }, /Bleed step 1/],
  ])('says which step cannot be read: %o', (part, said) => {
    const form = { name: 'x', statedIn: '', steps: [{ ...freshStep(), ...part }] };
    expect(orSentence(() => JSON.stringify(bleedFromForm(form)))).toMatch(said);
  });
});
