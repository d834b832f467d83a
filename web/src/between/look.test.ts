import { describe, expect, it } from 'vitest';
import type { Schemas } from '../api/client';
import { accountFacts, EMPTY_LOOK, type LookDraft } from './look';

const state = { top_up_share: 0.5, plan: { product: { id: '4' } } } as unknown as Schemas['LoopState'];
const litres = (text: string) => ({ text, unit: 'l' as const });
const made = (part: Partial<LookDraft>) => accountFacts({ ...EMPTY_LOOK, ...part }, state, 'metric');

describe('a look between services', () => {
  it('is the level, and how much of a low one is missing', () => {
    expect(made({ level: 'low', missingMm: '12' }).before).toMatchObject([
      { kind: 'level_seen', facts: { level: 'low', missing_mm: 12, missing_l: null, lost_when: null } },
    ]);
    expect(made({ level: 'at_mark', missing: litres('0.6') }).before).toMatchObject([
      { facts: { level: 'at_mark', missing_l: null } },
    ]);
  });

  it('asks with what it was topped up, and where the level stands then', () => {
    expect(made({ level: 'low', topped: litres('0.5') }).waits).toBe('Topped up with what?');
    expect(made({ level: 'low', topped: litres('0.5'), what: 'same' }).waits).toBe('Is it at the mark now?');
    const done = made({ level: 'low', topped: litres('0.5'), what: 'same', after: 'low' });
    expect(done.waits).toBeNull();
    expect(done.after).toMatchObject([
      { kind: 'poured', facts: { product_id: 4, mixture_l: 0.5, product_share: 0.5, at_mark: false } },
    ]);
  });

  it('takes what was spilled and the meters before the level', () => {
    const rows = made({
      level: 'at_mark',
      spilled: litres('0.2'),
      hours: '812',
      km: { text: '100', unit: 'mi' },
    }).before;
    expect(rows.map((row) => row.kind)).toEqual(['spilled', 'metered', 'level_seen']);
    expect(rows[1]).toMatchObject({ facts: { hours: 812 } });
    expect((rows[1]?.facts as { distance_km: number }).distance_km).toBeCloseTo(160.93, 2);
  });

  it('waits while a figure cannot be read', () => {
    for (const part of [{ missingMm: 'x', level: 'low' as const }, { hours: 'x' }, { spilled: litres('x') }])
      expect(made(part).waits).toBe('Fix the marked fields');
  });
});
