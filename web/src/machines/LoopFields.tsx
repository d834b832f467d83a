import { Check } from '../controls/Check';
import { Chips } from '../controls/Chips';
import { FAMILIES, Inside } from '../controls/Inside';
import { NumberField } from '../controls/NumberField';
import { QuantityField } from '../controls/QuantityField';
import { Segment } from '../controls/Segment';
import { TextField } from '../controls/TextField';
import { HighVoltageField } from './HighVoltage';
import { CAPACITY_FROM, FILTER, LEVEL_RULE, LOOP_USE, MATERIAL, TANK } from '../language/names';
import type { LoopForm } from './loopForm';

const options = <T extends string>(names: Record<T, string>) =>
  (Object.keys(names) as T[]).map((value) => ({ value, label: names[value] }));

interface Props {
  form: LoopForm;
  onChange: (part: Partial<LoopForm>) => void;
}

/** Capacity, cap, tank, thermostat: what it is built with. */
export function BuildFields({ form, onChange }: Props) {
  return (
    <>
      <div className="row">
        <TextField
          name="loopName"
          label="Loop"
          value={form.name}
          max={60}
          wide
          onChange={(name) => onChange({ name })}
        />
      </div>
      <div className="row">
        <QuantityField
          name="capacity"
          label="Capacity, to the cold mark"
          kind="volume"
          typed={form.capacity}
          onChange={(capacity) => onChange({ capacity })}
        />
        <Segment
          label="Source"
          value={form.source}
          options={options(CAPACITY_FROM)}
          onChange={(source) => onChange({ source })}
        />
      </div>
      <Segment label="Tank" value={form.tank} options={options(TANK)} onChange={(tank) => onChange({ tank })} />
      <div className="row">
        <Segment
          label="Cold level"
          value={form.levelRule}
          options={options(LEVEL_RULE)}
          onChange={(levelRule) => onChange({ levelRule })}
        />
        {form.levelRule === 'below_lip' && (
          <NumberField
            name="belowLip"
            label="Below the lip"
            unit="mm"
            value={form.belowLip}
            low={1}
            high={300}
            onChange={(belowLip) => onChange({ belowLip })}
          />
        )}
        {form.tank !== 'none' && (
          <NumberField
            name="tankPerMm"
            label="Tank, litres per mm (if measured)"
            unit="L/mm"
            value={form.tankPerMm}
            low={0.001}
            high={10}
            onChange={(tankPerMm) => onChange({ tankPerMm })}
          />
        )}
      </div>
      <div className="row">
        <QuantityField
          name="cap"
          label="Cap pressure"
          kind="pressure"
          typed={form.cap}
          onChange={(cap) => onChange({ cap })}
        />
        <QuantityField
          name="thermostat"
          label="Thermostat opens at"
          kind="temperature"
          typed={form.thermostat}
          onChange={(thermostat) => onChange({ thermostat })}
        />
        <QuantityField
          name="coldest"
          label="Coldest place it is parked (empty: the depot’s)"
          kind="temperature"
          typed={form.coldest}
          onChange={(coldest) => onChange({ coldest })}
        />
        <Segment
          label="Coolant filter"
          value={form.filter}
          options={options(FILTER)}
          onChange={(filter) => onChange({ filter })}
        />
      </div>
      <div className="row">
        <Check
          label="Fuel-fired preheater"
          detail="starts by itself"
          checked={form.preheater}
          onChange={(preheater) => onChange({ preheater })}
        />
        {form.preheater && (
          <Check
            label="with a pump of its own"
            checked={form.preheaterPump}
            onChange={(preheaterPump) => onChange({ preheaterPump })}
          />
        )}
        <HighVoltageField value={form.highVoltage} onChange={(highVoltage) => onChange({ highVoltage })} />
      </div>
    </>
  );
}

/** What the maker asks for, what the coolant touches, what is believed inside. */
export function AsksFields({ form, onChange }: Props) {
  return (
    <>
      <Chips
        label="Maker’s requirement"
        options={FAMILIES}
        picked={form.families}
        onChange={(f) => onChange({ families: f })}
      />
      <div className="row">
        <TextField
          name="standards"
          label="and standards, with commas"
          value={form.standards}
          max={160}
          wide
          onChange={(standards) => onChange({ standards })}
        />
        <TextField
          name="stated"
          label="Where it is stated"
          value={form.statedIn}
          max={120}
          wide
          onChange={(statedIn) => onChange({ statedIn })}
        />
      </div>
      <div className="row">
        <NumberField
          name="months"
          label="Change interval (maker)"
          unit="months"
          value={form.months}
          low={1}
          high={240}
          onChange={(months) => onChange({ months })}
        />
        <QuantityField
          name="intervalKm"
          label="or"
          kind="distance"
          typed={form.km}
          onChange={(km) => onChange({ km })}
        />
        <NumberField
          name="intervalHours"
          label="or"
          unit="h"
          value={form.hours}
          low={1}
          high={50000}
          onChange={(hours) => onChange({ hours })}
        />
      </div>
      <Chips
        label="Materials in contact"
        options={options(MATERIAL)}
        picked={form.materials}
        onChange={(materials) => onChange({ materials })}
      />
      <div className="row">
        <Check
          label="Glycol is forbidden"
          detail="race series"
          checked={form.glycolForbidden}
          onChange={(glycolForbidden) => onChange({ glycolForbidden })}
        />
        <Check
          label="Low-conductivity only"
          detail="power electronics, battery"
          checked={form.lowConductivity}
          onChange={(lowConductivity) => onChange({ lowConductivity })}
        />
        {form.lowConductivity && (
          <Segment label="Use" value={form.use} options={options(LOOP_USE)} onChange={(use) => onChange({ use })} />
        )}
        {form.lowConductivity && (
          <NumberField
            name="conductivity"
            label="Maker’s limit"
            unit="µS/cm"
            value={form.conductivity}
            low={0.1}
            high={5000}
            onChange={(conductivity) => onChange({ conductivity })}
          />
        )}
      </div>
      <Inside base={form.base} family={form.family} onChange={onChange} />
      {form.base !== 'unknown' && form.base !== 'none' && (
        <div className="row">
          <NumberField
            name="strength"
            label="Strength, if known"
            unit="%"
            value={form.strength}
            low={0}
            high={100}
            onChange={(strength) => onChange({ strength })}
          />
        </div>
      )}
    </>
  );
}
