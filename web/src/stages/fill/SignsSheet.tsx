import ButtonBase from '@mui/material/ButtonBase';
import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import type { Schemas } from '../../api/client';
import { Check } from '../../controls/Check';
import { GoPlate } from '../../controls/GoPlate';

interface Props extends StageProps {
  onBack: () => void;
}

const ASKED = 2;

/** Is the air out? Two signs say so, never one. */
export function SignsSheet({ bench, recorder, onBack }: Props) {
  const { state } = bench;
  const asked = state.fill?.bleed.asked ?? [];
  const { draft, change, settle, touched } = useDraft<{ signs: Schemas['FinishSign'][] }>(
    bench,
    'fill',
    { signs: [] },
    `signs ${state.fill?.bleed.attempts}`,
  );
  const flip = (sign: Schemas['FinishSign'], on: boolean) =>
    change({ signs: on ? [...draft.signs, sign] : draft.signs.filter((one) => one !== sign) });
  const short = ASKED - draft.signs.length;
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={stateMarks(state, state.plan?.coldest_c ?? null)}
      drafted={touched}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act="The air is out"
          then="let it cool, then read"
          waits={short > 0 ? `${short === 2 ? 'Two signs' : 'One more sign'}, seen by you` : null}
          busy={recorder.busy}
          onPress={() =>
            recorder.record([{ kind: 'bleed_ended', facts: { outcome: 'finished', signs: draft.signs } }], settle)
          }
        />
      }
    >
      <h1 className="title">Signs that the air is out</h1>
      <p className="ink2">Two are needed. Bottom hose and heater hot also show that it has mixed.</p>
      <section className="closing two" aria-label="Signs that the air is out">
        {asked.map((row) => (
          <Check
            key={row.sign}
            label={row.name}
            checked={draft.signs.includes(row.sign)}
            onChange={(on) => flip(row.sign, on)}
          />
        ))}
      </section>
      <div className="row">
        <ButtonBase className="key" onClick={onBack}>
          Not yet: back to bleeding
        </ButtonBase>
      </div>
    </StageFrame>
  );
}
