export interface Part {
  id: string;
  head: string;
  /** Markdown. */
  text: string;
}

const NAMED = /^(?:\d+\. )?\*\*(.+?)\.?\*\*/;
const INDENT = /^ {3}/gm;

/** The guide in parts that can be found and jumped to: a paragraph that begins with its name, or what stands below a heading. */
export function partsOf(guide: string): Part[] {
  const parts: Part[] = [];
  for (const block of guide.split(/\n(?=## |\d+\. \*\*| {3}\*\*|\*\*)/)) {
    const text = block.trim();
    const head = NAMED.exec(text)?.[1] ?? /^#+ (.+)/.exec(text)?.[1];
    const body = text
      .replace(/^#+ .+\n*/, '')
      .replace(/^\d+\. /, '')
      .replace(INDENT, '');
    if (head && body) parts.push({ id: `part-${parts.length + 1}`, head, text: `### ${head}\n\n${body}` });
  }
  return parts;
}
