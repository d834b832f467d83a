import type { Schemas } from '../api/client';
import { BASE, FAMILY, MEASURED, METHOD, PROOF, ROUTE, TOPPED_UP, WASTE } from './trade';

interface Units {
  volume: (litres: number) => string;
  temperature: (celsius: number, decimals?: number) => string;
  distance: (km: number) => string;
  pressure: (kpa: number) => string;
}

type Facts = Record<string, unknown>;

const num = (value: unknown): number => (typeof value === 'number' ? value : 0);
const word = (value: unknown): string => (typeof value === 'string' ? value : '');
const name = (value: unknown): string => word((value as Facts | null)?.name);

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/** A code of the ledger in words: "fine_sand" is "fine sand". */
const plain = (value: unknown): string => word(value).replace(/_/g, ' ');
const list = (value: unknown): string => (Array.isArray(value) ? value.map(plain).join(', ') : '');
const named = (names: Record<string, string>, value: unknown): string => names[word(value)] ?? plain(value);

const FIGURE: Record<string, (value: number, u: Units) => string> = {
  in_c: (value, u) => `inlet side ${u.temperature(value, 0)}`,
  out_c: (value, u) => `outlet side ${u.temperature(value, 0)}`,
  sample_c: (value, u) => `sample at ${u.temperature(value, 0)}`,
  start_kpa: (value, u) => `from ${u.pressure(value)}`,
  end_kpa: (value, u) => `to ${u.pressure(value)}`,
  minutes: (value) => `in ${value} min`,
  ph: (value) => `pH ${value}`,
  reserve_ml: (value) => `reserve ${value} ml`,
  nitrite_mg_l: (value) => `nitrite ${value} mg/l`,
  molybdate_mg_l: (value) => `molybdate ${value} mg/l`,
  us_cm: (value) => `${value} µS/cm`,
};

const figures = (value: unknown, u: Units): string =>
  Object.entries((value ?? {}) as Record<string, number>)
    .map(([key, figure]) => FIGURE[key]?.(figure, u) ?? `${plain(key)} ${figure}`)
    .join(', ');

const caughtWords = (value: unknown, u: Units): string =>
  (Array.isArray(value) ? (value as Facts[]) : [])
    .map((row) => {
      const where = row.where ? `${word(row.where)} ` : '';
      if (typeof row.marks_l === 'number') return `${where}${u.volume(row.marks_l)} by marks`;
      return `${where}${Number((num(row.gross_kg) - num(row.tare_kg)).toFixed(2))} kg`;
    })
    .join(', ');

/** A reading as it was seen: degrees in the reader's unit, any other scale as it is engraved. */
function readSeen(f: Facts, u: Units): string {
  const instrument = (f.instrument ?? {}) as Facts;
  if (instrument.kind === 'steps') return `${num(f.value)} steps`;
  const scale = word(instrument.scale);
  if (scale === '' || scale.startsWith('freeze')) return u.temperature(num(f.value));
  return `${num(f.value)} ${{ brix: 'Brix', refractive_index: 'nD', specific_gravity: 'sg' }[scale] ?? '%'}`;
}

const litresWords = (value: unknown, u: Units): string =>
  Object.entries((value ?? {}) as Record<string, number>)
    .map(([vessel, litres]) => `${vessel} ${u.volume(litres)}`)
    .join(', ');

const changedAt = (f: Facts, u: Units): string => {
  const at = [
    typeof f.changed_km === 'number' ? u.distance(f.changed_km) : '',
    typeof f.changed_hours === 'number' ? `${f.changed_hours} h` : '',
  ].filter(Boolean);
  return at.length ? `; changed at ${at.join(', ')}` : '';
};

const WORDS: Record<string, (facts: Facts, units: Units) => string> = {
  job_opened: (f) => `Came in: ${(ROUTE as Record<string, string>)[word(f.route)]?.toLowerCase() ?? 'a job'}`,
  planned: (f, u) =>
    typeof f.concentrate_l === 'number'
      ? `Mix accepted: ${u.volume(f.concentrate_l)} ${name(f.product)} + ${u.volume(num(f.water_l))} water` +
        (typeof f.target_freeze_c === 'number' ? `, to ${u.temperature(f.target_freeze_c, 0)}` : '')
      : `Going in: ${name(f.product)}`,
  told: (f, u) =>
    `Inside, as told: ${f.family ? named(FAMILY, f.family).toLowerCase() : 'family unknown'}, ` +
    `${f.base ? named(BASE, f.base) : 'base unknown'}; topped up with ${named(TOPPED_UP, f.topped_up)}${changedAt(f, u)}`,
  metered: (f, u) =>
    `Meters: ${[
      typeof f.distance_km === 'number' ? u.distance(f.distance_km) : '',
      typeof f.hours === 'number' ? `${f.hours} h` : '',
    ]
      .filter(Boolean)
      .join(', ')}${f.replaced === true ? ', meter replaced' : ''}`,
  sampled: (f) =>
    `Sample, ${plain(f.spot)}: ${[
      list(f.looks),
      typeof f.sediment_mm === 'number' ? `${f.sediment_mm} mm sediment` : '',
    ]
      .filter(Boolean)
      .join(', ')}`,
  tested: (f, u) => `${capital(plain(f.check))}: ${f.outcome ? plain(f.outcome) : figures(f.figures, u)}`,
  skipped: (f) => `Not looked at: ${list(f.checks)} (${word(f.reason)})`,
  routed: (f) =>
    `Decided: ${named(ROUTE, f.route).toLowerCase()}` +
    (f.route === f.advised ? '' : `, against the advice (${named(ROUTE, f.advised).toLowerCase()}): ${word(f.reason)}`),
  acknowledged: () => 'Override seen by a lead',
  photo_added: () => 'Photo added',
  gate_observed: (f, u) =>
    `Safe to open: ${
      typeof f.temperature_c === 'number' ? u.temperature(f.temperature_c, 0) : f.held === true ? 'held' : 'too hot'
    }, ${typeof f.gauge_kpa === 'number' ? `gauge ${u.pressure(f.gauge_kpa)}` : f.soft === true ? 'hose soft' : 'hose hard'}${f.isolated_by ? `, made dead by ${word(f.isolated_by)}` : ''}`,
  ready_confirmed: (f) => `Stands ready: ${list(f.ready)}`,
  engine_run: (f) =>
    `${capital(plain(f.by))} ran${num(f.minutes) > 0 ? ` ${Math.round(num(f.minutes))} min` : ''}` +
    `${f.opened === true ? ', thermostat opened' : f.opened === false ? ', thermostat stayed shut' : ''}`,
  temperature_logged: (f, u) => `Upper hose at ${u.temperature(num(f.c), 0)}`,
  clock_started: (f) => `Clock: ${plain(f.clock)}, ${num(f.minutes)} min`,
  clock_stopped: () => 'Clock stopped',
  paused: (f) => `Put aside${f.note ? `: ${word(f.note)}` : ''}`,
  resumed: () => 'Taken up again',
  drained: (f, u) =>
    typeof f.corrected_l === 'number'
      ? `${u.volume(f.corrected_l)} out, corrected; as recorded: ${caughtWords(f.caught, u) || litresWords(f.by_vessel, u)}`
      : typeof f.drained_l === 'number'
        ? `${u.volume(f.drained_l)} out, ${(MEASURED as Record<string, string>)[word(f.measured)] ?? ''}`
        : `Drained: ${caughtWords(f.caught, u)}`,
  round_filled: (f, u) =>
    `Round filled: ${plain(f.water)} water${typeof f.fill_l === 'number' ? `, ${u.volume(f.fill_l)}` : ' to the mark'}` +
    (f.agent ? `, ${num(f.agent_ml)} ml ${name(f.agent)}` : ''),
  swept: (f, u) => `${named(METHOD, f.method)}: ${litresWords(f.litres, u)}`,
  flush_ended: (f) => `Flush ended${f.reason ? ` early: ${word(f.reason)}` : ': enough'}`,
  waste_kept: (f, u) =>
    `${named(WASTE, f.kind)}, ${u.volume(num(f.litres))} in ${num(f.containers)} ${num(f.containers) === 1 ? 'container' : 'containers'}` +
    (f.reuse === true ? ', kept for reuse' : ''),
  poured: (f, u) =>
    `${f.bleeding === true ? 'Topped up' : 'Poured'} ${[
      num(f.product_l) > 0 ? `${u.volume(num(f.product_l))} ${name(f.product)}` : '',
      num(f.water_l) > 0 ? `${u.volume(num(f.water_l))} ${f.bleeding === true ? '' : `${word(f.water)} `}water` : '',
    ]
      .filter(Boolean)
      .join(' + ')}${f.at_mark === true && f.bleeding !== true ? ', at the mark' : ''}`,
  closed: (f) => `Shut and seated: ${list(f.points).replace(/drain:|hose:/g, '')}`,
  looked_under: (f) => (f.dry === true ? 'Dry underneath' : `Drips at ${word(f.where)}`),
  vacuum_pulled: (f, u) =>
    `Vacuum ${u.pressure(num(f.vacuum_kpa))} below ambient` +
    (f.held ? `, ${u.pressure(num((f.held as Facts).drop_kpa))} lost in ${num((f.held as Facts).minutes)} min` : ''),
  bleed_started: (f) => `Bleed: ${name(f.recipe).toLowerCase()}`,
  bleed_stepped: (f) => `Bleed, on to step ${num(f.step) + 1}`,
  bleed_held: () => 'Bleed held',
  bleed_goes_on: () => 'Bleed goes on',
  bleed_ended: (f) => `Bleed ${plain(f.outcome)}${list(f.signs) ? `: ${list(f.signs)}` : ''}`,
  corrected: (f, u) =>
    `Swapped ${u.volume(num(f.out_l))} for ${[
      num(f.product_l) > 0 ? `${u.volume(num(f.product_l))} ${name(f.product)}` : '',
      num(f.water_l) > 0 ? `${u.volume(num(f.water_l))} water` : '',
    ]
      .filter(Boolean)
      .join(' + ')}`,
  finish_checked: (f, u) =>
    `Last look: level ${plain(f.level)} at ${u.temperature(num(f.level_c), 0)}` +
    (f.leak
      ? `, ${u.pressure(num((f.leak as Facts).drop_kpa))} lost in ${num((f.leak as Facts).minutes)} min`
      : ', no hold'),
  level_seen: (f) => `Looked: level ${plain(f.level)}`,
  amended: (f) => `Correction: ${word(f.text)}`,
  read: (f, u) =>
    `${f.place === 'as_found' ? 'As found' : f.place === 'rinse' ? 'Rinse read' : 'Read'} ${readSeen(f, u)}` +
    (f.instrument ? ` on ${name(f.instrument)}` : ', told'),
  listed: (f, u) => `From a list: ${readSeen(f.read as Facts, u)} on ${name((f.read as Facts).instrument)}`,
  signed_off: (f) =>
    `Signed off: ${(PROOF[word(f.proof)] ?? word(f.proof)).toLowerCase()}${f.reason ? ` (${word(f.reason)})` : ''}`,
  voided: () => 'Took an entry back',
};

/** One ledger line in words. */
export function entryWords(entry: Pick<Schemas['EntryOut'], 'kind' | 'facts'>, units: Units): string {
  return WORDS[entry.kind]?.(entry.facts, units) ?? entry.kind;
}
