import { HatchPattern } from './patterns';

export type Look =
  | { kind: 'sampled'; tint: string; haze: number; sedimentMm: number; grains: boolean }
  | { kind: 'ghost'; percent: number }
  | { kind: 'control' }
  | { kind: 'empty' };

interface Props {
  look: Look;
  label: string;
  /** The sentence for those who do not see it. */
  says: string;
  id: string;
}

const [W, H] = [54, 96];
const [TOP, FOOT] = [16, 92];
const MM = 1.5; // height of a millimetre of sediment; what is higher than the jar fills it

/** A jar drawn from its data: tint, haze and what settled, never a picture. Ahead it is dashed; without a sample, empty. */
export function Jar({ look, label, says, id }: Props) {
  const dashed = look.kind === 'ghost';
  const fluid = { x: 4, y: TOP + 10, width: W - 8, height: FOOT - TOP - 12 };
  return (
    <svg width={W} height={H} viewBox={`0 0 ${W} ${H}`} role="img" aria-label={says} className="jar">
      {look.kind === 'ghost' && (
        <defs>
          <HatchPattern id={id} percent={look.percent} />
        </defs>
      )}
      <rect x="3" y={TOP} width={W - 6} height={FOOT - TOP} rx="7" fill="var(--sheet)" />
      {look.kind === 'sampled' && (
        <>
          <rect {...fluid} fill={look.tint} />
          {look.haze > 0 && <rect {...fluid} fill="#ffffff" opacity={look.haze} />}
          {look.grains && <Grains />}
          {look.sedimentMm > 0 && <Sediment mm={look.sedimentMm} />}
        </>
      )}
      {look.kind === 'ghost' && <rect {...fluid} fill={`url(#${id})`} opacity="0.7" />}
      {look.kind === 'control' && <rect {...fluid} fill="url(#mixed)" />}
      <rect
        x="3"
        y={TOP}
        width={W - 6}
        height={FOOT - TOP}
        rx="7"
        fill="none"
        stroke={dashed ? 'var(--ink3)' : 'var(--ink)'}
        strokeWidth="2.5"
        strokeDasharray={dashed ? '5 4' : undefined}
      />
      <rect
        x="7"
        y="3"
        width={W - 14}
        height="11"
        rx="2"
        fill={dashed || look.kind === 'empty' ? 'none' : 'var(--ink)'}
        stroke={dashed ? 'var(--ink3)' : 'var(--ink)'}
        strokeWidth="2"
        strokeDasharray={dashed ? '5 4' : undefined}
      />
      {label && (
        <>
          {!dashed && (
            <rect
              x={W / 2 - 10}
              y="38"
              width="20"
              height="22"
              rx="3"
              fill="#fbfcfa"
              stroke="#101a20"
              strokeWidth="1.8"
            />
          )}
          <text
            x={W / 2}
            y="55"
            textAnchor="middle"
            fontSize="17"
            fontWeight="740"
            style={{ fill: dashed ? 'var(--ink)' : '#101a20' }}
          >
            {label}
          </text>
        </>
      )}
    </svg>
  );
}

function Sediment({ mm }: { mm: number }) {
  const height = Math.min(FOOT - TOP - 14, Math.max(3, mm * MM));
  const y = FOOT - 2 - height;
  return (
    <>
      <path d={`M4 ${y}q12 -3 ${(W - 8) / 2} 0t${(W - 8) / 2} 0V${FOOT - 5}q0 3 -4 3H8q-4 0 -4 -3z`} fill="#5d3317" />
      <path d={`M${W - 3} ${y}h4M${W - 3} ${FOOT - 1}h4M${W} ${y}V${FOOT - 1}`} stroke="var(--ink)" strokeWidth="1.4" />
    </>
  );
}

const GRAINS = [
  [12, 40],
  [38, 34],
  [20, 66],
  [42, 70],
  [10, 76],
  [33, 80],
  [44, 48],
] as const;

const Grains = () => (
  <>
    {GRAINS.map(([x, y]) => (
      <circle key={`${x} ${y}`} cx={x} cy={y} r="1.6" fill="#4a2a12" />
    ))}
  </>
);
