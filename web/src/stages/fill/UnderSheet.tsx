import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import { useDraft } from '../../bench/useDraft';
import { GoPlate } from '../../controls/GoPlate';
import { Segment } from '../../controls/Segment';
import { TextField } from '../../controls/TextField';
import { useUnits } from '../../units/UnitsContext';
import { SlipPanel } from './SlipPanel';

interface UnderDraft {
  seen: 'not_yet' | 'dry' | 'drips';
  where: string;
}

/** Half is in: look underneath before the rest goes on top of a leak. */
export function UnderSheet({ bench, recorder }: StageProps) {
  const { state } = bench;
  const { volume } = useUnits();
  const before = state.fill?.under;
  const { draft, change, settle, touched } = useDraft<UnderDraft>(
    bench,
    'fill',
    { seen: 'not_yet', where: before && !before.dry ? (before.where ?? '') : '' },
    `under ${state.fill?.pours.length}`,
  );
  const drips = draft.seen === 'drips';
  const waits =
    draft.seen === 'not_yet' ? 'Dry, or does it drip?' : drips && !draft.where.trim() ? 'Where does it drip?' : null;
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={stateMarks(state, state.plan?.coldest_c ?? null)}
      drafted={touched}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={drips ? 'Record the leak' : 'Dry underneath'}
          then={drips ? 'repair it, look again' : state.poured.at_mark ? 'bleed' : 'keep pouring'}
          waits={waits}
          busy={recorder.busy}
          onPress={() =>
            recorder.record(
              [{ kind: 'looked_under', facts: { dry: !drips, where: drips ? draft.where.trim() : '' } }],
              settle,
            )
          }
        />
      }
    >
      <h1 className="title">{before && !before.dry ? `Leak at ${before.where}: repair it` : 'Look underneath'}</h1>
      <SlipPanel state={state} recorder={recorder} />
      <p className="ink2">
        {volume(state.poured.product_l + state.poured.water_l)} of about {volume(state.fill?.expected_l ?? 0)} are in.
        Look with a lamp at drains, hoses, pump and under the radiator.
      </p>
      <div className="row under">
        <Segment
          label="Underneath"
          value={draft.seen}
          options={[
            { value: 'dry', label: 'dry' },
            { value: 'drips', label: 'dripping' },
            { value: 'not_yet', label: 'not checked yet' },
          ]}
          onChange={(seen) => change({ seen })}
        />
        {drips && (
          <TextField
            name="where"
            label="Where"
            value={draft.where}
            max={60}
            wide
            onChange={(where) => change({ where })}
          />
        )}
      </div>
    </StageFrame>
  );
}
