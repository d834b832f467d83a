import { useState } from 'react';
import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../api/client';
import { NumberField } from '../controls/NumberField';
import { Segment } from '../controls/Segment';
import { Stepper } from '../controls/Stepper';
import { LOST_WHEN } from '../language/names';
import type { LookDraft } from './look';

interface Props {
  draft: LookDraft;
  state: Schemas['LoopState'];
  onChange: (part: Partial<LookDraft>) => void;
}

/** The level as found, how much is missing of a low one, what went in, and where it stands then. */
export function LevelFields({ draft, state, onChange }: Props) {
  const poured = draft.topped.text.trim() !== '' && draft.topped.text.trim() !== '0';
  return (
    <>
      <Segment
        label="Level, cold"
        value={draft.level}
        options={[
          { value: 'at_mark', label: 'at the mark' },
          { value: 'low', label: 'low' },
          { value: 'over', label: 'over' },
        ]}
        onChange={(level) => onChange({ level })}
      />
      {draft.level === 'low' && (
        <div className="row">
          <NumberField
            name="missingMm"
            label="Below the mark by (if measured)"
            unit="mm"
            low={0}
            high={1000}
            value={draft.missingMm}
            onChange={(missingMm) => onChange({ missingMm, missing: { ...draft.missing, text: '' } })}
          />
          <Stepper
            name="missing"
            label="or missing"
            kind="volume"
            step={0.1}
            decimals={1}
            start={0}
            low={0}
            placeholder="not measured"
            typed={draft.missing}
            onChange={(missing) => onChange({ missing, missingMm: '' })}
          />
        </div>
      )}
      <div className="row">
        <Stepper
          name="topped"
          label="Topped up with"
          kind="volume"
          step={0.1}
          decimals={1}
          start={0}
          low={0}
          placeholder="0"
          typed={draft.topped}
          onChange={(topped) => onChange({ topped })}
        />
        <Segment
          label="of"
          value={draft.what}
          options={[
            { value: 'demineralised', label: 'demineralised water' },
            { value: 'tap', label: 'tap water' },
            ...(state.top_up_share !== null ? [{ value: 'same' as const, label: 'the same mix' }] : []),
          ]}
          onChange={(what) => onChange({ what })}
        />
      </div>
      {poured && (
        <div className="row">
          <Segment
            label="And then"
            value={draft.after}
            options={[
              { value: 'at_mark', label: 'now at the mark' },
              { value: 'low', label: 'still low' },
            ]}
            onChange={(after) => onChange({ after })}
          />
        </div>
      )}
    </>
  );
}

/** What helps to find a loss: when it goes, what was spilled, the meters. Shut until asked for, or where a leak is suspected. */
export function LossFields({ draft, state, onChange }: Props) {
  const suspected = state.after?.rechecks.some((row) => row.why === 'leak') ?? false;
  const [more, show] = useState(suspected);
  if (!more)
    return (
      <div className="row">
        <ButtonBase className="key" onClick={() => show(true)}>
          Spilled, meters, when it goes
        </ButtonBase>
      </div>
    );
  return (
    <>
      <div className="row">
        <Segment
          label="When does it go?"
          value={draft.lostWhen}
          options={(Object.keys(LOST_WHEN) as Schemas['LostWhen'][]).map((value) => ({
            value,
            label: LOST_WHEN[value],
          }))}
          onChange={(lostWhen) => onChange({ lostWhen })}
        />
      </div>
      <div className="row">
        <Stepper
          name="spilled"
          label="Taken out or spilled"
          kind="volume"
          step={0.1}
          decimals={1}
          start={0}
          low={0}
          placeholder="0"
          typed={draft.spilled}
          onChange={(spilled) => onChange({ spilled })}
        />
        <Stepper name="km" label="Distance" kind="distance" typed={draft.km} onChange={(km) => onChange({ km })} />
        <NumberField
          name="hours"
          label="Hours"
          unit="h"
          low={0}
          high={200000}
          value={draft.hours}
          onChange={(hours) => onChange({ hours })}
        />
      </div>
    </>
  );
}
