import type { ReactNode } from 'react';
import { useReadyMix } from '../../../api/calculators';
import type { Schemas } from '../../../api/client';
import { Cross, Tick } from '../../../controls/icons';
import { number } from '../../../units/units';
import { useUnits } from '../../../units/UnitsContext';
import { inUnits } from '../../../language/say';
import { concentrateChoice, readyMixChoice, readyMixQuestion } from '../readyMix';
import type { MixController } from '../useMixController';

interface Props {
  bench: Schemas['Bench'];
  c: MixController;
  mix: Schemas['MixOut'];
}

/** What else people pour, and where each would end: the plan has to earn its place. */
export function OtherWays({ bench, c, mix }: Props) {
  const { system, volume } = useUnits();
  const ready = readyMixChoice(bench, c.product)?.product;
  const readyPercent = ready?.strength_percent ?? null;
  const shot = concentrateChoice(bench, c.product)?.product;
  const alone = useReadyMix('alone', readyMixQuestion(c, readyPercent, shot)).answer;
  const loopPercent = mix.final.strength_percent;
  const asLoop = useReadyMix('as loop', readyMixQuestion(c, loopPercent)).answer;
  const thumb = bench.policy.thumb_percent ?? null;
  const byThumb = useReadyMix('thumb', readyMixQuestion(c, thumb)).answer;
  const asItIs = c.product?.form === 'ready_mix' && mix.water_l < 0.005;
  const target = c.target.ok ? c.target.base : null;
  return (
    <table className="ways">
      <caption className="visually-hidden">Other ways to fill this loop, and what each reaches</caption>
      <tbody>
        <Way
          name={asItIs ? `${c.product?.name}, undiluted` : 'This plan, mixed first'}
          pour={asItIs ? volume(mix.concentrate_l) : `${volume(mix.concentrate_l)} + ${volume(mix.water_l)} water`}
          ends={mix.final.freeze_c}
          misses={mix.reason?.misses_by_c ?? null}
        />
        {alone?.boost && ready && shot && (
          <Way
            name={`Ready-mixed ${number(readyPercent ?? 0, 0)} % and some concentrate`}
            pour={`${volume(alone.boost.ready_mix_l)} + ${volume(alone.boost.concentrate_l)}`}
            ends={target}
            misses={null}
          />
        )}
        {alone && ready && !asItIs && (
          <Way
            name={`Ready-mixed ${number(readyPercent ?? 0, 0)} % alone`}
            pour={volume(alone.ready_mix_l)}
            ends={alone.final.freeze_c}
            misses={alone.misses_by_c ?? null}
            why={alone.boost_reason ? inUnits(alone.boost_reason, system) : undefined}
          />
        )}
        {asLoop && !asItIs && (
          <Way
            name={`Bucket mixed at ${number(loopPercent, 0)} %`}
            pour={volume(asLoop.ready_mix_l)}
            ends={asLoop.final.freeze_c}
            misses={asLoop.misses_by_c ?? null}
          />
        )}
        {byThumb && thumb !== null && !asItIs && (
          <Way
            name={`Rule of thumb, ${number(thumb, 0)} %`}
            pour={volume(byThumb.ready_mix_l)}
            ends={byThumb.final.freeze_c}
            misses={byThumb.misses_by_c ?? null}
          />
        )}
      </tbody>
    </table>
  );
}

interface WayProps {
  name: string;
  pour: string;
  ends: number | null;
  /** How much warmer than the target [K]; null where it reaches it. */
  misses: number | null;
  why?: string | undefined;
}

const REACHES_K = 0.05;

function Way({ name, pour, ends, misses, why }: WayProps): ReactNode {
  const { temperature, kelvin } = useUnits();
  const reaches = misses === null || misses < REACHES_K;
  return (
    <tr title={why}>
      <th scope="row">{name}</th>
      <td>{pour}</td>
      <td className="end">{ends === null ? 'not tabulated' : temperature(ends)}</td>
      <td className={reaches ? '' : 'hot'}>
        {reaches ? <Tick size={14} /> : <Cross size={13} />} {reaches ? 'reaches it' : `${kelvin(misses)} short`}
      </td>
    </tr>
  );
}
