import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { limitText, overLimit } from '../clocks/clock';
import { sayIn } from '../language/say';
import { STAGE } from '../language/names';
import { useUnits } from '../units/UnitsContext';
import { rowTime } from './rowTime';

interface Props {
  strip: Schemas['Strip'];
  /** Milliseconds, by the server's clock. */
  now: number;
  /** Only to be read: on the wall. */
  still?: boolean;
}

/** One loop: for how long, which machine, what to do and why, what is inside, who has it. The whole row is the target. */
export function BoardRow({ strip, now, still = false }: Props) {
  const { system, volume, temperature } = useUnits();
  const { row, machine } = strip;
  const time = rowTime(strip, now, (celsius) => temperature(celsius, 0));
  const over = row.timers.find((timer) => overLimit(timer, now) !== null);
  const loop =
    strip.loops_on_machine > 1
      ? `${strip.loop_name}, ${strip.loop_position} of ${strip.loops_on_machine}`
      : strip.loop_name;
  const stage = row.stage ? STAGE[row.stage] : 'at rest';
  const className = `bstrip${strip.band === 'act_now' ? ' urgent' : ''}`;
  const parts = (
    <>
      <span className="when">
        <b>{time.head}</b>
        <span>{time.text}</span>
      </span>
      <span className="pl">
        <span className="plate">
          <span>{machine.fleet_number}</span>
        </span>
      </span>
      <span className="u">
        <b>{machine.kind}</b>
        <span>
          {loop}, {volume(strip.capacity_l)} · {stage.toLowerCase()}
        </span>
      </span>
      <span className="nx">
        <b>{row.act && sayIn(row.act, system)}</b>
        <span>
          {over ? limitText(over, now) : <i className="notphone">{row.then && sayIn(row.then, system)}</i>}
          {!over && (
            <i className="onphone">
              {machine.kind}, {stage.toLowerCase()}
            </i>
          )}
        </span>
      </span>
      <span className="holds">
        <b>{sayIn(row.inside, system)}</b>
        <span>{sayIn(row.protects, system)}</span>
      </span>
      <span className="on">
        {strip.by && (
          <span className="ini" title={strip.by.name}>
            {strip.by.initials}
          </span>
        )}
      </span>
    </>
  );
  if (still) return <div className={className}>{parts}</div>;
  return (
    <Link className={className} to={`/loops/${strip.loop_id}`}>
      {parts}
    </Link>
  );
}
