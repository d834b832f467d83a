import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { AllCheck } from '../../controls/AllCheck';
import { Check } from '../../controls/Check';
import { GoPlate } from '../../controls/GoPlate';

/** Before fluid: every point this job opened, felt by hand and confirmed one by one. */
export function ShutSheet({ bench, recorder }: StageProps) {
  const { state } = bench;
  const points = state.fill?.closing ?? [];
  const { draft, change, settle, touched } = useDraft<{ felt: string[] }>(
    bench,
    'fill',
    { felt: points.filter((row) => row.done).map((row) => row.key) },
    'shut',
  );
  const felt = new Set(draft.felt);
  const left = points.filter((row) => !felt.has(row.key));
  const taps = points.filter((row) => row.tap).map((row) => row.tap);
  const flip = (key: string, on: boolean) =>
    change({ felt: on ? [...draft.felt, key] : draft.felt.filter((one) => one !== key) });
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={stateMarks(state, state.plan?.coldest_c ?? null)}
      drafted={touched}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={taps.length > 0 ? `${taps.join(' and ')} shut, everything tight` : 'Everything tight'}
          then="pour"
          waits={left.length > 0 ? `${points.length - left.length} of ${points.length} done: ${left[0]?.act}` : null}
          busy={recorder.busy}
          onPress={() => recorder.record([{ kind: 'closed', facts: { points: points.map((row) => row.key) } }], settle)}
        />
      }
    >
      <h1 className="title">{taps.length > 0 ? `Shut ${taps.join(' and ')}` : 'Refit and tighten'}</h1>
      <p className="ink2">Everything this job opened, checked by hand before pouring.</p>
      <section className="closing" aria-label="Closing check">
        {points.map((row) => (
          <Check
            key={row.key}
            label={row.act}
            detail={row.detail}
            checked={felt.has(row.key)}
            onChange={(on) => flip(row.key, on)}
          />
        ))}
        <AllCheck
          label="All checked by hand"
          rows={points.map((row) => row.key)}
          picked={draft.felt}
          onChange={(next) => change({ felt: next })}
        />
      </section>
    </StageFrame>
  );
}
