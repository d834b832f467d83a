import { describe, expect, it } from 'vitest';
import guide from '../../../docs/guide.md?raw';
import { partsOf } from './parts';

describe('partsOf', () => {
  it('gives every stage of a job a part of its own, in their order', () => {
    const heads = partsOf(guide).map((part) => part.head);
    const stages = ['Identify', 'Inspect', 'Open', 'Drain', 'Flush', 'Mix', 'Fill', 'Verify'];
    expect(heads.filter((head) => stages.includes(head))).toEqual(stages);
  });

  it('leaves nothing of the guide out but headings without a text', () => {
    const kept = partsOf(guide)
      .map((part) => part.text)
      .join('\n');
    const words = (text: string) => new Set(text.match(/[\p{L}]{4,}/gu));
    const lost = [...words(guide)].filter((word) => !words(kept).has(word));
    expect(lost).toEqual(['Guide']);
  });
});
