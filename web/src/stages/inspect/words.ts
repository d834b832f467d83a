import type { Schemas } from '../../api/client';
import { number } from '../../units/units';

type Words = Schemas['InspectionWords'];

interface Units {
  temperature: (celsius: number, decimals?: number) => string;
  pressure: (kpa: number) => string;
  volume: (litres: number) => string;
}

/** A sample in words: where, what, how much settled. */
export function sampleWords(sampled: Schemas['Sampled'], words: Words | undefined): string {
  const spot = words?.spots.find((row) => row.spot === sampled.spot)?.name ?? sampled.spot;
  const looks = (sampled.looks ?? []).map(
    (look) => words?.looks.find((row) => row.look === look)?.name.toLowerCase() ?? look,
  );
  const sediment = sampled.sediment_mm == null ? [] : [`${number(sampled.sediment_mm, 0)} mm sediment`];
  return `${spot}: ${[...looks, ...sediment].join(', ')}`;
}

function figureText(figure: Schemas['Figure'], value: number, units: Units): string {
  if (figure.kind === 'temperature') return `${figure.name} ${units.temperature(value)}`;
  if (figure.kind === 'pressure') return `${figure.name} ${units.pressure(value)}`;
  if (figure.kind === 'volume') return `${figure.name} ${units.volume(value)}`;
  const unit = figure.unit === 'pH' ? '' : ` ${figure.unit}`;
  return `${figure.name} ${number(value, 2).replace(/\.?0+$/, '')}${unit}`;
}

/** A check in words: its name and what it answered. */
export function testWords(tested: Schemas['Tested'], words: Words | undefined, units: Units): string {
  const row = words?.checks.find((one) => one.check === tested.check);
  if (!row) return tested.check;
  const outcome = row.outcomes?.find((one) => one.key === tested.outcome)?.name;
  const figures = (row.figures ?? [])
    .filter((figure) => tested.figures?.[figure.key] !== undefined)
    .map((figure) => figureText(figure, tested.figures?.[figure.key] ?? 0, units));
  return `${row.name}: ${[...(outcome ? [outcome] : []), ...figures].join(', ')}`;
}
