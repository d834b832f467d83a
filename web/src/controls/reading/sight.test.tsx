import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../../api/client';
import { inApp, plain } from '../../testing';
import { SightGlass } from './SightGlass';
import { indexAt, valueAt } from './sightScale';

afterEach(cleanup);

/** Refractive index at the freeze point of ethylene glycol solutions; 48 % by mass freezes near -33 (handbook table, memory). */
const MARKS: [number, number][] = [
  [0, 1.333],
  [-10, 1.3562],
  [-20, 1.3694],
  [-30, 1.3789],
  [-40, 1.3867],
  [-50, 1.3934],
];
const of = (scale: Schemas['Scale'], water: number, marks: [number, number][]): Schemas['ScaleOut'] => ({
  scale,
  unit: scale === 'brix' ? 'Brix' : '°C',
  water,
  low: -80,
  high: 100,
  first: -50,
  last: 10,
  zero_reach: 10,
  resolution: 1,
  marks: marks.map(([value, index]) => ({ value, index })),
});
const scale = of('freeze_ethylene', 0, MARKS);
const brix = of('brix', 0, [
  [0, 1.333],
  [20, 1.3639],
  [40, 1.3999],
  [60, 1.4418],
]);
const glass = (value: number | null, onChange = vi.fn()) => {
  inApp(
    <SightGlass
      scale={scale}
      value={value}
      division={1}
      zero={-0.4}
      edge="sharp"
      onChange={onChange}
      onEdge={vi.fn()}
    />,
  );
  return { onChange, slider: screen.getByRole('slider') };
};

describe('the scale in the eyepiece', () => {
  it('is even in refractive index, so that degrees crowd towards the cold', () => {
    const ten = (from: number) => indexAt(scale.marks, from - 10) - indexAt(scale.marks, from);
    expect(ten(0) / ten(-40)).toBeCloseTo(3.46, 2);
    expect(indexAt(scale.marks, -20)).toBeCloseTo(1.3694, 9);
    expect(indexAt(scale.marks, 2)).toBeCloseTo(1.333 - 0.00464, 9);
  });

  it.each([1, 0, -3.3, -17, -36.7, -49.9])('reads back what it drew at %i', (celsius) =>
    expect(valueAt(scale.marks, indexAt(scale.marks, celsius))).toBeCloseTo(celsius, 9),
  );

  it('takes a rising scale as well', () => {
    expect(indexAt(brix.marks, 50)).toBeCloseTo(1.42085, 9);
    expect(valueAt(brix.marks, 1.42085)).toBeCloseTo(50, 9);
  });
});

describe('the boundary', () => {
  it.each([
    ['ArrowUp', -31],
    ['ArrowDown', -29],
    ['PageUp', -35],
    ['PageDown', -25],
  ])('moves by %s to %i', (key, to) => {
    const { slider, onChange } = glass(-30);
    fireEvent.keyDown(slider, { key });
    expect(onChange).toHaveBeenCalledWith(to);
  });

  it('goes off the scale past its end and says so, and never past zero by more than is drawn', () => {
    const { slider, onChange } = glass(-50);
    fireEvent.keyDown(slider, { key: 'ArrowUp' });
    expect(onChange).toHaveBeenCalledWith(-51);
    cleanup();
    expect(glass(-51).slider.getAttribute('aria-valuetext')).toBe('off scale');
    cleanup();
    expect(glass(null).slider.getAttribute('aria-valuetext')).toBe('not set');
  });

  it('is set where it is pressed, to the nearest division', () => {
    const { slider, onChange } = glass(null);
    slider.setPointerCapture = vi.fn();
    vi.spyOn(slider, 'getBoundingClientRect').mockReturnValue({ top: 0, height: 372 } as DOMRect);
    fireEvent.pointerDown(slider, { clientY: 186, pointerId: 1 });
    const perIndex = (276 - 96) / (1.3934 - 1.333);
    expect(onChange).toHaveBeenCalledWith(Math.round(valueAt(scale.marks, 1.333 + (276 - 186) / perIndex)));
    fireEvent.pointerDown(slider, { clientY: 60, pointerId: 1 });
    expect(onChange).toHaveBeenLastCalledWith(-51);
  });

  it('follows the divisions of a Brix scale, upwards as it grows stronger', () => {
    const onChange = vi.fn();
    inApp(
      <SightGlass
        scale={brix}
        value={36}
        division={0.2}
        zero={0.2}
        edge="sharp"
        onChange={onChange}
        onEdge={vi.fn()}
      />,
    );
    const slider = screen.getByRole('slider');
    expect(plain(slider.getAttribute('aria-valuetext'))).toBe('36.0 Brix');
    fireEvent.keyDown(slider, { key: 'ArrowUp' });
    expect(onChange).toHaveBeenCalledWith(36.2);
    fireEvent.keyDown(slider, { key: 'PageDown' });
    expect(onChange).toHaveBeenLastCalledWith(35);
  });
});
