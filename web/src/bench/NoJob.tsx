import { Link, useNavigate } from 'react-router';
import type { Schemas } from '../api/client';
import { GoPlate } from '../parts/GoPlate';
import { Tick } from '../parts/icons';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../words/say';
import { dayOf } from '../words/time';
import { PROOF } from '../words/trade';
import { LearnedCapacity } from './LearnedCapacity';
import { StageFrame } from './StageFrame';
import { useDepot } from './useDepot';

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
        reading: state.claim.why === 'read' ? state.claim.freeze_c : null,
        safe: state.claim.safe_to_c,
      }}
      go={<GoPlate act="Back to the board" then="pick the next machine" onPress={() => void go('/')} />}
    >
      <h1 className="title">
        {state.signed_at ? `Signed off ${dayOf(state.signed_at, depot?.time_zone)}` : 'No job is open on this loop'}
      </h1>
      {proof && (
        <div className="verdict" style={{ marginTop: 16 }}>
          <span className={`mark${proof.verdict === 'proven' ? '' : ' not'}`}>
            <Tick size={26} />
          </span>
          <p>
            <b>{PROOF[proof.verdict]}.</b> {sayIn(proof.said, system)}
          </p>
        </div>
      )}
      {!proof && <p style={{ paddingTop: 12 }}>{sayIn(state.claim.said, system)}</p>}
      <LearnedCapacity bench={bench} />
      {state.due && (
        <p style={{ paddingTop: 12 }} className={state.due.overdue ? 'hot' : ''}>
          {sayIn(state.due.said, system)}
        </p>
      )}
      <p style={{ paddingTop: 12 }}>
        <Link to={`/loops/${bench.loop.id}/history`}>Its history</Link>
      </p>
      {state.flags.map((flag) => (
        <p key={flag.code} style={{ paddingTop: 12 }}>
          {sayIn(flag, system)}
        </p>
      ))}
    </StageFrame>
  );
}
