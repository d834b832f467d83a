import { cleanup, render, screen } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { UnitsProvider } from '../units/UnitsContext';
import { AnswerBar } from './AnswerBar';
import { Circuit } from './Circuit';
import { draw, HEIGHT, labelArea, nameArea, shared, symbolArea, WIDTH } from './circuitGeometry';
import { type FrostMarks, FrostRule } from './FrostRule';
import { massAt, massTicks } from './frostScale';
import { plain } from '../testing';

afterEach(cleanup);

const node = (
  id: string,
  kind: Schemas['NodeKind'],
  volume_l: number,
  bottom_mm: number,
  top_mm: number,
  column: number,
) => ({
  id,
  kind,
  name: id,
  volume_l,
  bottom_mm,
  top_mm,
  column,
});

const groomer: Schemas['Layout'] = {
  nodes: [
    node('tank', 'tank', 4, 1790, 2060, 1),
    node('heater', 'heater', 2.4, 1440, 1770, 0),
    node('radiator', 'radiator', 11, 720, 1560, 2),
    node('block', 'block', 12.2, 560, 1170, 0),
    node('hoses', 'hoses', 2.4, 520, 1800, 1),
  ],
  pipes: [
    { start: 'block', end: 'radiator', at_mm: 1380, via: 'thermostat' },
    { start: 'radiator', end: 'block', at_mm: 660, via: 'pump' },
    { start: 'block', end: 'heater', at_mm: 1290 },
    { start: 'heater', end: 'block', at_mm: 1620 },
    { start: 'tank', end: 'block', at_mm: 800 },
  ],
  drains: [
    { letter: 'A', node: 'radiator', height_mm: 700, share: { radiator: 0.9 } },
    { letter: 'B', node: 'block', height_mm: 540, share: { block: 0.6 } },
  ],
};
const flat: Schemas['Layout'] = {
  nodes: [node('block', 'block', 3, 300, 320, 0), node('pan', 'cooler', 2, 300, 700, 2)],
};

describe('words and symbols of the circuit', () => {
  const drawing = draw(groomer);
  const boxes = [...drawing.boxes.values()];

  it('never cover the name or the litres of a vessel, nor each other', () => {
    const symbols = drawing.hoses.filter((hose) => hose.via !== 'none').map(symbolArea);
    const labels = drawing.hoses.flatMap((hose) => (hose.label ? [labelArea(hose.label)] : []));
    expect(labels).toHaveLength(1);
    for (const label of labels) {
      for (const box of boxes) expect(shared(label, nameArea(box))).toBe(0);
      for (const symbol of symbols) expect(shared(label, symbol)).toBe(0);
      expect(label.x).toBeGreaterThanOrEqual(0);
      expect(label.x + label.w).toBeLessThanOrEqual(WIDTH);
    }
    for (const symbol of symbols) for (const box of boxes) expect(shared(symbol, nameArea(box))).toBe(0);
  });
});

describe('the circuit is drawn from its layout', () => {
  const drawing = draw(groomer);

  it('stands higher what stands higher', () => {
    const top = (id: string) => drawing.boxes.get(id)?.y ?? NaN;
    expect(top('tank')).toBeLessThan(top('heater'));
    expect(top('heater')).toBeLessThan(top('block'));
  });

  it('keeps every box on the paper and apart from the others of its column', () => {
    for (const layout of [groomer, flat]) {
      for (const box of draw(layout).boxes.values()) {
        expect(box.x).toBeGreaterThan(0);
        expect(box.x + box.w).toBeLessThanOrEqual(WIDTH);
        expect(box.y).toBeGreaterThan(0);
        expect(box.y + box.h).toBeLessThan(HEIGHT - 40);
      }
    }
    const heater = drawing.boxes.get('heater');
    const block = drawing.boxes.get('block');
    expect((heater?.y ?? 0) + (heater?.h ?? 0)).toBeLessThanOrEqual(block?.y ?? 0);
  });

  it('draws a pipe for each pipe and a tap under each drain, and no box for the hoses', () => {
    expect(drawing.hoses).toHaveLength(5);
    expect(drawing.taps.map((tap) => tap.letter)).toEqual(['A', 'B']);
    expect(drawing.boxes.has('hoses')).toBe(false);
  });

  it('gives a flat vessel room for its words', () => {
    expect(draw(flat).boxes.get('block')?.h).toBeGreaterThanOrEqual(46);
  });
});

const vessel = (id: string, litres: number, old: number | null): Schemas['VesselState'] => {
  const found = groomer.nodes.find((row) => row.id === id);
  if (!found) throw new Error(id);
  return {
    id,
    name: id,
    kind: found.kind,
    volume_l: found.volume_l,
    litres,
    old_percent: old,
    old_sd_percent: 0,
    litres_sd: 0,
    strength_percent: null,
    freeze_c: null,
  };
};

describe('Circuit', () => {
  it('says in words what it shows', () => {
    const vessels = [vessel('tank', 0, null), vessel('block', 4.6, 5.5), vessel('hoses', 0.4, 5.5)];
    render(
      <UnitsProvider>
        <Circuit system="metric" layout={groomer} vessels={vessels} fresh={false} drainsNext />
      </UnitsProvider>,
    );
    const figure = screen.getByRole('img');
    expect(plain(figure.getAttribute('aria-label'))).toContain('block 4.6 L of 12.2 L, 5.5 % old');
    expect(figure.textContent).toContain('thermostat');
    expect(figure.textContent).toContain('open');
  });
});

const scale: Schemas['FrostScale'] = {
  glycol: 'ethylene',
  coldest_c: -50,
  lean: [
    { glycol_mass_percent: 0, freeze_c: 0, warmer_c: 0 },
    { glycol_mass_percent: 10, freeze_c: -3.4, warmer_c: -3.4 },
    { glycol_mass_percent: 20, freeze_c: -7.9, warmer_c: -7.9 },
    { glycol_mass_percent: 40, freeze_c: -23.8, warmer_c: -23.8 },
    { glycol_mass_percent: 50, freeze_c: -36, warmer_c: -36 },
    { glycol_mass_percent: 59, freeze_c: -49.5, warmer_c: -49.5 },
  ],
  rich: [
    { glycol_mass_percent: 80, freeze_c: -47, warmer_c: -47 },
    { glycol_mass_percent: 100, freeze_c: -13, warmer_c: -13 },
  ],
};

describe('FrostRule', () => {
  const rule = (marks: FrostMarks, given = scale) => {
    render(
      <UnitsProvider>
        <FrostRule system="metric" scale={given} marks={marks} />
      </UnitsProvider>,
    );
    return screen.getByRole('img');
  };

  it('shows only what it is given', () => {
    const figure = rule({});
    expect(figure.getAttribute('aria-label')).toBe('Frost rule: nothing known yet');
    expect(figure.textContent).not.toContain('target');
    expect(figure.textContent).toContain('not tabulated');
  });

  it('says target, warm end and reading in words', () => {
    const figure = rule({ target: -45, safe: -41, reading: -44.6, likely: { low: -47, high: -43 }, coldest: -38 });
    expect(plain(figure.getAttribute('aria-label'))).toContain('protects to \u221241.0 °C');
    expect(plain(figure.textContent)).toContain('\u221244.6 °C');
    expect(figure.textContent).toContain('\u221247 to \u221243');
    expect(figure.textContent).toContain('coldest here');
  });

  it('draws nothing above its own top, whatever is typed', () => {
    const top = 58;
    const figure = rule({ found: 12, target: 45 });
    const lines = [...figure.querySelectorAll('path')].map((path) => path.getAttribute('d') ?? '');
    const heights = lines.flatMap((d) =>
      [...d.matchAll(/[ML]\s*[\d.-]+[\s,]+([\d.-]+)/g)].map((found) => Number(found[1])),
    );
    expect(heights.length).toBeGreaterThan(3);
    expect(Math.min(...heights)).toBeGreaterThanOrEqual(top - 30);
  });

  it('has no hatched leg for propylene and ends at its coldest target', () => {
    const figure = rule({}, { ...scale, glycol: 'propylene', coldest_c: -45, rich: [] });
    expect(figure.textContent).not.toContain('too strong');
    expect(figure.textContent).toContain('no colder target');
  });

  it('reads strengths between the core’s marks, and no further', () => {
    expect(massAt(scale, -36)).toBe(50);
    expect(massAt(scale, -29.9)).toBeCloseTo(45, 1);
    expect(massAt(scale, -80)).toBe(59);
    expect(massTicks(scale).map((tick) => tick.percent)).toEqual([10, 20, 40, 50]);
  });
});

describe('AnswerBar', () => {
  const bar = {
    capacityL: 32,
    insideL: 7.5,
    oldPercent: 5.5,
    productL: 18.3,
    waterL: 6.6,
    blendPercent: 73.6,
    loopPercent: 56.5,
  };

  it('says both strengths where they are true', () => {
    render(
      <UnitsProvider>
        <AnswerBar system="metric" {...bar} readyMix={false} />
      </UnitsProvider>,
    );
    const [wide] = screen.getAllByRole('img');
    expect(plain(wide?.textContent)).toContain('74 % in the bucket: 24.9 L');
    expect(plain(wide?.textContent)).toContain('57 % in the loop: 32.0 L, full to the cold mark');
    expect(wide?.textContent).toContain('5.5 % old coolant');
  });

  it('has no bucket for a ready-mix', () => {
    render(
      <UnitsProvider>
        <AnswerBar system="metric" {...bar} readyMix oldPercent={null} />
      </UnitsProvider>,
    );
    expect(screen.getAllByRole('img')[0]?.textContent).not.toContain('bucket');
  });
});
