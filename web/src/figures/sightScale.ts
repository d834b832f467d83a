import type { Schemas } from '../api/client';

type Scale = Schemas['FrostScale'];

/** Mass percent at a mark of the scale; past zero with its slope there, past the end the end. */
export function massAt(scale: Scale, celsius: number): number {
  const rows = scale.lean;
  const [first, second] = [rows[0], rows[1]];
  if (!first || !second) return 0;
  if (celsius >= first.freeze_c)
    return (
      ((celsius - first.freeze_c) * (second.glycol_mass_percent - first.glycol_mass_percent)) /
      (second.freeze_c - first.freeze_c)
    );
  for (let i = 1; i < rows.length; i++) {
    const [a, b] = [rows[i - 1], rows[i]];
    if (a && b && celsius >= b.freeze_c)
      return (
        a.glycol_mass_percent +
        ((celsius - a.freeze_c) / (b.freeze_c - a.freeze_c)) * (b.glycol_mass_percent - a.glycol_mass_percent)
      );
  }
  return rows.at(-1)?.glycol_mass_percent ?? 0;
}

/** The mark at a mass percent; the inverse of massAt. */
export function seenAt(scale: Scale, mass: number): number {
  const rows = scale.lean;
  const [first, second] = [rows[0], rows[1]];
  if (!first || !second) return 0;
  if (mass <= first.glycol_mass_percent)
    return (
      first.freeze_c +
      ((mass - first.glycol_mass_percent) * (second.freeze_c - first.freeze_c)) /
        (second.glycol_mass_percent - first.glycol_mass_percent)
    );
  for (let i = 1; i < rows.length; i++) {
    const [a, b] = [rows[i - 1], rows[i]];
    if (a && b && mass <= b.glycol_mass_percent)
      return (
        a.freeze_c +
        ((mass - a.glycol_mass_percent) / (b.glycol_mass_percent - a.glycol_mass_percent)) * (b.freeze_c - a.freeze_c)
      );
  }
  return rows.at(-1)?.freeze_c ?? 0;
}
