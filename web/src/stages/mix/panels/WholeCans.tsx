import ButtonBase from '@mui/material/ButtonBase';
import { useWholeCans } from '../../../api/calculators';
import type { Schemas } from '../../../api/client';
import { typedFrom } from '../../../units/parse';
import { useUnits } from '../../../units/UnitsContext';
import { batchQuestion } from '../batch';
import type { MixController } from '../useMixController';

interface Props {
  bench: Schemas['Bench'];
  c: MixController;
  mix: Schemas['MixOut'];
}

const DECIMALS = 3; // so that the litres come out whole

/** A decilitre out of one more can: what it costs to leave it out, and one key for that. */
export function WholeCans({ bench, c, mix }: Props) {
  const { system, volume, temperature, kelvin } = useUnits();
  const cans = batchQuestion(bench, c, mix);
  const { answer } = useWholeCans(cans && c.question && { mix: c.question, containers: cans.containers });
  const target = answer?.target_freeze_c ?? null;
  if (!answer || target === null) return null;
  return (
    <div className="wholecans" data-testid="whole-cans">
      <p>
        <b>{volume(answer.left_out_l ?? 0)} out of one more can.</b> Without it: {volume(answer.product_l ?? 0)},
        freezes at {temperature(target)}, {kelvin(answer.warmer_k ?? 0)} warmer.
      </p>
      <ButtonBase
        className="key small"
        onClick={() => c.change({ target: typedFrom(target, 'temperature', system, DECIMALS) })}
      >
        Use whole cans
      </ButtonBase>
    </div>
  );
}
