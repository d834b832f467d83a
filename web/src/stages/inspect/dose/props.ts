import type { Schemas } from '../../../api/client';
import type { TestDraft } from '../draft';

export interface DoseProps {
  bench: Schemas['Bench'];
  draft: TestDraft;
  onChange: (part: Partial<TestDraft>) => void;
}
