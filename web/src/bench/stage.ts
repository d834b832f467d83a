import type { ReactNode } from 'react';
import type { Schemas } from '../api/client';
import type { Recorder } from './useRecorder';

export type Stage = Schemas['Stage'];

/** What every stage of a job is given. */
export interface StageProps {
  bench: Schemas['Bench'];
  recorder: Recorder;
}

/** The sheets of the stages: the bench is given them, it knows none of them. */
export type Stages = Record<Stage, (props: StageProps) => ReactNode>;
