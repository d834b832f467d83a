import type { Schemas } from '../api/client';

type Layout = Schemas['Layout'];
type LayoutNode = Layout['nodes'][number];
type Pipe = NonNullable<Layout['pipes']>[number];

export interface Box {
  id: string;
  x: number;
  y: number;
  w: number;
  h: number;
}

export interface Label {
  x: number;
  y: number;
  anchor: 'start' | 'middle' | 'end';
}

export interface Hose {
  d: string;
  via: NonNullable<Pipe['via']>;
  at: { x: number; y: number };
  /** Where the word "thermostat" finds room beside its symbol; null for hoses without one. */
  label: Label | null;
}

export interface Tap {
  letter: string;
  x: number;
  y: number;
}

/** Where coolant goes in, or air is let out; word: its number where there are several, and what it is. */
export interface Mark {
  key: string;
  x: number;
  y: number;
  number: string;
  word: string;
}

export interface Drawing {
  boxes: Map<string, Box>;
  hoses: Hose[];
  taps: Tap[];
  fills: Mark[];
  bleeds: Mark[];
  y: (mm: number) => number;
  lowMm: number;
  highMm: number;
}

export const WIDTH = 304;
export const HEIGHT = 440;
const TOP = 20;
const BELOW = 62; // taps and trays hang below the lowest vessel
export const LOW = 380; // on a lower drawing detail is dropped before text shrinks
const COLUMNS: Record<number, { x: number; w: number }> = {
  0: { x: 28, w: 112 },
  1: { x: 152, w: 100 },
  2: { x: 216, w: 88 },
};
const LEAST_HEIGHT = 46; // two lines of text
const LEAST_ON_LOW = 27; // one line
const NARROW = 58;

const overlap = (a: LayoutNode, b: LayoutNode): boolean => a.bottom_mm < b.top_mm && b.bottom_mm < a.top_mm;

/** Boxes to scale in height; one too low for its two lines of text grows upwards from its bottom. */
function boxesOf(nodes: LayoutNode[], y: (mm: number) => number, least: number): Map<string, Box> {
  const boxes = new Map<string, Box>();
  for (const node of nodes) {
    const column = COLUMNS[node.column] ?? { x: 28, w: 112 };
    const narrow = node.column === 1 && nodes.some((other) => other.column === 2 && overlap(node, other));
    const h = Math.max(least, y(node.bottom_mm) - y(node.top_mm));
    boxes.set(node.id, { id: node.id, x: column.x, y: y(node.bottom_mm) - h, w: narrow ? NARROW : column.w, h });
  }
  return boxes;
}

interface End {
  edge: string;
  x: number;
}

/** Where a hose leaves a box: from its facing side if it is level with it, else by a stub up or down. */
function endOf(box: Box, level: number, faces: 'left' | 'right', stubs: Map<string, number>): End {
  if (level > box.y + 3 && level < box.y + box.h - 3) {
    const x = faces === 'right' ? box.x + box.w : box.x;
    return { edge: `${x} ${level}`, x };
  }
  const used = stubs.get(box.id) ?? 0;
  stubs.set(box.id, used + 1);
  const inset = 12 + 18 * used;
  const x = faces === 'right' ? box.x + box.w - inset : box.x + inset;
  return { edge: `${x} ${level <= box.y + 3 ? box.y : box.y + box.h}`, x };
}

function straight(upper: Box, lower: Box, stubs: Map<string, number>): Hose {
  const used = stubs.get(`${upper.id}|`) ?? 0;
  stubs.set(`${upper.id}|`, used + 1);
  const x = Math.max(upper.x, lower.x) + 16 + 18 * used;
  const from = upper.y + upper.h;
  return { d: `M${x} ${from}V${lower.y}`, via: 'none', at: { x, y: (from + lower.y) / 2 }, label: null };
}

function around(upper: Box, lower: Box, level: number): Hose {
  const x = Math.max(upper.x + upper.w, lower.x + lower.w) + 14;
  const low = lower.y + Math.min(20, lower.h / 3);
  return {
    d: `M${upper.x + upper.w} ${level}H${x}V${low}H${lower.x + lower.w}`,
    via: 'none',
    at: { x, y: (level + low) / 2 },
    label: null,
  };
}

function hoseOf(
  pipe: Pipe,
  boxes: Map<string, Box>,
  y: (mm: number) => number,
  stubs: Map<string, number>,
): Hose | null {
  const a = boxes.get(pipe.start);
  const b = boxes.get(pipe.end);
  if (!a || !b) return null;
  const level = y(pipe.at_mm);
  if (a.x === b.x) {
    const [upper, lower] = a.y < b.y ? [a, b] : [b, a];
    const between = level >= upper.y + upper.h - 3;
    return { ...(between ? straight(upper, lower, stubs) : around(upper, lower, level)), via: pipe.via ?? 'none' };
  }
  const [left, right] = a.x < b.x ? [a, b] : [b, a];
  const from = endOf(left, level, 'right', stubs);
  const to = endOf(right, level, 'left', stubs);
  return {
    d: `M${from.edge}L${from.x} ${level}H${to.x}L${to.edge}`,
    via: pipe.via ?? 'none',
    at: { x: from.x + 0.72 * (to.x - from.x), y: level },
    label: null,
  };
}

export interface Area {
  x: number;
  y: number;
  w: number;
  h: number;
}

const LABEL = { w: 66, h: 15 };

/** What a word at this spot covers. */
export const labelArea = ({ x, y, anchor }: Label): Area => ({
  x: anchor === 'start' ? x : anchor === 'end' ? x - LABEL.w : x - LABEL.w / 2,
  y: y - LABEL.h + 3,
  ...LABEL,
});

/** What a pump, valve or thermostat covers. */
export const symbolArea = ({ at }: Hose): Area => ({ x: at.x - 13, y: at.y - 13, w: 26, h: 26 });

/** What a vessel's name and litres cover. */
export const nameArea = (box: Box): Area => ({ x: box.x, y: box.y, w: box.w, h: 44 });

export const shared = (a: Area, b: Area): number =>
  Math.max(0, Math.min(a.x + a.w, b.x + b.w) - Math.max(a.x, b.x)) *
  Math.max(0, Math.min(a.y + a.h, b.y + b.h) - Math.max(a.y, b.y));

/** Beside the symbol, where it covers least: names and litres first of all, then other symbols, then liquid. */
function labelled(hose: Hose, boxes: Box[], hoses: Hose[], fills: Mark[]): Hose {
  if (hose.via !== 'thermostat') return hose;
  const { x, y } = hose.at;
  const others: Area[] = [
    ...hoses.filter((other) => other !== hose && other.via !== 'none').map((other) => symbolArea(other)),
    ...fills.map((mark) => ({ x: mark.x - 24, y: mark.y - 16, w: 34, h: 16 })),
  ];
  const spots: Label[] = (['middle', 'end', 'start'] as const).flatMap((anchor) =>
    [-17, 28, -30, 41].map((dy) => ({
      x: anchor === 'middle' ? x : anchor === 'end' ? x + 12 : x - 12,
      y: y + dy,
      anchor,
    })),
  );
  spots.push({ x: x - 17, y: y + 5, anchor: 'end' }, { x: x + 17, y: y + 5, anchor: 'start' });
  const cost = (spot: Label): number => {
    const area = labelArea(spot);
    const out = area.x < 0 || area.x + area.w > WIDTH || area.y < 0 ? 1e6 : 0;
    const names = boxes.reduce((sum, box) => sum + 100 * shared(area, nameArea(box)) + shared(area, box), 0);
    return out + names + others.reduce((sum, other) => sum + 20 * shared(area, other), 0);
  };
  return { ...hose, label: spots.reduce((best, spot) => (cost(spot) < cost(best) ? spot : best)) };
}

/** The drawing of a layout, derived from its data and the height it has. The node "hoses" has no box: it is the lines. */
export function draw(layout: Layout, height = HEIGHT): Drawing {
  const floor = height - BELOW;
  const nodes = layout.nodes.filter((node) => node.kind !== 'hoses');
  const lowMm = Math.min(...nodes.map((node) => node.bottom_mm));
  const highMm = Math.max(...nodes.map((node) => node.top_mm));
  const scale = (floor - TOP) / (highMm - lowMm);
  const y = (mm: number) => floor - (mm - lowMm) * scale;
  const boxes = boxesOf(nodes, y, height < LOW ? LEAST_ON_LOW : LEAST_HEIGHT);
  const stubs = new Map<string, number>();
  const bare = (layout.pipes ?? [])
    .map((pipe) => hoseOf(pipe, boxes, y, stubs))
    .filter((hose): hose is Hose => hose !== null);
  const taps = (layout.drains ?? []).flatMap((drain) => {
    const box = boxes.get(drain.node);
    return box ? [{ letter: drain.letter, x: box.x + 22, y: box.y + box.h }] : [];
  });
  const several = (layout.fill_points ?? []).length > 1;
  const fills = (layout.fill_points ?? []).flatMap((row) => {
    const box = boxes.get(row.node);
    const word = several ? (row.name ?? 'cap') : 'fill';
    return box
      ? [{ key: `fill${row.number}`, x: box.x + box.w - 16, y: box.y, number: several ? String(row.number) : '', word }]
      : [];
  });
  const hoses = bare.map((hose) => labelled(hose, [...boxes.values()], bare, fills));
  const bleeds = (layout.bleeders ?? []).flatMap((row) => {
    const box = boxes.get(row.node);
    if (!box) return [];
    const level = Math.min(box.y + box.h - 8, Math.max(box.y + 9, y(row.height_mm)));
    const right = box.x + box.w < WIDTH - 20;
    const x = right ? box.x + box.w : box.x;
    return [{ key: `bleed${row.number}`, x, y: level, number: String(row.number), word: right ? 'right' : 'left' }];
  });
  return { boxes, hoses, taps, fills, bleeds, y, lowMm, highMm };
}
