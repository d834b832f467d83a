import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import type { Recorder } from '../../bench/useRecorder';
import { NumberField, numberOf } from '../../controls/NumberField';
import { QuantityField } from '../../controls/QuantityField';
import { parseTyped } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import type { FillDraft } from './draft';
import { ClockKey } from '../../bench/ClockKey';

interface Props {
  bench: Schemas['Bench'];
  recorder: Recorder;
  draft: FillDraft;
  change: (part: Partial<FillDraft>) => void;
}

/** Pull, hold, read the needle again: does it hold, and how much air stays. */
export function VacuumPanel({ bench, recorder, draft, change }: Props) {
  const { system, volume, pressure } = useUnits();
  const [deep, lost, loopC] = [
    parseTyped(draft.vacuum, 'pressure', system),
    parseTyped(draft.drop, 'pressure', system),
    parseTyped(draft.loopC, 'temperature', system),
  ];
  const held = numberOf(draft.heldMin);
  const ready = deep.ok && lost.ok && loopC.ok && held !== null;
  const seen = bench.state.fill?.vacuum;
  const record = () =>
    ready &&
    recorder.record([
      {
        kind: 'vacuum_pulled',
        facts: { vacuum_kpa: deep.base, loop_c: loopC.base, held: { minutes: held, drop_kpa: lost.base } },
      },
    ]);
  return (
    <div className="vacuumpanel">
      <div className="row">
        <QuantityField
          name="vacuum"
          label="Vacuum, below ambient"
          kind="pressure"
          typed={draft.vacuum}
          onChange={(vacuum) => change({ vacuum })}
        />
        <QuantityField
          name="drop"
          label="Lost"
          kind="pressure"
          typed={draft.drop}
          onChange={(drop) => change({ drop })}
        />
        <NumberField
          name="held"
          label="Held"
          unit="min"
          value={draft.heldMin}
          low={0.1}
          high={240}
          onChange={(heldMin) => change({ heldMin })}
        />
        <QuantityField
          name="loop-c"
          label="Loop is at"
          kind="temperature"
          typed={draft.loopC}
          onChange={(loopC) => change({ loopC })}
        />
        <ClockKey bench={bench} recorder={recorder} clock="vacuum_hold" minutes={bench.policy.vacuum_hold_min ?? 10} />
        <ButtonBase className="key" onClick={record} aria-disabled={!ready || recorder.busy}>
          Record the hold
        </ButtonBase>
      </div>
      {seen && (
        <p className={seen.answer.tight === true ? '' : 'hot'} data-testid="vacuum">
          <b>
            {seen.answer.tight === true
              ? 'It holds.'
              : seen.answer.tight === false
                ? 'It leaks: find the leak before filling.'
                : 'Not held long enough.'}
          </b>{' '}
          {pressure(seen.facts.vacuum_kpa)} below ambient, {pressure(seen.facts.held?.drop_kpa ?? 0)} lost in{' '}
          {seen.facts.held?.minutes ?? 0} min. Air left: at most {volume(seen.answer.air_left_l)}.
        </p>
      )}
      {seen?.answer.warnings.map((said) => (
        <p key={said.code} className="warn">
          <i className="tape" />
          {sayIn(said, system)}
        </p>
      ))}
    </div>
  );
}
