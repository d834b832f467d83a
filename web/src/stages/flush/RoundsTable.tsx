import { Fragment } from 'react';
import type { Schemas } from '../../api/client';
import { roundName } from '../../bench/jars/roundName';
import { NowMark, Ring, Tick } from '../../controls/icons';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { WATER_KIND } from '../../language/names';

interface Props {
  flush: Schemas['FlushState'];
  ahead: Schemas['RoundAhead'][];
  vessels: Schemas['VesselState'][];
}

/** Rounds as run and as planned: the share each ran at, per vessel, and what the finished loop would then hold. */
export function RoundsTable({ flush, ahead, vessels }: Props) {
  const { volume, system } = useUnits();
  const named = vessels.filter((vessel) => vessel.kind !== 'hoses').slice(0, 4);
  const shown = flush.step === 'plan' ? ahead.slice(0, Math.max(0, 4 - flush.rounds.length) || 1) : [];
  return (
    <table className="rounds">
      <caption className="visually-hidden">Rounds, old coolant in each vessel while it ran, left after refill</caption>
      <thead>
        <tr>
          <th scope="col">Round</th>
          <th scope="col" className="nw">
            Water in
          </th>
          {named.map((vessel) => (
            <th key={vessel.id} scope="col" className="share">
              {capital(vessel.name.replace(/^(Engine|Degas|Overflow) /, ''))}
            </th>
          ))}
          <th scope="col" className="left">
            left after refill{flush.limit_percent !== null && `, limit ${number(flush.limit_percent, 0)} %`}
          </th>
        </tr>
      </thead>
      <tbody>
        {flush.rounds.map((round) => (
          <Fragment key={round.entry_id}>
            <tr className={round.step === 'plan' ? '' : 'now'}>
              <th scope="row">
                {round.step === 'plan' ? <Tick size={15} /> : <NowMark />}
                <span>{round.number === 0 ? 'First drain' : capital(roundName(round))}</span>
              </th>
              <td>
                {round.number === 0 ? '–' : volume(round.water_l)}
                {round.water && <small className="ink2">{WATER_KIND[round.water].slice(0, 5)}</small>}
              </td>
              {named.map((vessel) => {
                const cell = round.vessels.find((row) => row.id === vessel.id);
                return (
                  <td key={vessel.id} className="share">
                    {cell?.old_percent == null ? '–' : `${number(cell.old_percent, 1)} %`}
                  </td>
                );
              })}
              <td className="left">
                <LeftBar
                  percent={round.finished_old_percent}
                  half={round.finished_half_percent ?? 0}
                  limit={flush.limit_percent}
                  predicted={false}
                  words={round.number === 0 ? 'after refill' : round.source === 'predicted' ? '' : round.source}
                />
              </td>
            </tr>
            {round.thin.length > 0 && (
              <tr className="thin">
                <td colSpan={named.length + 3} className="hot">
                  {round.thin.map((said) => sayIn(said, system)).join(' ')}
                </td>
              </tr>
            )}
          </Fragment>
        ))}
        {shown.map((row) => (
          <tr key={row.number} className="ahead">
            <th scope="row">
              <Ring dashed /> <span>Round {row.number}</span>
            </th>
            <td>{volume(row.water_l)}</td>
            <td colSpan={named.length} className="share">
              runs at {number(row.ran_percent, 1)} %
            </td>
            <td className="left">
              <LeftBar
                percent={row.finished_percent}
                half={0}
                limit={flush.limit_percent}
                predicted
                words={`predicted, at most ${number(row.finished_high_percent, 1)} %`}
              />
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

interface BarProps {
  percent: number | null;
  half: number;
  limit: number | null;
  predicted: boolean;
  words: string;
}

const [W, H, LIMIT_X] = [76, 18, 34];

/** The share as a bar against its limit line; what is past the line is hot, a bar too long is broken. */
function LeftBar({ percent, half, limit, predicted, words }: BarProps) {
  if (percent === null) return <span className="ink2">in work</span>;
  const scale = limit ? LIMIT_X / limit : W / 100;
  const end = percent * scale;
  const broken = end > W;
  const width = Math.min(end, W);
  const inside = limit === null ? width : Math.min(width, LIMIT_X);
  const over = limit !== null && percent > limit;
  return (
    <span className="leftbar">
      <svg width={W + 2} height={H} viewBox={`0 0 ${W + 2} ${H}`} aria-hidden="true">
        {predicted ? (
          <rect
            x="1"
            y="3"
            width={Math.max(2, width)}
            height={H - 6}
            fill="none"
            stroke="var(--ink)"
            strokeWidth="2"
            strokeDasharray="4 3"
          />
        ) : (
          <>
            <rect x="0" y="2" width={Math.max(1.5, inside)} height={H - 4} fill="var(--ink)" />
            {over && <rect x={LIMIT_X} y="2" width={width - LIMIT_X} height={H - 4} fill="var(--hot)" />}
            {broken && (
              <path
                d={`M${W - 18} 0l-6 9 6 9M${W - 10} 0l-6 9 6 9`}
                stroke="var(--sheet)"
                strokeWidth="3"
                fill="none"
              />
            )}
          </>
        )}
        {limit !== null && <path d={`M${LIMIT_X} 0V${H}`} stroke="var(--ink)" strokeWidth="3" />}
      </svg>
      <span className={over ? 'hot' : ''}>
        <b>{number(percent, 1)} %</b>
        {half >= 0.05 && <span className="leftpm">±{number(half, 1)}</span>}{' '}
        {limit !== null && !predicted && words !== 'after refill' && (over ? 'over' : 'under')}
        {words && <small className="ink2">{words}</small>}
      </span>
    </span>
  );
}
