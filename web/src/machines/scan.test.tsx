import { cleanup, fireEvent, render, screen } from '@testing-library/react';
import { useState } from 'react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { scanned, useScan } from './useScan';

interface Props {
  onScan: (code: string) => void;
  onPress: () => void;
  on?: boolean;
}

function Page({ onScan, onPress, on = true }: Props) {
  const [text, setText] = useState('');
  useScan(onScan, on);
  return (
    <>
      <input aria-label="litres" inputMode="decimal" value={text} onChange={(event) => setText(event.target.value)} />
      <form
        onSubmit={(event) => {
          event.preventDefault();
          onPress();
        }}
      >
        <input aria-label="note" />
        <input aria-label="password" type="password" />
        <input aria-label="finder" data-scan="" />
      </form>
      <button onClick={onPress}>go</button>
    </>
  );
}

/** Keys at their times, into whatever has focus; the characters land in a field as a browser lets them. */
function type(target: HTMLElement, keys: [string, number][]): void {
  for (const [key, at] of keys) {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true });
    Object.defineProperty(event, 'timeStamp', { value: at });
    const free = fireEvent(target, event);
    if (!free) continue;
    if (key.length === 1 && target instanceof HTMLInputElement)
      fireEvent.change(target, { target: { value: target.value + key } });
    if (key === 'Enter' && target instanceof HTMLButtonElement) fireEvent.click(target);
    if (key === 'Enter' && target instanceof HTMLInputElement && target.form) fireEvent.submit(target.form);
  }
}

const burst = (code: string, from: number, gap: number): [string, number][] =>
  [...code, 'Enter'].map((key, i) => [key.length === 1 ? key : 'Enter', from + i * gap]);

afterEach(cleanup);

describe('a scan', () => {
  it('goes to the finder, leaves the field as it was and presses nothing', () => {
    const [onScan, onPress] = [vi.fn(), vi.fn()];
    render(<Page onScan={onScan} onPress={onPress} />);
    const field = screen.getByLabelText('litres');
    type(field, [
      ['2', 1000],
      ['4', 1400],
    ]);
    type(field, burst('G-07', 5000, 12));
    expect(onScan).toHaveBeenCalledWith('G-07');
    expect((field as HTMLInputElement).value).toBe('24');
    type(screen.getByRole('button'), burst('T-21', 9000, 12));
    expect(onScan).toHaveBeenLastCalledWith('T-21');
    expect(onPress).not.toHaveBeenCalled();
  });

  it('is not what a hand types, nor a short burst', () => {
    const [onScan, onPress] = [vi.fn(), vi.fn()];
    render(<Page onScan={onScan} onPress={onPress} />);
    const field = screen.getByLabelText('litres');
    type(field, burst('G-07', 1000, 120));
    type(field, burst('24', 4000, 10));
    expect(onScan).not.toHaveBeenCalled();
    expect((field as HTMLInputElement).value).toBe('G-0724');
  });

  it.each(['note', 'password'])('stays in a field that asks for words (%s), and sends no form', (label) => {
    const [onScan, onPress] = [vi.fn(), vi.fn()];
    render(<Page onScan={onScan} onPress={onPress} />);
    const field = screen.getByLabelText(label);
    type(field, burst('snow-and-cable', 1000, 10));
    expect(onScan).not.toHaveBeenCalled();
    expect(onPress).not.toHaveBeenCalled();
    expect((field as HTMLInputElement).value).toBe('snow-and-cable');
  });

  it('is taken from the finder, which asks for one', () => {
    const onScan = vi.fn();
    render(<Page onScan={onScan} onPress={vi.fn()} />);
    type(screen.getByLabelText('finder'), burst('G-07', 1000, 10));
    expect(onScan).toHaveBeenCalledWith('G-07');
  });

  it('is nothing where nobody is signed in', () => {
    const onScan = vi.fn();
    render(<Page onScan={onScan} onPress={vi.fn()} on={false} />);
    type(screen.getByRole('button'), burst('G-07', 1000, 10));
    expect(onScan).not.toHaveBeenCalled();
  });

  it.each([
    ['G-07', 'G-07'],
    [' S-12 ', 'S-12'],
    ['https://bay.example/loops/7', '/loops/7'],
  ])('%s names %s', (code, named) => {
    expect(scanned(code)).toBe(named);
  });
});
