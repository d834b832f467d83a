import { act, cleanup, renderHook, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { aroundHook, plain } from '../../testing';
import { decimalsFor, firstFor, type Instrument, kindFor, scaleText, seenText, zeroWants } from './scale';
import { useTake } from './useTake';

afterEach(() => {
  cleanup();
  sessionStorage.clear();
});

const glass = { id: 1, name: 'Glass', kind: 'optical', scale: 'freeze_ethylene', retired: false } as Instrument;
const balls = { ...glass, id: 2, name: 'Balls', kind: 'steps' } as Instrument;
const brix = { ...glass, id: 3, name: 'Brix', scale: 'brix' } as Instrument;
const strips = { ...glass, id: 4, name: 'Strips', kind: 'strips', scale: null } as Instrument;

describe('what is typed', () => {
  it('is of the instrument’s scale', () => {
    expect([glass, balls, brix].map(kindFor)).toEqual(['temperature', 'steps', 'brix']);
    expect([1, 0.5, 0.2, 0.0001, 0.002].map(decimalsFor)).toEqual([0, 1, 1, 4, 3]);
  });

  it('is shown with its unit; only degrees follow the reader', () => {
    expect(plain(scaleText('freeze_ethylene', -36.7, 'us'))).toBe('\u221234.1 °F');
    expect(plain(scaleText('refractive_index', 1.3831, 'us'))).toBe('1.3831 nD');
    expect(seenText({ scale: 'freeze_ethylene', value: 1, steps: true }, 'metric')).toBe('1 step');
  });
});

describe('the instrument in hand', () => {
  it('is the one used last, else the one for this glycol, never a step tester by itself', () => {
    expect(firstFor([balls, brix, glass], 'ethylene')?.name).toBe('Glass');
    expect(firstFor([balls, brix, glass], 'ethylene', 'Brix')?.name).toBe('Brix');
    expect(firstFor([balls, strips, brix], 'propylene')?.name).toBe('Brix');
    expect(firstFor([{ ...glass, retired: true }, strips], 'ethylene')).toBeNull();
  });

  it('says what its zero wants', () => {
    const with_ = (state: object) => zeroWants({ ...glass, state } as unknown as Instrument);
    expect(with_({ zero: null, good: false, overdue: true })).toBe('zero never checked');
    expect(with_({ zero: -2, good: false, overdue: true })).toBe('zero off');
    expect(with_({ zero: 0, good: true, overdue: true })).toBe('zero due');
    expect(with_({ zero: 0, good: true, overdue: false })).toBeNull();
  });
});

describe('an instrument’s own key', () => {
  it('asks with the same id until the reading is here, over a dropped line', async () => {
    const asked: string[] = [];
    const dropped = Response.json({ field: 'id', code: 'line_dropped', message: 'Again.' }, { status: 409 });
    const answers = [dropped, Response.json({ id: 'x', value: 1.38, sample_c: 20 }), dropped.clone()];
    vi.stubGlobal('fetch', async (request: Request) => {
      asked.push(((await request.json()) as { id: string }).id);
      return answers.shift();
    });
    const onTaken = vi.fn();
    const { result } = renderHook(() => useTake(7, onTaken), { wrapper: aroundHook() });
    act(() => result.current.mutate());
    await waitFor(() => expect(result.current.error?.code).toBe('line_dropped'));
    act(() => result.current.mutate());
    await waitFor(() => expect(onTaken).toHaveBeenCalledTimes(1));
    expect(asked[0]).toBe(asked[1]);
    act(() => result.current.mutate());
    await waitFor(() => expect(asked).toHaveLength(3));
    expect(asked[2]).not.toBe(asked[0]);
  });
});
