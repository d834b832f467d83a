import ButtonBase from '@mui/material/ButtonBase';
import InputBase from '@mui/material/InputBase';
import { useId } from 'react';
import type { Schemas } from '../../api/client';
import { Check } from '../../controls/Check';
import { Tick } from '../../controls/icons';
import { Stepper } from '../../controls/Stepper';
import type { Typed } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { isSafe, PROOF, READING_FLAG } from '../../language/names';
import { InstrumentPick, ReadValue } from '../../controls/reading/ReadWith';
import { divisionOf, emptyValue, kindFor, seenText } from '../../controls/reading/scale';
import { type Instrument, type VerifyDraft, REPEATS } from './draft';
import type { Doing } from './useDoing';

interface ControlsProps {
  draft: VerifyDraft;
  change: (part: Partial<VerifyDraft>) => void;
  instruments: Instrument[];
  instrument: Instrument | null;
  zeroTyped: Typed;
  refused: string | undefined;
}

export function Controls({ draft, change, instruments, instrument, zeroTyped, refused }: ControlsProps) {
  const { decimals, step } = divisionOf(instrument);
  const degrees = kindFor(instrument) === 'temperature';
  return (
    <>
      <div className="row">
        <InstrumentPick
          instruments={instruments}
          instrument={instrument}
          onPick={(row) => change({ instrumentId: row.id, zero: null, value: emptyValue, edge: 'sharp' })}
        />
        {instrument?.state && (
          <Stepper
            name="zero"
            label="Water reads"
            kind={kindFor(instrument)}
            step={degrees ? 0.2 : step}
            decimals={Math.max(1, decimals)}
            typed={zeroTyped}
            onChange={(zero) => change({ zero })}
          />
        )}
        <Stepper
          name="sample"
          label="Sample is at"
          kind="temperature"
          typed={draft.sample}
          onChange={(sample) => change({ sample })}
        />
      </div>
      <div className="row">
        {instrument && (
          <ReadValue
            key={instrument.id}
            instrument={instrument}
            draft={draft}
            {...(degrees ? { start: -30 } : {})}
            refused={refused}
            onChange={change}
          />
        )}
        <div className="fill">
          <Check
            label="Taken after a hot run, cooled"
            detail="thermostat open, heater on full"
            checked={draft.afterHotRun}
            onChange={(afterHotRun) => change({ afterHotRun })}
          />
        </div>
      </div>
    </>
  );
}

/** Why a logged reading may not be what it says. */
function doubts(row: Schemas['ReadingState'], inDoubt: string[]): string[] {
  const found = row.answer.flags.map((flag) => READING_FLAG[flag.code]).filter((word) => word !== undefined);
  return inDoubt.includes(row.entry_id) ? [...found, READING_FLAG.in_doubt ?? ''] : found;
}

function readText(row: Schemas['ReadingState'], temperature: (c: number, d?: number) => string): string {
  if (row.steps)
    return row.steps.at_least_c === null ? 'no step shows' : `at least ${temperature(row.steps.at_least_c, 0)}`;
  return row.answer.freeze_c === null ? 'off scale' : temperature(row.answer.freeze_c);
}

const sharedZero = (state: Schemas['LoopState']): string =>
  state.sameness?.said.code.startsWith('instruments')
    ? 'Each instrument has its own zero.'
    : 'They share one zero: agreement does not check the zero.';

interface TakenProps {
  state: Schemas['LoopState'];
  next: number;
  /** Entries of readings in doubt. */
  inDoubt: string[];
}

export function Taken({ state, next, inDoubt }: TakenProps) {
  const { system, temperature, kelvin } = useUnits();
  return (
    <>
      <p className="rulehead">
        <b>Readings, corrected</b>{' '}
        {state.repeats && state.repeats.count > 1
          ? `${kelvin(state.repeats.range_k)} apart. ${sharedZero(state)}`
          : `Take ${REPEATS} of one sample; wipe the prism each time.`}
      </p>
      <ul className="readings">
        {state.readings.map((row, i) => (
          <li key={row.entry_id} className={row.entry_id === state.outlier_id ? 'outlier' : ''}>
            <small>{i + 1}</small>
            {readText(row, temperature)}
            <small>
              seen {seenText(row, system)}
              {row.after_hot_run ? '' : ', not run hot'}
              {row.steps ? ', “at least” only: not counted' : ''}
              {row.edge === 'sharp' ? '' : ', edge not sharp: not counted'}
              {doubts(row, inDoubt).map((word) => (
                <b key={word} className="hot">
                  , {word}
                </b>
              ))}
            </small>
          </li>
        ))}
        {next <= REPEATS && (
          <li className="ink2">
            <small>{next}</small>to take
          </li>
        )}
      </ul>
      {state.sameness?.one_more && (
        <p className="hot" data-testid="sameness">
          {!state.sameness.apart && <b>{state.sameness.outlier === null ? 'One more. ' : 'One differs. '}</b>}
          {sayIn(state.sameness.said, system)}
        </p>
      )}
    </>
  );
}

export function VerdictLine({ state, pending }: { state: Schemas['LoopState']; pending: boolean }) {
  const { system } = useUnits();
  const proof = state.proof;
  if (!proof) {
    return (
      <div className="verdict push" role="status">
        <span className="mark wait">?</span>
        <p>
          <b>Not verified yet.</b>
          {pending
            ? ' A reading before the hot run is saved but does not count.'
            : ` ${sayIn(state.claim.said, system)}`}
        </p>
      </div>
    );
  }
  const safe = isSafe(proof.verdict);
  return (
    <div className="verdict push" role="status" data-testid="verdict">
      <span className={`mark${safe ? '' : ' not'}`}>{safe ? <Tick size={26} /> : '!'}</span>
      <p>
        <b>{PROOF[proof.verdict]}.</b> {sayIn(proof.said, system)}
      </p>
    </div>
  );
}

/** After a correction it has to run again before a reading proves anything. */
export function RanHot({ busy, onRan }: { busy: boolean; onRan: () => void }) {
  return (
    <div className="row ranhot">
      <ButtonBase className="key" onClick={onRan} aria-disabled={busy}>
        Ran hot: both hoses and the heater
      </ButtonBase>
      <span className="ink2">until then the weakest vessel counts</span>
    </div>
  );
}

/** The other things that can be done at the proof. */
export function NextKeys({ state, onGo }: { state: Schemas['LoopState']; onGo: (doing: Doing) => void }) {
  const { system, volume } = useUnits();
  const missing = state.finish?.missing ?? [];
  const offered = state.proof?.verdict === 'protected' && state.correction?.feasible ? state.correction : null;
  return (
    <div className="row provekeys">
      {state.correction && state.proof?.verdict !== 'proven' && (
        <p className="ink2" data-testid="correction">
          {sayIn(state.correction.said, system)}
        </p>
      )}
      {offered && (
        <ButtonBase className="key small" onClick={() => onGo('correct')}>
          Adjust to the target: swap {volume(offered.out_l)}
        </ButtonBase>
      )}
      <ButtonBase className="key small" onClick={() => onGo('look')}>
        {missing.length > 0 ? `Final check: ${missing[0]}` : 'Repeat final check'}
      </ButtonBase>
    </div>
  );
}

interface ReasonProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
}

export function Reason({ label, value, onChange }: ReasonProps) {
  const id = useId();
  return (
    <div className="field wide" style={{ paddingTop: 8, flex: 'none' }}>
      <label className="lbl" htmlFor={id}>
        {label}
      </label>
      <div className="box" style={{ height: 50 }}>
        <InputBase
          id={id}
          name="reason"
          fullWidth
          value={value}
          onChange={(event) => onChange(event.target.value)}
          inputProps={{ maxLength: 500 }}
        />
      </div>
    </div>
  );
}
