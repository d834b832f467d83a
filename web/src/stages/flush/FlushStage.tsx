import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { sessionOptions } from '../../api/queries';
import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { GoPlate } from '../../controls/GoPlate';
import { DrainStage } from '../drain/DrainStage';
import { OpenStage } from '../open/OpenStage';
import { PlanSheet } from './PlanSheet';
import { RunSheet } from './RunSheet';
import './flush.css';

/** A flush by what it waits for: the next round, its run, the gate, its drain. */
export function FlushStage({ bench, recorder }: StageProps) {
  const me = useQuery(sessionOptions).data?.person?.id;
  const [cold, drainCold] = useState(false);
  const { state } = bench;
  if (!state.flush)
    return (
      <StageFrame
        bench={bench}
        state={state}
        marks={stateMarks(state, state.plan?.coldest_c ?? null)}
        go={<GoPlate act="Drain first" waits="Drain first, then plan the rounds" onPress={() => undefined} />}
      >
        <h1 className="title">Flush</h1>
        <p className="ink2">Nothing drained yet. The coolant left inside decides how many rounds are needed.</p>
      </StageFrame>
    );
  switch (state.flush.step) {
    case 'run':
      return cold ? (
        <DrainStage bench={bench} recorder={recorder} />
      ) : (
        <RunSheet bench={bench} recorder={recorder} onCold={() => drainCold(true)} />
      );
    case 'gate':
      return <OpenStage bench={bench} recorder={recorder} />;
    case 'drain':
      // nobody passes the gate for another: whoever drains feels it first
      return state.gate.by_id === String(me) ? (
        <DrainStage bench={bench} recorder={recorder} />
      ) : (
        <OpenStage bench={bench} recorder={recorder} />
      );
    default:
      return <PlanSheet bench={bench} recorder={recorder} flush={state.flush} />;
  }
}
