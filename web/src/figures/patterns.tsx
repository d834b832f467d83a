/** Liquids are ink texture, never hue. Ids are shared by every figure on the page. */
const hatchSpacing = (percent: number): number => 4.2 * (100 / Math.max(percent, 0.5)) ** 0.48;

/** 45° hatch for old coolant: the less of it, the wider apart. */
export function HatchPattern({ id, percent }: { id: string; percent: number }) {
  const s = Number(hatchSpacing(percent).toFixed(1));
  return (
    <pattern id={id} width={s} height={s} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
      <line x1={0} y1={s / 2} x2={s} y2={s / 2} stroke="var(--ink)" strokeWidth={percent > 90 ? 2.1 : 1.65} />
    </pattern>
  );
}

/** Put once at the root of the application. */
export function Patterns() {
  return (
    <svg width="0" height="0" style={{ position: 'absolute' }} aria-hidden="true">
      <defs>
        <HatchPattern id="old100" percent={100} />
        <HatchPattern id="old23" percent={23} />
        <HatchPattern id="old5" percent={5.5} />
        <HatchPattern id="old1" percent={1.3} />
        <pattern id="water" width="18" height="12" patternUnits="userSpaceOnUse">
          <rect width="18" height="12" fill="var(--wet)" />
          <path d="M2 3.5h7M11 9.5h6" stroke="var(--wetdash)" strokeWidth="1.3" />
        </pattern>
        <pattern id="conc" width="4" height="4" patternUnits="userSpaceOnUse">
          <rect width="4" height="4" fill="var(--concbg)" />
          <rect width="2.4" height="4" fill="var(--conc)" />
        </pattern>
        <pattern id="mixed" width="6" height="6" patternUnits="userSpaceOnUse">
          <rect width="6" height="6" fill="var(--wet)" />
          <circle cx="1.5" cy="1.5" r="1.15" fill="var(--ink)" />
          <circle cx="4.5" cy="4.5" r="1.15" fill="var(--ink)" />
        </pattern>
        <pattern id="over" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
          <rect width="8" height="8" fill="var(--hottint)" />
          <path d="M0 4h8M4 0v8" stroke="var(--hot)" strokeWidth="1.6" />
        </pattern>
      </defs>
    </svg>
  );
}

/** A sample of a texture, for keys. Sparse hatches are drawn, since a pattern might miss so small a square. */
export function Swatch({ fill }: { fill: keyof typeof SPARSE | 'old100' | 'conc' | 'mixed' }) {
  const lines = fill in SPARSE ? SPARSE[fill as keyof typeof SPARSE] : null;
  return (
    <svg width="19" height="18" aria-hidden="true">
      <rect x="1" y="1" width="17" height="16" fill="var(--sheet)" />
      {lines ? (
        <path d={lines} stroke="var(--ink)" strokeWidth="1.6" />
      ) : (
        <rect x="1" y="1" width="17" height="16" fill={`url(#${fill})`} />
      )}
      <rect x="1" y="1" width="17" height="16" fill="none" stroke="var(--ink)" strokeWidth="1.4" />
    </svg>
  );
}

const SPARSE = {
  old23: 'M1 12l5 5M1 5l12 12M5 1l13 13M12 1l6 6',
  old5: 'M1 8l9 9M9 1l9 9',
  old1: 'M2 1l16 16',
} as const;
