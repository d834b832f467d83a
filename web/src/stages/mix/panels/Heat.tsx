import { useBoil, useExpansion } from '../../../api/calculators';
import type { Schemas } from '../../../api/client';
import { number } from '../../../units/units';
import { useUnits } from '../../../units/UnitsContext';
import type { MixController } from '../useMixController';

interface Props {
  bench: Schemas['Bench'];
  c: MixController;
  mix: Schemas['MixOut'];
}

/** The warm side of the same mix: when it boils over, and whether the tank takes its rise. */
export function Heat({ bench, c, mix }: Props) {
  const { temperature, kelvin, volume, pressure, height } = useUnits();
  const { loop, policy } = bench;
  const [cold, hot] = [policy.bay_c ?? 10, policy.hot_c ?? 95];
  const strength = mix.final.strength_percent;
  const cap = loop.cap_gauge_kpa;
  const boil = useBoil(
    c.glycol && {
      glycol: c.glycol,
      strength_percent: Math.min(100, strength),
      altitude_m: bench.altitude_m,
      cap_gauge_kpa: cap ?? 0,
      operating_c: hot,
    },
  ).answer;
  const rise = useExpansion(
    c.glycol && {
      glycol: c.glycol,
      strength_percent: Math.min(100, strength),
      volume_l: loop.capacity_l,
      cold_c: cold,
      hot_c: hot,
      ...(loop.room_l === null ? {} : { room_l: loop.room_l }),
    },
  ).answer;
  const usual = loop.usual_layout ? ' (usual for this layout)' : '';
  return (
    <ul className="heat">
      {boil && (
        <li data-testid="boil">
          <b>Boils at {temperature(boil.boil_c, 0)}</b>{' '}
          {cap === null
            ? `without pressure at ${height(bench.altitude_m)}; cap pressure not known.`
            : `under its ${pressure(cap)} cap at ${height(bench.altitude_m)}`}
          {cap !== null && typeof boil.margin_c === 'number' && (
            <span className={boil.margin_c < 0 ? 'hot' : ''}>
              , {kelvin(Math.abs(boil.margin_c))} {boil.margin_c < 0 ? 'below' : 'above'} {temperature(hot, 0)}.
            </span>
          )}
        </li>
      )}
      {rise && (
        <li data-testid="rise">
          <b>Expands by {volume(rise.rise_l)}</b> from {temperature(cold, 0)} to {temperature(hot, 0)}
          {loop.room_l === null && '; the room above the cold mark is not known.'}
          {loop.room_l !== null &&
            (rise.fits ? `; ${volume(loop.room_l)} of room above the cold mark${usual}: fits.` : ', and ')}
          {loop.room_l !== null && rise.fits === false && (
            <b className="hot">
              only {volume(loop.room_l)} of room{usual}: coolant will be pushed out.
            </b>
          )}
        </li>
      )}
      <li>
        <b>{number(strength, 0)} % by volume</b>
        {mix.warnings.length === 0
          ? ` is over the ${number(policy.corrosion_minimum_percent ?? 40, 0)} % needed for corrosion protection.`
          : ' is too little for corrosion protection: see below.'}
      </li>
    </ul>
  );
}
