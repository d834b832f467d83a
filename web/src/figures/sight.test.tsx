import { cleanup, fireEvent, screen } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { Schemas } from '../api/client';
import { inApp } from '../testing';
import { SightGlass } from './SightGlass';
import { massAt, seenAt } from './sightScale';

afterEach(cleanup);

/** Mass percent and first ice of ethylene glycol solutions, as the design's drawing has them. */
const LEAN: [number, number][] = [
  [0, 0],
  [13.8, -5],
  [23.5, -10],
  [30.5, -15],
  [36.3, -20],
  [41.1, -25],
  [45.4, -30],
  [49.3, -35],
  [52.8, -40],
  [56.2, -45],
  [59.3, -50],
];
const scale: Schemas['FrostScale'] = {
  glycol: 'ethylene',
  coldest_c: -50,
  lean: LEAN.map(([glycol_mass_percent, freeze_c]) => ({ glycol_mass_percent, freeze_c, warmer_c: null })),
  rich: [],
};
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
  it('is even in strength, so that degrees crowd towards the cold', () => {
    const ten = (from: number) => massAt(scale, from - 10) - massAt(scale, from);
    expect(ten(0) / ten(-40)).toBeCloseTo(3.6, 1);
    expect(massAt(scale, -20)).toBeCloseTo(36.3, 9);
    expect(massAt(scale, 2)).toBeCloseTo(-5.52, 9);
  });

  it.each([1, 0, -3.3, -17, -36.7, -49.9])('reads back what it drew at %i', (celsius) =>
    expect(seenAt(scale, massAt(scale, celsius))).toBeCloseTo(celsius, 9),
  );
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
    const perMass = (276 - 96) / 59.3;
    expect(onChange).toHaveBeenCalledWith(Math.round(seenAt(scale, (276 - 186) / perMass)));
    fireEvent.pointerDown(slider, { clientY: 60, pointerId: 1 });
    expect(onChange).toHaveBeenLastCalledWith(-51);
  });
});
