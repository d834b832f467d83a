import { describe, expect, it } from 'vitest';
import type { Schemas } from '../../api/client';
import { matching } from './match';

const row = (number: string, kind: string, line: Partial<NonNullable<Schemas['LoopRow']['line']>> | null) =>
  ({
    machine: { id: 1, fleet_number: number, kind, description: 'upper slopes', year: null },
    loop_id: 1,
    loop_name: 'Engine loop',
    capacity_l: 10,
    signed_at: null,
    line: line && {
      base: 'ethylene',
      family: 'oat',
      stage: null,
      signs: [],
      asked: null,
      due_on: null,
      advised: null,
      claim: { why: 'read', freeze_c: -30, safe_to_c: -27 },
      ...line,
    },
  }) as Schemas['LoopRow'];

const ROWS = [
  row('G-07', 'Piste groomer', { signs: ['in_work', 'not_protected'], stage: 'mix' }),
  row('W-02', 'Loader', { base: 'propylene', signs: ['due', 'overdue'] }),
  row('X-1', 'Crane', null),
];
const found = (typed: string) => matching(ROWS, typed).map(({ machine }) => machine.fleet_number);

describe('matching', () => {
  it.each([
    ['', ['G-07', 'W-02', 'X-1']],
    ['g07', ['G-07']],
    ['loader engine', ['W-02']],
    ['overdue', ['W-02']],
    ['not protected', ['G-07']],
    ['ethylene', ['G-07']],
    ['PROPYLENE', ['W-02']],
    ['mix', ['G-07']],
    ['slopes crane', ['X-1']],
    ['broken', ['X-1']],
    ['nothing like it', []],
  ])('finds by %j', (typed, numbers) => expect(found(typed)).toEqual(numbers));
});
