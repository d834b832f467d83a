import type { ReactNode } from 'react';
import { useBatch } from '../../../api/calculators';
import type { Schemas } from '../../../api/client';
import { CanIcon, CansIcon, JugIcon, TankIcon } from '../../../figures/vesselIcons';
import { number } from '../../../units/units';
import { useUnits } from '../../../units/UnitsContext';
import { batchQuestion } from '../batch';
import type { MixController } from '../useMixController';
import { WholeCans } from './WholeCans';

interface Props {
  bench: Schemas['Bench'];
  c: MixController;
  mix: Schemas['MixOut'];
}

/** What hands do: whole cans first, the mark on the last one, the water, what is held back. */
export function PourPanel({ bench, c, mix }: Props) {
  const { volume } = useUnits();
  const { answer } = useBatch(batchQuestion(bench, c, mix));
  const readyMix = c.product?.form === 'ready_mix';
  const buckets = answer?.buckets ?? null;
  return (
    <>
      <p className="blend">
        {readyMix ? (
          <b>Pour as it is: {volume(mix.concentrate_l)}.</b>
        ) : (
          <>
            <b>Mix first, in {buckets && buckets.count > 1 ? `${buckets.count} equal buckets` : 'a bucket'}:</b>{' '}
            {volume(mix.concentrate_l)} + {volume(mix.water_l)} = {number(mix.blend_percent, 0)} % in the bucket,{' '}
            {number(mix.final.poured_percent, 0)} % in the loop
          </>
        )}
      </p>
      <WholeCans bench={bench} c={c} mix={mix} />
      <ol className="steps four">{answer && <Steps answer={answer} mix={mix} />}</ol>
    </>
  );
}

function Steps({ answer, mix }: { answer: Schemas['BatchOut']; mix: Schemas['MixOut'] }) {
  const { volume, size } = useUnits();
  const { buckets, part, water } = answer;
  const cans = answer.whole_cans;
  const into =
    buckets && buckets.count > 1 ? `each bucket to the ${volume(buckets.product_mark_l)} mark` : 'into the bucket';
  const jugs = [
    water.whole > 0 ? `${water.whole} × ${size(water.size_l)} jug` : '',
    water.last_mark_l > 0 ? volume(water.last_mark_l) : '',
  ].filter(Boolean);
  const byJug = water.whole > 0 ? jugs.join(' + ') : 'measured in the jug';
  const steps: { key: string; icon: ReactNode; hot?: string; head: string; small: string }[] = [];
  if (cans > 0) {
    const head = answer.whole.map((row) => `${row.count} × ${size(row.size_l)}`).join(' + ');
    steps.push({
      key: 'whole',
      icon: <CansIcon count={cans} />,
      head: `${head}, whole`,
      small: `${volume(answer.whole_l)} ${into}`,
    });
  }
  if (part) {
    steps.push({
      key: 'part',
      icon: <CanIcon level={part.stays_l / part.size_l} />,
      hot: `${volume(part.stays_l)} stays`,
      head: `${volume(part.pour_l)} of ${size(part.size_l)}`,
      small: cans > 0 ? 'from one more can' : into,
    });
  }
  if (mix.water_l > 0.005) {
    const bucketMark = buckets && buckets.count > 1 ? `each bucket to ${volume(buckets.full_mark_l)}` : byJug;
    steps.push({
      key: 'water',
      icon: <JugIcon level={answer.water_l > 0 ? 0.75 : 0} />,
      ...(mix.kept_back_l > 0.05 ? { hot: `${volume(mix.kept_back_l)} kept` } : {}),
      head: `${volume(answer.water_l)} demin. water`,
      small: bucketMark,
    });
  }
  steps.push({
    key: 'pour',
    icon: <TankIcon />,
    head: 'Pour all, run, bleed',
    small: mix.kept_back_l > 0.05 ? `then top up with the ${volume(mix.kept_back_l)}` : 'level to the cold mark',
  });
  return (
    <>
      {steps.map((step, i) => (
        <li key={step.key} data-testid={`step-${step.key}`}>
          <div className="art">
            {step.icon}
            {step.hot && <b className="hot arthot">{step.hot}</b>}
            <span className="nr">{i + 1}</span>
          </div>
          <b>{step.head}</b>
          <span>{step.small}</span>
        </li>
      ))}
    </>
  );
}
