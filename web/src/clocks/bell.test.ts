import { afterEach, describe, expect, it, vi } from 'vitest';

const tone = { frequency: { value: 0 }, type: '', connect: vi.fn(), start: vi.fn(), stop: vi.fn() };
const gain = {
  gain: { setValueAtTime: vi.fn(), exponentialRampToValueAtTime: vi.fn() },
  connect: vi.fn(),
};
tone.connect.mockReturnValue(gain);

class FakeAudio {
  state = 'running';
  currentTime = 0;
  destination = {};
  createOscillator = () => tone;
  createGain = () => gain;
  resume = () => Promise.resolve();
}

afterEach(() => vi.unstubAllGlobals());

describe('the bell', () => {
  it('is silent until the page was touched once, then rings three times', async () => {
    vi.stubGlobal('AudioContext', FakeAudio);
    const { onFirstTouch, ring } = await import('./bell');
    const stop = onFirstTouch();
    expect(ring(true)).toBe(false);
    window.dispatchEvent(new Event('pointerdown'));
    expect(ring(false)).toBe(true);
    expect(tone.start).toHaveBeenCalledTimes(3);
    const quiet = gain.gain.setValueAtTime.mock.calls[0]?.[0] as number;
    expect(ring(true)).toBe(true);
    expect(gain.gain.setValueAtTime.mock.lastCall?.[0]).toBeGreaterThan(quiet);
    stop();
  });

  it('asks for nothing where a browser has no sound', async () => {
    vi.stubGlobal('AudioContext', undefined);
    const { onFirstTouch } = await import('./bell');
    expect(() => onFirstTouch()()).not.toThrow();
  });
});
