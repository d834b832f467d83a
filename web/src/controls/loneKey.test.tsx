import { act, cleanup, fireEvent, render } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { useLoneKey } from './loneKey';

let pressed = 0;
const Here = () => {
  useLoneKey('/', () => (pressed += 1));
  return <input aria-label="field" />;
};

beforeEach(() => {
  pressed = 0;
  vi.useFakeTimers();
  render(<Here />);
});
afterEach(() => {
  cleanup();
  vi.useRealTimers();
});

const type = (keys: string, target: Element = document.body) => {
  for (const key of keys) fireEvent.keyDown(target, { key });
  act(() => void vi.advanceTimersByTime(200));
};

describe('a key by itself', () => {
  it('does what it is for, once', () => {
    type('/');
    expect(pressed).toBe(1);
  });

  it('does nothing within a scanned code, nor in a field', () => {
    type('https://temper.example/shelf/7');
    type('/', document.querySelector('input') as Element);
    expect(pressed).toBe(0);
  });
});
