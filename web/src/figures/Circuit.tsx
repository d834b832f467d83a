import { useId } from 'react';
import type { Schemas } from '../api/client';
import { fromBase, number, type System, SYSTEMS, UNIT_LABEL, volumeDecimals, volumeText } from '../units/units';
import { type Box, draw, HEIGHT, type Hose, LOW, type Mark, type Tap, WIDTH } from './circuitGeometry';
import { useRoom } from './useRoom';
import { HatchPattern } from './patterns';

type Vessel = Schemas['VesselState'];

const halo = { paintOrder: 'stroke', stroke: 'var(--ground)', strokeWidth: 5, strokeLinejoin: 'round' } as const;

/** Which texture a vessel's fluid has: new coolant, water, or old coolant hatched by its share. */
function Liquid({ vessel, box, hatch, fresh }: { vessel: Vessel; box: Box; hatch: string; fresh: boolean }) {
  const part = Math.min(1, vessel.litres / vessel.volume_l);
  if (part <= 0.001) return null;
  const h = Math.max(3, (box.h - 4) * part);
  const y = box.y + box.h - 2 - h;
  const old = vessel.old_percent ?? 0;
  return (
    <>
      <rect x={box.x + 1} y={y} width={box.w - 2} height={h + 1} fill={fresh ? 'url(#mixed)' : 'url(#water)'} />
      {old > 0.4 && <rect x={box.x + 1} y={y} width={box.w - 2} height={h + 1} fill={`url(#${hatch})`} />}
      {part < 0.995 && <path d={`M${box.x} ${y}h${box.w}`} stroke="var(--ink)" strokeWidth="2" />}
    </>
  );
}

interface VesselProps {
  system: System;
  vessel: Vessel;
  box: Box;
  hatch: string;
  fresh: boolean;
  shares: boolean;
  /** Litres of air at its top. */
  air: number | null;
}

function VesselBox({ system, vessel, box, hatch, fresh, shares, air }: VesselProps) {
  const volume = (litres: number) => volumeText(litres, system);
  const all = air === null ? vesselLines(vessel, box, system, shares) : [vessel.name, `air ${volume(air)}`];
  const lines = all.slice(0, Math.max(1, Math.floor((box.h - 7) / 17)));
  const band = Math.min(box.h - 6, lines.length * 17 + 12);
  const width = Math.min(box.w - 8, Math.max(...lines.map((line) => line.length)) * 7 + 10);
  const top = box.y + 5;
  return (
    <g>
      <rect x={box.x} y={box.y} width={box.w} height={box.h} rx="5" fill="var(--sheet)" />
      <Liquid vessel={vessel} box={box} hatch={hatch} fresh={fresh} />
      {air !== null && (
        <path
          data-testid="air-mark"
          d={`M${box.x} ${box.y}h${box.w}v${band}q${-box.w / 4} 9 ${-box.w / 2} 0t${-box.w / 2} 0z`}
          fill="var(--sheet)"
          stroke="var(--ink)"
          strokeWidth="2"
          strokeDasharray="5 4"
        />
      )}
      <rect
        x={box.x}
        y={box.y}
        width={box.w}
        height={box.h}
        rx="5"
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2.6"
        strokeLinejoin="round"
      />
      <rect x={box.x + 4} y={top} width={width} height={lines.length * 17 + 3} rx="3" fill="var(--sheet)" />
      {lines.map((line, i) => (
        <text
          key={i}
          x={box.x + 8}
          y={top + 15 + 17 * i}
          className={i === all.length - 1 ? 'vq' : 'vn'}
          {...fit(line, box.w - 14)}
        >
          {line}
        </text>
      ))}
    </g>
  );
}

/** Name and litres; in a narrow vessel each word on its own line, litres without what it holds, if there is height. */
function vesselLines(vessel: Vessel, box: Box, system: System, shares: boolean): string[] {
  const share = vessel.old_percent === null ? 'empty' : `${number(vessel.old_percent, 1)} % old`;
  const amount = shares ? share : vesselAmount(vessel, system);
  if (box.w >= 80) return [vessel.name, amount];
  const words = vessel.name.split(' ');
  const room = Math.floor((box.h - 8) / 17) - 1;
  return [...(words.length <= room ? words : [vessel.name]), amount.replace(/ of [\d.]+/, '')];
}

/** Long words are set narrower rather than cut. */
const fit = (text: string, room: number) =>
  text.length * 6.9 > room ? ({ textLength: room, lengthAdjust: 'spacingAndGlyphs' } as const) : {};

/** After a drain what stays is known to a plus/minus; before it, and where that is nothing, against what it holds. */
function vesselAmount(vessel: Vessel, system: System): string {
  const unit = SYSTEMS[system].volume;
  const half = fromBase(vessel.litres_half ?? 0, unit);
  const places = volumeDecimals(unit);
  if (half >= 0.5 * 10 ** -places)
    return `${number(fromBase(vessel.litres, unit), places)} ±${number(half, places)} ${UNIT_LABEL[unit].replace(/^(US|imp) /, '')}`;
  const show = (litres: number) => number(fromBase(litres, unit), volumeDecimals(unit));
  return `${show(vessel.litres)} of ${show(vessel.volume_l)} ${UNIT_LABEL[unit].replace(/^(US|imp) /, '')}`;
}

function Symbol({ hose }: { hose: Hose }) {
  if (hose.via === 'none') return null;
  const { x, y } = hose.at;
  const ring = <circle cx={x} cy={y} r="12" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2.6" />;
  if (hose.via === 'pump') {
    return (
      <g>
        {ring}
        <path
          d={`M${x} ${y - 8}a8 8 0 0 1 0 8a8 8 0 0 0 0 8M${x - 8} ${y}a8 8 0 0 1 8 0a8 8 0 0 0 8 0`}
          fill="none"
          stroke="var(--ink)"
          strokeWidth="2.2"
        />
      </g>
    );
  }
  if (hose.via === 'heater_valve') {
    return (
      <path
        d={`M${x - 11} ${y - 9}l22 18v-18l-22 18z`}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth="2.4"
        strokeLinejoin="round"
      />
    );
  }
  return (
    <g>
      {ring}
      <path d={`M${x} ${y - 9}v18`} stroke="var(--ink)" strokeWidth="4.5" />
      {hose.label && (
        <text x={hose.label.x} y={hose.label.y} textAnchor={hose.label.anchor} className="vq" style={halo}>
          thermostat
        </text>
      )}
    </g>
  );
}

function TapMark({ tap, next }: { tap: Tap; next: boolean }) {
  const { x, y, letter } = tap;
  return (
    <g>
      <path d={`M${x} ${y}v10`} stroke="var(--ink)" strokeWidth="6" />
      <path
        d={`M${x - 9} ${y + 8}h18l-18 16h18z`}
        fill={next ? 'var(--sheet)' : 'var(--ink)'}
        stroke="var(--ink)"
        strokeWidth="2.4"
        strokeLinejoin="round"
      />
      <circle
        cx={x + 26}
        cy={y + 16}
        r="12"
        fill={next ? 'var(--go)' : 'var(--key)'}
        stroke="var(--ink)"
        strokeWidth="2"
      />
      <text
        x={x + 26}
        y={y + 21.5}
        textAnchor="middle"
        fontSize="16"
        fontWeight="740"
        style={{ fill: next ? 'var(--ongo)' : 'var(--ink)' }}
      >
        {letter}
      </text>
      {next && (
        <text x={x + 43} y={y + 21} className="vq" style={halo}>
          open
        </text>
      )}
    </g>
  );
}

/** A funnel over the vessel: where it is filled, and in which order where there are several. */
function FillMark({ mark }: { mark: Mark }) {
  const { x, y, number: order } = mark;
  return (
    <g>
      <path
        d={`M${x - 9} ${y - 15}h18l-6 10v5h-6v-5z`}
        fill="var(--sheet)"
        stroke="var(--ink)"
        strokeWidth="2"
        strokeLinejoin="round"
      />
      {order && (
        <text x={x - 13} y={y - 4} textAnchor="end" className="vq" style={halo}>
          {order}
        </text>
      )}
    </g>
  );
}

/** A small stub at the side: where air is let out. */
function BleedMark({ mark }: { mark: Mark }) {
  const out = mark.word === 'right' ? 1 : -1;
  return (
    <g>
      <path d={`M${mark.x} ${mark.y}h${6 * out}`} stroke="var(--ink)" strokeWidth="4" />
      <circle cx={mark.x + 9 * out} cy={mark.y} r="3.4" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="2" />
    </g>
  );
}

function describe(vessels: Vessel[], volume: (litres: number) => string): string {
  return vessels
    .map((vessel) => {
      const old = vessel.old_percent === null ? '' : `, ${number(vessel.old_percent, 1)} % old`;
      return `${vessel.name} ${volume(vessel.litres)} of ${volume(vessel.volume_l)}${old}`;
    })
    .join('; ');
}

interface Props {
  system: System;
  layout: Schemas['Layout'];
  vessels: Vessel[];
  /** New coolant has been poured. */
  fresh: boolean;
  /** The drains are what hands open next. */
  drainsNext: boolean;
  /** Show the share of old coolant in each vessel instead of its litres. */
  shares?: boolean;
  /** Air that is trapped, drawn where it likely sits. */
  air?: { where: string; litres: number } | null;
}

const LEAST = 230;

/** A loop drawn from its layout, with what stands in each vessel now. */
export function Circuit({ system, layout, vessels, fresh, drainsNext, shares = false, air = null }: Props) {
  const base = useId().replace(/:/g, '');
  const volume = (litres: number) => volumeText(litres, system);
  const [figure, height] = useRoom(WIDTH, HEIGHT, LEAST);
  const drawing = draw(layout, height);
  const hoses = vessels.find((vessel) => vessel.kind === 'hoses');
  const wet = hoses !== undefined && hoses.litres > 0.5 * hoses.volume_l;
  return (
    <svg
      ref={figure}
      viewBox={`0 0 ${WIDTH} ${height}`}
      role="img"
      aria-label={describe(vessels, volume) + (air ? ` About ${volume(air.litres)} of air is inside.` : '')}
      className="circuit-figure"
    >
      <defs>
        {vessels.map((vessel) => (
          <HatchPattern key={vessel.id} id={`${base}${vessel.id}`} percent={vessel.old_percent ?? 1} />
        ))}
      </defs>
      {height >= LOW && <Axis system={system} drawing={drawing} floor={height - 20} />}
      {drawing.hoses.map((hose) => (
        <path key={hose.d} d={hose.d} className="hose-g" />
      ))}
      {drawing.hoses.map((hose) => (
        <path key={hose.d} d={hose.d} className="hose-o" />
      ))}
      {drawing.hoses.map((hose) => (
        <path key={hose.d} d={hose.d} className={wet ? 'hose-w' : 'hose-i'} />
      ))}
      {vessels.map((vessel) => {
        const box = drawing.boxes.get(vessel.id);
        return (
          box && (
            <VesselBox
              key={vessel.id}
              system={system}
              vessel={vessel}
              box={box}
              hatch={`${base}${vessel.id}`}
              fresh={fresh}
              shares={shares}
              air={air?.where === vessel.id ? air.litres : null}
            />
          )
        );
      })}
      {drawing.hoses.map((hose) => (
        <Symbol key={hose.d} hose={hose} />
      ))}
      {drawing.fills.map((mark) => (
        <FillMark key={mark.key} mark={mark} />
      ))}
      {drawing.bleeds.map((mark) => (
        <BleedMark key={mark.key} mark={mark} />
      ))}
      {drawing.taps.map((tap) => (
        <TapMark key={tap.letter} tap={tap} next={drainsNext} />
      ))}
      {hoses && (
        <text x={WIDTH - 2} y={height - 26} textAnchor="end" className="vq" style={halo}>
          Hoses {vesselAmount(hoses, system)}
        </text>
      )}
      <path d={`M0 ${height - 20}H${WIDTH}`} stroke="var(--ink)" strokeWidth="2" />
      <path
        d={Array.from({ length: 18 }, (_, i) => `M${8 + i * 17} ${height - 20}l-5 7`).join('')}
        stroke="var(--ink3)"
        strokeWidth="1.3"
      />
    </svg>
  );
}

/** Height above the floor: a drain low down empties more than one high up. */
function Axis({ system, drawing, floor }: { system: System; drawing: ReturnType<typeof draw>; floor: number }) {
  const step = system === 'us' ? 609.6 : 500;
  const marks = [];
  for (let mm = Math.ceil(drawing.lowMm / step) * step; mm <= drawing.highMm; mm += step) marks.push(mm);
  return (
    <g>
      <path d={`M9 ${drawing.y(drawing.highMm)}V${floor}`} stroke="var(--line)" strokeWidth="1.5" />
      <text x="2" y={drawing.y(drawing.highMm) - 8} className="ax" style={halo}>
        {system === 'us' ? 'ft' : 'm'}
      </text>
      {marks.map((mm) => (
        <g key={mm}>
          <path d={`M4 ${drawing.y(mm)}h10`} stroke="var(--ink2)" strokeWidth="1.6" />
          <text x="2" y={drawing.y(mm) - 5} className="ax" style={halo}>
            {system === 'us' ? Math.round(mm / 304.8) : (mm / 1000).toFixed(1)}
          </text>
        </g>
      ))}
    </g>
  );
}
