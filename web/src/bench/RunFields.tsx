import type { Schemas } from '../api/client';
import { Check } from '../controls/Check';
import { NumberField } from '../controls/NumberField';
import { Segment } from '../controls/Segment';

export interface RunDraft {
  heater: boolean;
  opened: 'open' | 'yes' | 'no';
  minutes: string;
  aired: boolean;
}

interface Props {
  /** What has to stand ready before the engine runs. */
  asked: Schemas['Asked'][];
  draft: RunDraft;
  /** What misses the heater where its air stays cold. */
  what: string;
  /** Minutes of the clock, shown until somebody types. */
  clockMinutes?: number | null;
  onChange: (part: Partial<RunDraft>) => void;
}

/** How it ran, as it was seen: ventilated, heater, both hoses, how long. */
export function RunFields({ asked, draft, what, clockMinutes = null, onChange }: Props) {
  return (
    <div className="runwatch">
      {asked.map((row) => (
        <Check key={row.ready} label={row.name} checked={draft.aired} onChange={(aired) => onChange({ aired })} />
      ))}
      <Check
        label="Heater on full"
        detail={`warm air at all outlets; cold air means the ${what} misses the heater`}
        checked={draft.heater}
        onChange={(heater) => onChange({ heater })}
      />
      <Segment
        label="Thermostat: upper and lower hose both hot?"
        value={draft.opened}
        options={[
          { value: 'yes', label: 'both hot' },
          { value: 'no', label: 'never opened' },
          { value: 'open', label: 'not yet' },
        ]}
        onChange={(opened) => onChange({ opened })}
      />
      <NumberField
        name="ran-min"
        label="Ran for"
        unit="min"
        value={draft.minutes === '' && clockMinutes !== null ? String(Math.round(clockMinutes)) : draft.minutes}
        low={0}
        high={1440}
        onChange={(minutes) => onChange({ minutes })}
      />
    </div>
  );
}
