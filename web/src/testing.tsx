import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { render } from '@testing-library/react';
import type { Schemas } from './api/client';
import { UnitsProvider } from './units/UnitsContext';

const fresh = () => new QueryClient({ defaultOptions: { queries: { retry: false } } });

/** As a person reads it: a space that keeps a figure and its unit together is a space. For tests only. */
export const plain = (text: string | null | undefined) => (text ?? '').replaceAll('\u00a0', ' ');

/** Render as inside the application: queries without retries, units. For tests only. */
export const inApp = (inside: React.ReactNode) =>
  render(
    <QueryClientProvider client={fresh()}>
      <UnitsProvider>{inside}</UnitsProvider>
    </QueryClientProvider>,
  );

/** What a hook needs around it, one client for all its renders. For tests only. */
export function aroundHook() {
  const client = fresh();
  return ({ children }: { children: React.ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
}

/** One sentence without figures. For tests only. */
export const saying = (sentence: string): Schemas['Message'] => ({
  code: 'x',
  sentence,
  template: sentence,
  values: {},
});

/** A bench of a loop whose job just began, of 32 L in one block; with changes. For tests only. */
export const aBench = (state: Partial<Schemas['LoopState']> = {}, more: Partial<Schemas['Bench']> = {}) =>
  ({
    machine: { id: 1, fleet_number: 'G-07', kind: 'Piste groomer', description: '', year: null },
    loop: {
      id: 7,
      name: 'Engine loop',
      capacity_l: 32,
      layout: {
        nodes: [{ id: 'block', kind: 'block', name: 'Block', volume_l: 32, bottom_mm: 100, top_mm: 900, column: 0 }],
      },
    },
    state: {
      found: { base: 'ethylene', family: 'iat', strength_percent: null },
      inside: { litres: 32, base: 'ethylene', family: 'iat', strength_percent: null },
      claim: { why: 'unknown', freeze_c: null, safe_to_c: null, vessel: null, said: saying('Never read.') },
      plan: null,
      drained_l: null,
      poured: { product_l: 0, water_l: 0 },
      vessels: [],
      stages: [],
      flags: [],
      flush: null,
      standing: saying('Full, as found.'),
      timers: [],
      paused: null,
      hands_id: null,
      last_entry_id: 'e1',
      job_type: 'refill',
      job_id: 'j1',
      signed_at: null,
      isolated: false,
      ran_hot: false,
      gate: {
        open: true,
        reasons: [],
        asked: [],
        asked_drain: [],
        asked_run: [],
        observed: true,
        by: 'Tomo Reik',
        by_id: '1',
      },
      due: null,
      advice: null,
      inspection: { asked: [], seen: [], skipped: [], reported: null, metered: null, job_type_chosen: null },
      ...state,
    },
    choices: [],
    wait: { kind: 'hands', timer: null, since: null, until: null },
    drain: { points: [], hints: [] },
    flushing: null,
    drafts: [],
    recent: [],
    photos: [],
    cautions: {},
    wants_conductivity: false,
    conductivity_limit: null,
    level_opens: false,
    taught: {},
    dosing: [],
    stated_in: '',
    frost_scales: [],
    coldest_c: -38,
    policy: { margin_k: 5, gate_hold_s: 5 },
    ...more,
  }) as unknown as Schemas['Bench'];
