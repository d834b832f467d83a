import type { Schemas } from '../api/client';
import { asFull } from '../figures/asFull';
import { Circuit } from '../figures/Circuit';
import { CautionLines } from '../bench/Cautions';
import { number } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { BASE, CAPACITY_FROM, FAMILY, FILTER, MATERIAL, TANK, LOOP_USE } from '../language/names';

type Loop = Schemas['LoopDetail'];

const list = (words: string[]): string => words.filter(Boolean).join(', ') || 'not stated';

/** What is known of one loop, as answers to what a technician asks before touching it. */
export function LoopRead({ loop }: { loop: Loop }) {
  const units = useUnits();
  const { spec } = loop;
  const { equipment, layout } = spec;
  const valve = (layout.pipes ?? []).some((pipe) => pipe.via === 'heater_valve');
  const interval: Schemas['ServiceInterval'] = equipment.interval ?? {};
  const figures: [string, string][] = [
    [
      'Capacity, to the cold mark',
      spec.capacity_source === 'kind'
        ? `${units.volume(spec.capacity_l as number)}, usual for its kind`
        : `${units.volume(spec.capacity_l as number)}, from ${CAPACITY_FROM[spec.capacity_source]}`,
    ],
    [
      'Room above the mark',
      loop.room_l === null ? 'not known' : units.volume(loop.room_l) + (loop.usual ? ', usual for this layout' : ''),
    ],
    ['Level', sayIn(loop.level, units.system).replace(/^Level: /, '')],
    [
      'Tank',
      TANK[equipment.tank ?? 'degas'] + (equipment.tank_l_per_mm ? `, ${equipment.tank_l_per_mm} L per mm` : ''),
    ],
    ['Cap pressure', spec.cap_gauge_kpa == null ? 'not known' : units.pressure(spec.cap_gauge_kpa)],
    [
      'Thermostat opens at',
      equipment.thermostat_opens_c == null ? 'not known' : units.temperature(equipment.thermostat_opens_c, 0),
    ],
    ['Heater valve', valve ? 'yes: heater on full, or that part does not mix' : 'none: the heater always flows'],
    ['Coolant filter', FILTER[equipment.coolant_filter ?? 'none']],
    ['Drains', list((layout.drains ?? []).map((drain) => drain.letter))],
    [
      'Bleeders',
      (layout.bleeders ?? []).length === 0 ? 'none' : (layout.bleeders ?? []).map((row) => row.kind).join(', '),
    ],
    ['Fill points', list((layout.fill_points ?? []).map((row) => row.name ?? 'cap'))],
  ];
  const asks: [string, string][] = [
    [
      'Maker’s requirement',
      list([...(spec.maker_families ?? []).map((f) => FAMILY[f].toLowerCase()), ...(spec.maker_standards ?? [])]),
    ],
    ['Stated in', spec.maker_stated_in || 'not stated: ask the maker'],
    ['Materials in contact', list((spec.materials ?? []).map((material) => MATERIAL[material]))],
    [
      'Change interval (maker)',
      list([
        interval.months ? `${interval.months} months` : '',
        interval.distance_km ? units.distance(interval.distance_km) : '',
        interval.hours ? `${interval.hours} h` : '',
      ]),
    ],
    [
      'Inside (reported)',
      `${spec.believed_family ? FAMILY[spec.believed_family].toLowerCase() : 'family unknown'}, ${spec.believed_base ? BASE[spec.believed_base] : 'base unknown'}` +
        (spec.believed_strength_percent == null ? '' : `, ${number(spec.believed_strength_percent, 0)} % reported`),
    ],
  ];
  if (spec.low_conductivity)
    asks.push(
      ['Use', spec.use ? LOOP_USE[spec.use] : 'not entered: no verdict until a lead enters the use'],
      [
        'Conductivity at most',
        equipment.conductivity_limit_us_cm == null
          ? 'maker’s limit not entered'
          : `${equipment.conductivity_limit_us_cm} µS/cm, maker’s limit`,
      ],
    );
  return (
    <>
      <CautionLines cautions={loop.cautions} />
      <h2 className="title">Allowed coolant</h2>
      <Figures rows={asks} />
      {spec.glycol_forbidden && <p>Its series forbids glycol.</p>}
      <h2 className="title">Build</h2>
      <Figures rows={figures} />
      {loop.capacity_note && <p className="ink2">Capacity: {loop.capacity_note}.</p>}
    </>
  );
}

function Figures({ rows }: { rows: [string, string][] }) {
  return (
    <dl className="known">
      {rows.map(([name, value]) => (
        <div key={name}>
          <dt>{name}</dt>
          <dd>{value}</dd>
        </div>
      ))}
    </dl>
  );
}

LoopRead.Drawing = function Drawing({ loop }: { loop: Loop }) {
  return (
    <section className="drawing" aria-label={`Circuit, ${loop.spec.name}`}>
      <p>
        <b>{loop.spec.name}.</b> Drawn from the layout, full.
      </p>
      <Circuit
        system={useUnits().system}
        layout={loop.spec.layout}
        vessels={loop.spec.layout.nodes.map(asFull)}
        fresh={false}
        drainsNext={false}
      />
    </section>
  );
};
