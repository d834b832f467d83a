import type { Schemas } from '../api/client';
import { type System, temperatureText } from '../units/units';
import { CLAIM } from '../language/names';

const W = 170;
const TURN = 16;
const x = (celsius: number) => 6 - (Math.max(-50, Math.min(0, celsius)) * (W - 20 - TURN)) / 50;

interface Props {
  system: System;
  claim: Schemas['RowClaim'];
  target: number | null;
}

/** What is in the loop now: a solid mark is read, a hollow one comes from the litres; water gets tape and words. */
export function MiniFrost({ system, claim, target }: Props) {
  const temperature = (celsius: number, decimals?: number) => temperatureText(celsius, system, decimals);
  if (claim.freeze_c === null) return <span className="mini-words">not read yet</span>;
  if (claim.freeze_c > -3) {
    return (
      <div className="keep">
        <i className="tape" aria-hidden="true" />
        <span>freezes at {temperature(claim.freeze_c)}, keep indoors</span>
      </div>
    );
  }
  const read = claim.why === 'read';
  const at = claim.freeze_c;
  const words = `${temperature(at, read ? 1 : 0)}${read ? '' : ` ${CLAIM[claim.why] ?? 'predicted'}`}`;
  const aria = `${words}${target === null ? '' : `, target ${temperature(target, 0)}`}`;
  return (
    <svg width={W} height="56" viewBox={`0 0 ${W} 56`} role="img" aria-label={aria}>
      {[0, 1, 2, 3, 4].map((i) => (
        <rect
          key={i}
          x={x(-i * 10)}
          y="18"
          width={(W - 20 - TURN) / 5 + 0.5}
          height="13"
          fill={`color-mix(in srgb, var(--rule1) ${i * 25}%, var(--rule0))`}
        />
      ))}
      <path d={`M${x(-50)} 18H${x(0)}v13H${x(-50)}z`} fill="none" stroke="var(--ink)" strokeWidth="1.6" />
      <path
        d={`M${x(-50)} 18q${TURN} 0 ${TURN} 6.5t-${TURN} 6.5`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="1.6"
        strokeDasharray="3 3"
      />
      {read ? (
        <path d={`M${x(at)} 14v21`} stroke="var(--ink)" strokeWidth="3.4" />
      ) : (
        <rect x={x(at) - 3.5} y="14" width="7" height="21" fill="var(--ground)" stroke="var(--ink)" strokeWidth="1.8" />
      )}
      {target !== null && (
        <>
          <path d={`M${x(target)} 17l-6 -9h12z`} fill="var(--cold)" />
          <text x={x(target) - 9} y="15" textAnchor="end" fontSize="15" fontWeight="720" className="cold">
            {temperature(target, 0)}
          </text>
        </>
      )}
      <text x={Math.max(34, Math.min(x(at), W - 44))} y="51" textAnchor="middle" fontSize="14.5" fontWeight="640">
        {words}
      </text>
    </svg>
  );
}
