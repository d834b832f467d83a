import type { Schemas } from '../api/client';
import { numberOf } from '../controls/NumberField';
import { number } from '../units/units';
import { orSentence, Unreadable } from '../units/unreadable';
import type { Row } from './RowTable';

type Layout = Schemas['Layout'];

/** A layout as it stands in the editor: everything typed, litres and millimetres, drains in percent. */
export interface LayoutForm {
  nodes: Row[];
  pipes: Row[];
  drains: Row[];
  bleeders: Row[];
  fillPoints: Row[];
  tankTotal: string;
}

const text = (value: number): string => number(value, 2).replace(/\.?0+$/, '');

export function layoutToForm(layout: Layout): LayoutForm {
  return {
    nodes: layout.nodes.map((node) => ({
      id: node.id,
      name: node.name,
      kind: node.kind,
      volume: text(node.volume_l),
      bottom: text(node.bottom_mm),
      top: text(node.top_mm),
      column: String(node.column),
    })),
    pipes: (layout.pipes ?? []).map((pipe) => ({
      start: pipe.start,
      end: pipe.end,
      at: text(pipe.at_mm),
      via: pipe.via ?? 'none',
    })),
    drains: (layout.drains ?? []).map((drain) => ({
      letter: drain.letter,
      node: drain.node,
      height: text(drain.height_mm),
      share: Object.entries(drain.share)
        .map(([node, share]) => `${nameOf(layout, node)} ${text(100 * share)}`)
        .join(', '),
    })),
    bleeders: (layout.bleeders ?? []).map((row) => ({
      node: row.node,
      height: text(row.height_mm),
      kind: row.kind ?? 'screw',
    })),
    fillPoints: (layout.fill_points ?? []).map((row) => ({ node: row.node, name: row.name ?? 'cap' })),
    tankTotal: layout.tank_total_l == null ? '' : text(layout.tank_total_l),
  };
}

const nameOf = (layout: Layout, id: string): string => layout.nodes.find((node) => node.id === id)?.name ?? id;

/** What is typed as a layout, or the first sentence about what cannot be read. */
export function layoutFromForm(form: LayoutForm): Layout | string {
  return orSentence((): Layout | string => {
    return {
      nodes: form.nodes.map((row) => ({
        id: row.id ?? '',
        name: needed(row.name, 'Vessel: name'),
        kind: row.kind as Schemas['NodeKind'],
        volume_l: figure(row.volume, `${row.name}: litres`),
        bottom_mm: figure(row.bottom, `${row.name}: bottom`),
        top_mm: figure(row.top, `${row.name}: top`),
        column: Number(row.column),
      })),
      pipes: form.pipes.map((row) => ({
        start: row.start ?? '',
        end: row.end ?? '',
        at_mm: figure(row.at, 'Hose: height'),
        via: row.via as Schemas['Via'],
      })),
      drains: form.drains.map((row) => ({
        letter: needed(row.letter, 'Drain: letter'),
        node: row.node ?? '',
        height_mm: figure(row.height, `Drain ${row.letter}: height`),
        share: sharesOf(row.share ?? '', form.nodes, `Drain ${row.letter}`),
      })),
      bleeders: form.bleeders.map((row, i) => ({
        number: i + 1,
        node: row.node ?? '',
        height_mm: figure(row.height, `Bleeder ${i + 1}: height`),
        kind: row.kind as Schemas['BleederKind'],
      })),
      fill_points: form.fillPoints.map((row, i) => ({
        number: i + 1,
        node: row.node ?? '',
        name: needed(row.name, `Fill point ${i + 1}: name`),
      })),
      tank_total_l: form.tankTotal.trim() === '' ? null : figure(form.tankTotal, 'Tank to the brim'),
    };
  });
}

function figure(typed: string | undefined, what: string): number {
  const value = numberOf(typed ?? '');
  if (value === null) throw new Unreadable(`${what} cannot be read: type a number.`);
  return value;
}

function needed(typed: string | undefined, what: string): string {
  const words = (typed ?? '').trim();
  if (words === '') throw new Unreadable(`${what} is missing.`);
  return words;
}

/** "Radiator 95, Tank 100": which share of each vessel a drain really empties. */
function sharesOf(typed: string, nodes: Row[], what: string): Record<string, number> {
  const shares: Record<string, number> = {};
  for (const part of typed
    .split(/[,;]\s+|\n/)
    .map((one) => one.trim())
    .filter(Boolean)) {
    const match = /^(.+?)\s+([\d.,]+)\s*%?$/.exec(part);
    const node = nodes.find((row) => row.name?.toLowerCase() === match?.[1]?.toLowerCase());
    const percent = numberOf(match?.[2] ?? '');
    if (!match || !node?.id || percent === null)
      throw new Unreadable(`${what}: “${part}” cannot be read. Write a vessel and its percent, as in “Radiator 95”.`);
    shares[node.id] = percent / 100;
  }
  return shares;
}

/** A new vessel's id: short, and not taken. */
export function freshId(nodes: Row[]): string {
  let n = nodes.length + 1;
  while (nodes.some((row) => row.id === `vessel${n}`)) n += 1;
  return `vessel${n}`;
}
