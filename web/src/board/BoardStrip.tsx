import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { MiniFrost } from '../figures/MiniFrost';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { useDepot } from '../api/useDepot';
import { aboutText, clockText, lengthText, limitText, overLimit, TIMER, until } from '../clocks/clock';
import { timeOf, waited } from '../language/time';
import { STAGE } from '../language/names';

interface Props {
  strip: Schemas['Strip'];
  /** Milliseconds, by the server's clock. */
  now: number;
}

interface Plate {
  kind: 'now' | 'hotplate' | 'counts' | 'cools' | 'aside';
  head: string;
  text: string;
}

/** What stands in the first column: whose turn it is, or when it will be. */
function plateOf(strip: Schemas['Strip'], now: number, zone: string | undefined): Plate {
  const { row, wait } = strip;
  const iso = new Date(now).toISOString();
  if (wait.kind === 'limit' && wait.since)
    return { kind: 'hotplate', head: 'NOW', text: `${lengthText(-until(wait.since, now))} over the limit` };
  if (wait.kind === 'paused' && wait.since)
    return { kind: 'aside', head: 'paused', text: timeOf(wait.since, zone, new Date(now)) };
  const left = until(wait.until, now);
  if (wait.kind === 'counting' && left > 0 && wait.timer)
    return { kind: 'counts', head: clockText(left), text: TIMER[wait.timer] };
  if (wait.kind === 'cooling' && left > 0) return { kind: 'cools', head: aboutText(left), text: 'about, cooling' };
  if (wait.timer === 'cooling') return { kind: 'now', head: 'NOW', text: 'may be cold' };
  if (wait.timer) return { kind: 'now', head: 'NOW', text: `${TIMER[wait.timer]} is over` };
  if (row.frost_risk) return { kind: 'hotplate', head: 'NOW', text: 'keep indoors' };
  return { kind: 'now', head: 'NOW', text: waited(wait.since ?? row.changed_at ?? iso, iso) };
}

/** One loop in work: which machine needs hands, why, and what to do. The whole strip is the target. */
export function BoardStrip({ strip, now }: Props) {
  const { system, volume } = useUnits();
  const { row, machine } = strip;
  const { claim } = row;
  const zone = useDepot()?.time_zone;
  const plate = plateOf(strip, now, zone);
  const over = row.timers.find((timer) => overLimit(timer, now) !== null);
  const quiet = plate.kind === 'counts' || plate.kind === 'cools' || plate.kind === 'aside';
  const act = row.act ? sayIn(row.act, system) : '';
  return (
    <Link
      className={`bstrip${plate.kind === 'hotplate' ? ' risk' : ''}${quiet ? ' waiting' : ''}`}
      to={`/loops/${strip.loop_id}`}
    >
      <span className={`nowplate ${plate.kind}`}>
        <span>
          {plate.kind === 'aside' && <i className="tape" aria-hidden="true" />}
          <b>{plate.head}</b>
          {plate.text}
        </span>
      </span>
      <span className="pl">
        <span className="plate">
          <span>{machine.fleet_number}</span>
        </span>
      </span>
      <span className="u">
        <b>{machine.kind}</b>
        <span>
          {strip.loops_on_machine > 1
            ? `loop ${strip.loop_position} of ${strip.loops_on_machine}, ${strip.loop_name}`
            : machine.description}
          , {volume(strip.capacity_l)}
        </span>
      </span>
      <span className="sg">
        <b>{row.stage ? STAGE[row.stage] : ''}</b>
        <span className={over ? 'overlimit' : ''}>
          {over ? limitText(over, now) : row.result ? sayIn(row.result, system) : ''}
        </span>
        <span className="pips" aria-hidden="true">
          {row.stages.map((status, i) => (
            <i key={i} className={status === 'choice' ? 'optional' : status} />
          ))}
        </span>
      </span>
      <span className="nx">
        <b>{act}</b>
        <span>{row.then && sayIn(row.then, system)}</span>
      </span>
      <span className="fr">
        <MiniFrost system={system} claim={claim} target={row.target_c} />
      </span>
      <span className="on">
        <span className="ini" title={strip.by.name}>
          {strip.by.initials}
        </span>
      </span>
    </Link>
  );
}
