import { type System, volumeText } from '../units/units';
import { number } from '../units/units';

interface Props {
  system: System;
  capacityL: number;
  insideL: number;
  oldPercent: number | null;
  productL: number;
  waterL: number;
  blendPercent: number;
  loopPercent: number;
  readyMix: boolean;
}

const WIDE = 676;
const MEDIUM = 416;
const NARROW = 358;
const WIDTH_NAME: Record<number, string> = { [WIDE]: 'wide', [MEDIUM]: 'medium', [NARROW]: 'narrow' };
const Y = 2;
const H = 50;

interface SpanProps {
  W: number;
  from: number;
  to: number;
  y: number;
  strong: string;
  rest: string;
}

/** A dimension line with its text in the middle, under what it is true of. */
function Span({ W, from, to, y, strong, rest }: SpanProps) {
  const half = (strong.length + rest.length) * 4.1 + 8;
  const middle = Math.max(half, Math.min(W - half, (from + to) / 2));
  const inner = `M${from} ${y}H${Math.max(from, middle - half)}M${Math.min(to, middle + half)} ${y}H${to}`;
  return (
    <g>
      <path d={`M${from} ${y - 8}v16M${to} ${y - 8}v16${inner}`} stroke="var(--ink)" strokeWidth="2" />
      <text x={middle} y={y + 6} textAnchor="middle" fontSize="18" className="span">
        <tspan fontWeight="720">{strong}</tspan> {rest}
      </text>
    </g>
  );
}

/** The whole loop in pour order; strengths stand under what they are true of. Overhang is what the mix settles by. */
export function AnswerBar(p: Props) {
  return (
    <>
      <Bar {...p} W={WIDE} />
      <Bar {...p} W={MEDIUM} />
      <Bar {...p} W={NARROW} />
    </>
  );
}

function Bar({ W, ...p }: Props & { W: number }) {
  const volume = (litres: number) => volumeText(litres, p.system);
  const whole = Math.max(p.capacityL, p.insideL + p.productL + p.waterL);
  const s = (W - 4) / whole;
  const x1 = 2 + p.insideL * s;
  const x2 = x1 + p.productL * s;
  const x3 = x2 + p.waterL * s;
  const mark = 2 + p.capacityL * s;
  const poured = p.productL + p.waterL;
  const old =
    p.oldPercent === null || p.oldPercent < 0.05
      ? ''
      : `${number(p.oldPercent, p.oldPercent < 10 ? 1 : 0)} % old coolant`;
  const label = `Still inside ${volume(p.insideL)}, product ${volume(p.productL)}, water ${volume(p.waterL)}, loop ${volume(p.capacityL)}`;
  return (
    <svg viewBox={`0 0 ${W} 104`} role="img" aria-label={label} className={`answer-bar ${WIDTH_NAME[W]}`}>
      <rect x="2" y={Y} width={x1 - 2} height={H} fill="url(#water)" />
      {p.oldPercent !== null && p.oldPercent > 0.4 && (
        <rect
          x="2"
          y={Y}
          width={x1 - 2}
          height={H}
          fill={`url(#${p.oldPercent > 60 ? 'old100' : p.oldPercent > 12 ? 'old23' : 'old5'})`}
        />
      )}
      <rect x={x1} y={Y} width={x2 - x1} height={H} fill={p.readyMix ? 'url(#mixed)' : 'url(#conc)'} />
      <rect x={x2} y={Y} width={Math.max(0, x3 - x2)} height={H} fill="url(#water)" />
      <path
        d={`M2 ${Y}H${Math.min(x3, mark)}V${Y + H}H2zM${x1} ${Y}v${H}M${x2} ${Y}v${H}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2.4"
      />
      {x3 > mark && (
        <path
          d={`M${mark} ${Y}H${x3}V${Y + H}H${mark}`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2"
          strokeDasharray="3 3"
        />
      )}
      <path d={`M${mark} ${Y - 2}v${H + 8}`} stroke="var(--ink)" strokeWidth="4" />
      {old && x1 > 130 && (
        <>
          <rect x="10" y={Y + 14} width={old.length * 7.6} height="22" rx="3" fill="var(--sheet)" />
          <text x="16" y={Y + 30} fontSize="15.5" fontWeight="560">
            {old}
          </text>
        </>
      )}
      {!p.readyMix && poured > 0.05 && (
        <Span
          W={W}
          from={x1}
          to={x3}
          y={68}
          strong={`${number(p.blendPercent, 0)} %`}
          rest={`in the bucket: ${volume(poured)}`}
        />
      )}
      <Span
        W={W}
        from={2}
        to={mark}
        y={92}
        strong={`${number(p.loopPercent, 0)} %`}
        rest={`in the loop: ${volume(p.capacityL)}${W === NARROW ? '' : ', full to the cold mark'}`}
      />
    </svg>
  );
}
