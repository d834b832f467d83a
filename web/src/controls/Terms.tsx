import Popover from '@mui/material/Popover';
import { Fragment, useState } from 'react';
import { GLOSSARY } from '../language/names';
import './terms.css';

const TERMS = Object.keys(GLOSSARY).sort((a, b) => b.length - a.length);
const FOUND = new RegExp(`(?<![\\p{L}-])(${TERMS.join('|')})(?![\\p{L}-])`, 'giu');

/** A text in which each term of the glossary, the first time that it comes, can be tapped for one sentence. */
export function Terms({ children }: { children: string }) {
  const seen = new Set<string>();
  return children.split(FOUND).map((part, i) => {
    const key = part.toLowerCase();
    const means = i % 2 === 1 && !seen.has(key) ? GLOSSARY[key] : undefined;
    if (means === undefined) return <Fragment key={i}>{part}</Fragment>;
    seen.add(key);
    return <Term key={i} word={part} means={means} />;
  });
}

function Term({ word, means }: { word: string; means: string }) {
  const [at, open] = useState<HTMLElement | null>(null);
  return (
    <>
      <button
        type="button"
        className="term"
        aria-expanded={at !== null}
        onClick={(event) => open(at ? null : event.currentTarget)}
      >
        {word}
      </button>
      <Popover
        open={at !== null}
        anchorEl={at}
        onClose={() => open(null)}
        transitionDuration={0}
        anchorOrigin={{ vertical: 'bottom', horizontal: 'left' }}
        slotProps={{ paper: { role: 'dialog', 'aria-label': word, className: 'termpanel' } }}
      >
        <p>
          <b>{word.charAt(0).toUpperCase() + word.slice(1)}.</b> {means}
        </p>
      </Popover>
    </>
  );
}
