import type { Schemas } from '../api/client';
import type { Fact } from './useRecorder';

/** What stands ready for what is started now, as a fact. */
export const readyFor = (asked: Schemas['Asked'][]): Fact => ({
  kind: 'ready_confirmed',
  facts: { ready: asked.map((row) => row.ready) },
});
