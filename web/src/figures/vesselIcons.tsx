/** Cans, jug and tank in ink; a hot line is the mark to stop at. */

const can = (x: number) => `M${x} 13q0 -4 4 -5V4h9v4l7 2q4 1 4 6v24H${x}z`;

export function CansIcon({ count }: { count: number }) {
  const shown = Math.min(count, 3);
  return (
    <svg width={shown * 27 + 4} height="44" viewBox={`0 0 ${shown * 27 + 4} 44`} aria-hidden="true">
      {Array.from({ length: shown }, (_, i) => (
        <path key={i} d={can(2 + i * 27)} fill="url(#conc)" stroke="var(--ink)" strokeWidth="2.2" />
      ))}
    </svg>
  );
}

/** level: share of the can that stays in it (0-1). */
export function CanIcon({ level }: { level: number }) {
  const y = 40 - 30 * Math.min(1, Math.max(0, level));
  return (
    <svg width="40" height="44" viewBox="0 0 40 44" aria-hidden="true">
      <path d={can(8)} fill="var(--sheet)" />
      <path d={`M8 ${y}H32V40H8z`} fill="url(#conc)" />
      <path d={can(8)} fill="none" stroke="var(--ink)" strokeWidth="2.2" />
      <path d={`M2 ${y}H38`} stroke="var(--hot)" strokeWidth="3" />
    </svg>
  );
}

export function JugIcon({ level }: { level: number }) {
  const y = 40 - 32 * Math.min(1, Math.max(0, level));
  return (
    <svg width="46" height="44" viewBox="0 0 46 44" aria-hidden="true">
      <path d={`M6 ${y}H34L33 40H7z`} fill="url(#water)" />
      <path d="M4 4l3 36h26l3 -36z" fill="none" stroke="var(--ink)" strokeWidth="2.2" />
      <path d="M35 10q9 0 8 9t-9 9" fill="none" stroke="var(--ink)" strokeWidth="3" />
    </svg>
  );
}

export function TankIcon() {
  return (
    <svg width="48" height="44" viewBox="0 0 48 44" aria-hidden="true">
      <path d="M14 3h14v7H14z" fill="var(--ink)" />
      <path d="M4 24h36v13q0 3 -3 3H7q-3 0 -3 -3z" fill="url(#mixed)" />
      <path
        d="M8 10h28q4 0 4 4v22q0 4 -4 4H8q-4 0 -4 -4V14q0 -4 4 -4z"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2.2"
      />
      <path d="M34 24h12" stroke="var(--ink)" strokeWidth="2.6" />
    </svg>
  );
}
