import { Check } from '../../../controls/Check';
import { NumberField } from '../../../controls/NumberField';
import { Segment } from '../../../controls/Segment';
import type { DoseProps } from './props';

/** How it ran, as it was seen. */
export function RunFields({ bench, draft, onChange }: DoseProps) {
  return (
    <div className="runwatch">
      {(bench.state.gate.asked_run ?? []).map((row) => (
        <Check key={row.ready} label={row.name} checked={draft.aired} onChange={(aired) => onChange({ aired })} />
      ))}
      <Check
        label="Heater on full"
        detail="warm air at all outlets; cold air means the dose misses the heater"
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
        value={draft.minutes}
        low={0}
        high={1440}
        onChange={(minutes) => onChange({ minutes })}
      />
    </div>
  );
}
