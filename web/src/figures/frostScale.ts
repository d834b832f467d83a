import type { Schemas } from '../api/client';

type Scale = Schemas['FrostScale'];

/** Strength [% by mass] at a freeze point on the lean leg, read by straight lines between the core's marks. */
export function massAt(scale: Scale, freezeC: number): number {
  for (let i = 1; i < scale.lean.length; i++) {
    const [a, b] = [scale.lean[i - 1], scale.lean[i]];
    if (a && b && freezeC <= a.freeze_c && freezeC >= b.freeze_c) {
      const part = (a.freeze_c - freezeC) / (a.freeze_c - b.freeze_c);
      return a.glycol_mass_percent + part * (b.glycol_mass_percent - a.glycol_mass_percent);
    }
  }
  return scale.lean.at(-1)?.glycol_mass_percent ?? 0;
}

/** Freeze points of round strengths on the lean leg, for its ticks. */
export function massTicks(scale: Scale): { percent: number; freezeC: number }[] {
  return scale.lean
    .filter((mark) => Math.round(mark.glycol_mass_percent) % 5 === 0 && mark.glycol_mass_percent > 1)
    .map((mark) => ({ percent: Math.round(mark.glycol_mass_percent), freezeC: mark.freeze_c }));
}
