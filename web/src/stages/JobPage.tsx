import { BenchPage } from '../bench/BenchPage';
import type { Stages } from '../bench/stage';
import { DrainStage } from './drain/DrainStage';
import { FillStage } from './fill/FillStage';
import { FlushStage } from './flush/FlushStage';
import { IdentifyStage } from './identify/IdentifyStage';
import { InspectStage } from './inspect/InspectStage';
import { MixStage } from './mix/MixStage';
import { OpenStage } from './open/OpenStage';
import { VerifyStage } from './verify/VerifyStage';

const STAGES: Stages = {
  identify: IdentifyStage,
  inspect: InspectStage,
  open: OpenStage,
  drain: DrainStage,
  flush: FlushStage,
  mix: MixStage,
  fill: FillStage,
  verify: VerifyStage,
};

/** The bench with the stages of a job. */
export default function JobPage() {
  return <BenchPage stages={STAGES} />;
}
