import type { Schemas } from '../api/client';
import { LOOK } from '../language/names';
import type { Look } from './Jar';

type Word = Schemas['Look'];

/** Tints are free and say nothing of the chemistry; the darkest word of a sample decides. */
const TINTS: [Word, string][] = [
  ['oily_film', '#6b5a3a'],
  ['gel', '#8c7a4e'],
  ['fine_sand', '#b0682f'],
  ['orange_rust', '#a95523'],
  ['brown_swirl', '#9a6a3a'],
  ['clay', '#b39a72'],
  ['particles', '#b98a52'],
  ['cloudy', '#c3bf9c'],
  ['slight_haze', '#d3c79b'],
  ['froth', '#d8d2b4'],
  ['faded', '#d9cf9a'],
  ['residual_tint', '#dfe3c4'],
  ['clean_bright', '#cfe0d6'],
  ['crystal_clear', '#e8eff1'],
];
const HAZE: Partial<Record<Word, number>> = { cloudy: 0.34, slight_haze: 0.2, froth: 0.3, gel: 0.22, clay: 0.25 };
const GRAINY: Word[] = ['fine_sand', 'particles', 'clay'];

/** How a sample is drawn. */
export function jarLook(jar: Schemas['Jar'] | null): Look {
  if (jar === null || jar.entry_id === null) return { kind: 'empty' };
  const tint = TINTS.find(([word]) => jar.looks.includes(word))?.[1] ?? '#dfe3c4';
  return {
    kind: 'sampled',
    tint,
    haze: Math.max(0, ...jar.looks.map((word) => HAZE[word] ?? 0)),
    sedimentMm: jar.sediment_mm ?? 0,
    grains: jar.looks.some((word) => GRAINY.includes(word)),
  };
}

/** "orange rust, 4 mm sediment"; words before pictures. */
export function jarWords(jar: Schemas['Jar'] | null): string {
  if (jar === null || jar.entry_id === null) return 'no sample taken';
  const words = jar.looks.map((word) => LOOK[word]).join(', ');
  const settled = jar.sediment_mm ? `${jar.sediment_mm} mm sediment` : '';
  return [words, settled].filter(Boolean).join(', ');
}
