import type { Schemas } from '../../api/client';

type Event = Schemas['Event'];

export interface Mark {
  event: Event;
  label: string;
  /** Near the end of the line: its label stands before it. */
  atEnd: boolean;
}

const CLOSE = 0.08; // of the whole line: nearer than this two labels run into each other

/** Services and top-ups as marks; top-ups close together share one label. */
export function marksOf(rows: Event[]): Mark[] {
  const marked = rows
    .filter((event) => event.kind === 'service' || event.kind === 'top_up')
    .sort((a, b) => Date.parse(a.at) - Date.parse(b.at));
  const times = rows.map((event) => Date.parse(event.at));
  const [first, last] = [Math.min(...times), Math.max(...times)];
  const place = (event: Event) => (last > first ? (Date.parse(event.at) - first) / (last - first) : 0);
  const marks: Mark[] = [];
  let head: Mark | null = null;
  let before: Event | null = null;
  let count = 0;
  for (const event of marked) {
    const joins = head !== null && before !== null && event.kind === 'top_up' && before.kind === 'top_up';
    if (joins && head && before && place(event) - place(before) < CLOSE) {
      count += 1;
      head.label = `${count} top-ups`;
      marks.push({ event, label: '', atEnd: false });
    } else {
      head = { event, label: event.kind === 'service' ? 'service' : 'top-up', atEnd: place(event) > 1 - CLOSE };
      count = 1;
      marks.push(head);
    }
    before = event;
  }
  return marks;
}
