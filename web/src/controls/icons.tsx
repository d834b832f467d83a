interface Size {
  size?: number;
}

export const Tick = ({ size = 20 }: Size) => (
  <svg
    width={size}
    height={size}
    viewBox="0 0 20 20"
    fill="none"
    stroke="currentColor"
    strokeWidth="3.2"
    aria-hidden="true"
  >
    <path d="M3.5 10.5l4.6 4.6L16.8 5.6" strokeLinecap="square" />
  </svg>
);

export const Cross = ({ size = 16 }: Size) => (
  <svg width={size} height={size} viewBox="0 0 22 22" aria-hidden="true">
    <path d="M4 4l14 14M18 4L4 18" stroke="var(--hot)" strokeWidth="4.4" />
  </svg>
);

export const Change = ({ size = 18 }: Size) => (
  <svg
    width={size}
    height={size}
    viewBox="0 0 20 20"
    fill="none"
    stroke="currentColor"
    strokeWidth="2.6"
    aria-hidden="true"
  >
    <path d="M10 2v10M5.5 8l4.5 4.5L14.5 8M3 17h14" />
  </svg>
);

export const Arrow = ({ size = 30 }: Size) => (
  <svg
    width={size}
    height={size}
    viewBox="0 0 22 22"
    fill="none"
    stroke="currentColor"
    strokeWidth="3.4"
    aria-hidden="true"
  >
    <path d="M2 11h16M11.5 4.2 18.6 11l-7.1 6.8" />
  </svg>
);

export const BoardIcon = () => (
  <svg width="30" height="24" viewBox="0 0 30 24" aria-hidden="true">
    <path d="M0 1h8v5H0zM0 9.5h8v5H0zM0 18h8v5H0z" fill="currentColor" />
    <path d="M11 3.5h19M11 12h19M11 20.5h19" stroke="currentColor" strokeWidth="2.4" />
  </svg>
);

export const FindIcon = () => (
  <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden="true">
    <circle cx="9" cy="9" r="6" fill="none" stroke="currentColor" strokeWidth="2.8" />
    <path d="M13.5 13.5 20 20" stroke="currentColor" strokeWidth="3.2" />
  </svg>
);

export const Minus = () => (
  <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden="true">
    <path d="M3 11h16" stroke="currentColor" strokeWidth="3.4" />
  </svg>
);

export const Plus = () => (
  <svg width="22" height="22" viewBox="0 0 22 22" aria-hidden="true">
    <path d="M3 11h16M11 3v16" stroke="currentColor" strokeWidth="3.4" />
  </svg>
);

export const NowMark = () => (
  <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
    <path d="M4 2l12 8-12 8z" fill="currentColor" />
  </svg>
);

export const Ring = ({ dashed = false }: { dashed?: boolean }) => (
  <svg width="20" height="20" viewBox="0 0 20 20" aria-hidden="true">
    <circle
      cx="10"
      cy="10"
      r="6.5"
      fill="none"
      stroke="var(--ink3)"
      strokeWidth="2"
      strokeDasharray={dashed ? '3 3' : undefined}
    />
  </svg>
);

/** Where the interval stands: an I, as drawn on the frost rule. */
export const IntervalMark = () => (
  <svg width="22" height="18" viewBox="0 0 22 18" aria-hidden="true">
    <path d="M4 2h14M11 2v14M4 16h14" stroke="var(--cold)" strokeWidth="3" fill="none" />
  </svg>
);
