import { Link, useNavigate } from 'react-router';
import type { Schemas } from '../api/client';
import { GoPlate } from '../controls/GoPlate';
import { Tick } from '../controls/icons';
import { Terms } from '../controls/Terms';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { dateOf, dayOf } from '../language/time';
import { isSafe, PROOF } from '../language/names';
import { LearnedCapacity } from './LearnedCapacity';
import { ParkedNow } from './ParkedNow';
import { StageFrame } from './StageFrame';
import { useDepot } from '../api/useDepot';

/** A loop between jobs: what it left with. */
export function NoJob({ bench }: { bench: Schemas['Bench'] }) {
  const go = useNavigate();
  const { system } = useUnits();
  const depot = useDepot();
  const { state } = bench;
  const proof = state.proof;
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={{
        coldest: state.plan?.coldest_c ?? null,
        target: state.plan?.target_freeze_c ?? null,
        reading: ['read', 'read_since'].includes(state.claim.why) ? state.claim.freeze_c : null,
        safe: state.claim.safe_to_c,
      }}
      go={<GoPlate act="Back to the board" then="choose the next machine" onPress={() => void go('/')} />}
    >
      <h1 className="title">
        {state.signed_at ? `Signed off ${dayOf(state.signed_at, depot?.time_zone)}` : 'No job is open on this loop'}
      </h1>
      {proof && (
        <div className="verdict" style={{ marginTop: 16 }}>
          <span className={`mark${isSafe(proof.verdict) ? '' : ' not'}`}>
            <Tick size={26} />
          </span>
          <p>
            <b>{PROOF[proof.verdict]}.</b> {sayIn(proof.said, system)}
          </p>
        </div>
      )}
      {!proof && (
        <p style={{ paddingTop: 12 }}>
          <Terms>{sayIn(state.claim.said, system)}</Terms>
        </p>
      )}
      {state.after?.rechecks
        .filter((row) => row.done_at === null)
        .map((row) => (
          <p key={row.why} style={{ paddingTop: 8 }} className={row.overdue ? 'hot' : ''}>
            <b>{row.overdue ? 'Overdue' : `By ${dateOf(row.due_on)}`}: </b>
            {sayIn(row.said, system)}
          </p>
        ))}
      {state.after?.diluted && <p style={{ paddingTop: 8 }}>{sayIn(state.after.diluted, system)}</p>}
      <LearnedCapacity bench={bench} />
      {state.due && (
        <p style={{ paddingTop: 12 }} className={state.due.overdue ? 'hot' : ''}>
          {sayIn(state.due.said, system)}
        </p>
      )}
      {state.signed_at && <ParkedNow bench={bench} />}
      <p className="keyrow" style={{ paddingTop: 12 }}>
        <Link to={`/loops/${bench.loop.id}/check`} className="key linkkey">
          Level check
        </Link>{' '}
        {state.signed_at && (
          <Link to={`/loops/${bench.loop.id}/sheet`} className="key linkkey">
            Job sheet
          </Link>
        )}{' '}
        <Link to={`/loops/${bench.loop.id}/labels`} className="key linkkey">
          Label
        </Link>{' '}
        <Link to={`/loops/${bench.loop.id}/history`}>History</Link>
      </p>
      {state.flags.map((flag) => (
        <p key={flag.code} style={{ paddingTop: 12 }}>
          {sayIn(flag, system)}
        </p>
      ))}
    </StageFrame>
  );
}
