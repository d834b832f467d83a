import { useDeferredValue, useState } from 'react';
import Markdown from 'react-markdown';
import guide from '../../../docs/guide.md?raw';
import { FindField, hasWords } from '../controls/FindField';
import { Page } from '../controls/menu/Page';
import './help.css';
import { GLOSSARY } from '../language/names';
import { partsOf } from './parts';

const PARTS = partsOf(guide);

/** The guide, searchable: the parts that have the words. */
export default function HelpPage() {
  const [words, look] = useState('');
  const asked = useDeferredValue(words.trim());
  const found = PARTS.filter((part) => hasWords(part.text, asked));
  return (
    <Page
      title="Help"
      line="The guide: one job from the board to the sheet"
      tools={<FindField name="find-help" label="Words in the guide" value={words} onChange={look} />}
      mainClass="jumped"
    >
      <nav className="jumps" aria-label="Parts of the guide">
        {found.map((part) => (
          <a key={part.id} href={`#${part.id}`}>
            {part.head}
          </a>
        ))}
        <a href="#terms">Terms</a>
      </nav>
      <div className="guide">
        {asked && (
          <p role="status" className="ink2">
            {found.length === 0
              ? `Nothing about “${asked}”. Try another word.`
              : `${found.length} parts have these words.`}
          </p>
        )}
        {found.map((part) => (
          <section key={part.id} id={part.id}>
            <Markdown>{part.text}</Markdown>
          </section>
        ))}
        <section id="terms">
          <h2>Terms</h2>
          <dl className="terms">
            {Object.entries(GLOSSARY)
              .filter(([term, means]) => hasWords(`${term} ${means}`, asked))
              .map(([term, means]) => (
                <div key={term}>
                  <dt>{term}</dt>
                  <dd>{means}</dd>
                </div>
              ))}
          </dl>
        </section>
      </div>
    </Page>
  );
}
