import { render, screen } from '@testing-library/react';
import { describe, expect, it } from 'vitest';
import { apiAddress, base, practiceRun } from '../api/where';
import { UnitsProvider } from '../units/UnitsContext';
import { unitFor } from '../units/parse';
import { Eyepiece } from './Eyepiece';
import { FoundNow } from './FoundThere';
import { litresTyped } from './litres';
import type { Bench } from './queries';

const marks = [0, -10, -20, -30, -40, -50].map((value, i) => ({ value, index: 1.333 + 0.013 * i }));
const scale = { name: 'Bench glass', scale: 'freeze_ethylene', marks };

const shown = (boundary: number, blur = 0.006) =>
  render(
    <UnitsProvider>
      <Eyepiece glass={{ name: 'Bench glass', scale: 'freeze_ethylene', boundary, blur, off: false }} scale={scale} />
    </UnitsProvider>,
  ).container;

const edge = (container: HTMLElement) => container.querySelector('rect[fill^="url"]');

describe('litres to pour', () => {
  const typed = (text: string, system: 'metric' | 'us') =>
    litresTyped({ text, unit: unitFor('volume', system) }, system);
  it('are read in the units on show', () => {
    expect(typed('0,35', 'metric')).toBeCloseTo(0.35, 6);
    expect(typed('1', 'us')).toBeCloseTo(0.946353, 4);
  });
  it('are none where nothing can be poured by them', () => {
    for (const text of ['', 'a cup', '0', '-1']) expect(typed(text, 'metric')).toBeNull();
  });
});

describe('the eyepiece', () => {
  it('shows the boundary, and no number for it', () => {
    const weak = Number(edge(shown(0.2))?.getAttribute('y'));
    const strong = Number(edge(shown(0.7))?.getAttribute('y'));
    expect(strong).toBeLessThan(weak);
    expect(screen.getAllByRole('img')[0]?.getAttribute('aria-label')).toBe(
      'Eyepiece of Bench glass: read the boundary between light and dark',
    );
  });
  it('is soft where the sample is', () => {
    const height = (blur: number) => Number(edge(shown(0.5, blur))?.getAttribute('height'));
    expect(height(0.036)).toBeGreaterThan(3 * height(0.006));
  });
  it('has the figures of its scale', () => {
    const labels = [...shown(0.5).querySelectorAll('text')].map((row) => row.textContent);
    expect(labels).toContain('−20');
    expect(labels).toContain('°C');
  });
});

describe('what was found', () => {
  it('says first how it could have hurt somebody', () => {
    const said = (template: string) => ({ code: template, sentence: template, template, values: {} });
    const bench = {
      glasses: [],
      done: [
        {
          at: '2026-03-02T08:00:00Z',
          act: { do: 'open_cap' },
          found: { said: said('It hisses.'), glass: null, jar: null, unsafe: [said('Hot coolant over hands.')] },
        },
      ],
    } as unknown as Bench;
    const { container } = render(
      <UnitsProvider>
        <FoundNow bench={bench} zone="UTC" />
      </UnitsProvider>,
    );
    expect(screen.getByRole('alert').textContent).toBe('Hot coolant over hands.');
    expect(container.textContent).toMatch(/^Hot coolant over hands\..*It hisses\./);
  });
});

describe('where this page is', () => {
  it('is the depot, unless its address says practice', () => {
    expect(practiceRun).toBeNull();
    expect(base).toBe('');
    expect(apiAddress('/api/loops/1/sheet.pdf')).toBe('/api/loops/1/sheet.pdf');
  });
});
