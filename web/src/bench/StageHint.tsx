import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { Terms } from '../controls/Terms';
import { STAGE_MEANS } from '../language/names';
import './hint.css';

const KEY = 'temper.hints.read'; // kept in the browser: a preference, nothing private

const readHints = (): string[] => {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '[]') as string[];
  } catch {
    return [];
  }
};

/** The first time at a stage: what is done here, until it is dismissed. */
export function StageHint({ stage }: { stage: Schemas['Stage'] }) {
  const [read, setRead] = useState(readHints);
  if (read.includes(stage)) return null;
  const dismiss = () => {
    const next = [...readHints(), stage];
    localStorage.setItem(KEY, JSON.stringify(next));
    setRead(next);
  };
  return (
    <div className="stagehint">
      <p>
        <Terms>{STAGE_MEANS[stage]}</Terms>
      </p>
      <ButtonBase className="key small" aria-label="Got it: do not show this again" onClick={dismiss}>
        Got it
      </ButtonBase>
    </div>
  );
}
