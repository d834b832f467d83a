import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import { Check } from '../../controls/Check';
import { DateField } from '../../controls/DateField';
import { Inside } from '../../controls/Inside';
import { NumberField } from '../../controls/NumberField';
import { QuantityField } from '../../controls/QuantityField';
import { Segment } from '../../controls/Segment';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { dateOf } from '../../language/time';
import { chemistry, TOPPED_UP } from '../../language/names';
import type { InsideDraft } from './inside';

const TOPPED = (Object.keys(TOPPED_UP) as Schemas['ToppedUp'][]).map((value) => ({ value, label: TOPPED_UP[value] }));

interface Props {
  draft: InsideDraft;
  meterBackwards: boolean;
  onChange: (part: Partial<InsideDraft>) => void;
}

/** What is inside, by papers or people, never by colour: it decides what may stay beside it. */
export function InsidePanel({ draft, meterBackwards, onChange }: Props) {
  return (
    <div className="insidepanel">
      <Inside base={draft.base} family={draft.family} onChange={onChange} />
      <Segment
        label="Topped up since with"
        value={draft.toppedUp}
        options={TOPPED}
        onChange={(toppedUp) => onChange({ toppedUp })}
      />
      <div className="row">
        <DateField
          name="changedOn"
          label="Last changed on"
          value={draft.changedOn}
          onChange={(changedOn) => onChange({ changedOn })}
        />
        <QuantityField
          name="changed-km"
          label="Distance then"
          kind="distance"
          typed={draft.changedKm}
          onChange={(changedKm) => onChange({ changedKm })}
        />
        <NumberField
          name="changed-hours"
          label="Hours then"
          unit="h"
          value={draft.changedHours}
          low={0}
          high={200000}
          onChange={(changedHours) => onChange({ changedHours })}
        />
      </div>
      <div className="row">
        <QuantityField
          name="km"
          label="Distance now"
          kind="distance"
          typed={draft.km}
          onChange={(km) => onChange({ km })}
        />
        <NumberField
          name="hours"
          label="Hours now"
          unit="h"
          value={draft.hours}
          low={0}
          high={200000}
          onChange={(hours) => onChange({ hours })}
        />
      </div>
      {(meterBackwards || draft.replaced) && (
        <Check
          label="The meter was replaced"
          detail="may be lower than before"
          checked={draft.replaced}
          onChange={(replaced) => onChange({ replaced })}
        />
      )}
    </div>
  );
}

interface LineProps {
  state: Schemas['LoopState'];
  open: boolean;
  onOpen: () => void;
}

/** The same in one line, with the key that opens it. */
export function InsideLine({ state, open, onOpen }: LineProps) {
  const { system, distance } = useUnits();
  const { reported, metered } = state.inspection;
  const meters = [
    metered?.distance_km == null ? '' : distance(metered.distance_km),
    metered?.hours == null ? '' : `${metered.hours} h`,
  ].filter(Boolean);
  return (
    <div className="insideline">
      <span>
        <b>Inside: {chemistry(state.found.family, state.found.base).toLowerCase()}.</b>{' '}
        {reported?.topped_up && `Topped up with ${TOPPED_UP[reported.topped_up]}. `}
        {reported?.changed_on && `Changed ${dateOf(reported.changed_on)}. `}
        {meters.length > 0 && `At ${meters.join(', ')}. `}
        {state.due && <span className={state.due.overdue ? 'hot' : ''}>{sayIn(state.due.said, system)}</span>}
      </span>
      <ButtonBase className="key small" aria-expanded={open} onClick={onOpen}>
        {open ? 'Discard changes' : reported ? 'Edit' : 'Enter current coolant'}
      </ButtonBase>
    </div>
  );
}
