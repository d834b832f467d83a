import type { StageProps } from '../../bench/stage';
import { BleedSheet } from './BleedSheet';
import { PourSheet } from './PourSheet';
import { ShutSheet } from './ShutSheet';
import { UnderSheet } from './UnderSheet';
import './fill.css';

/** Shut what was opened, pour, look underneath, bleed: one of them at a time, in the order of the work. */
export function FillStage(props: StageProps) {
  const step = props.bench.state.fill?.step;
  if (step === 'shut') return <ShutSheet {...props} />;
  if (step === 'under') return <UnderSheet {...props} />;
  if (step === 'bleed') return <BleedSheet {...props} />;
  return <PourSheet {...props} />;
}
