import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { lazy, type ReactNode, Suspense, useRef, useState } from 'react';
import { v4 as uuid } from 'uuid';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { instrumentsOptions } from '../api/queries';
import { useDepot } from '../api/useDepot';
import { Check } from '../controls/Check';
import { GoPlate } from '../controls/GoPlate';
import { Refusal } from '../controls/Refusal';
import { Stepper } from '../controls/Stepper';
import { Twin } from '../controls/Twin';
import {
  divisionOf,
  emptyValue,
  type Instrument,
  kindFor,
  parsedOn,
  scaleText,
  typedOn,
} from '../controls/reading/scale';
import { useTake } from '../controls/reading/useTake';
import { parseTyped, type Typed, typedFrom } from '../units/parse';
import { fromKelvin, number, SYSTEMS } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { dayOf, timeOf } from '../language/time';
import { SimulatedSample } from './SimulatedSample';

const ZeroChart = lazy(() => import('./ZeroChart'));

interface Props {
  instrument: Instrument;
  how: string;
  /** Where water stands on its scale. */
  water: number;
  /** What stands above it: which instrument, what else can be done. */
  children: ReactNode;
}

/** One instrument: how it is used, and its zero where water checks one. */
export function ZeroSheet({ instrument, how, water, children }: Props) {
  const about = (
    <>
      {children}
      <p className="ink2" data-testid="how">
        {how}
      </p>
      {instrument.kind === 'steps' && <Steps instrument={instrument} />}
      {Object.entries(instrument.bands).map(([figure, values]) => (
        <p key={figure}>
          <b>{figure.replace(/_/g, ' ')}</b>: bands {values.map((value) => number(value, value % 1 ? 1 : 0)).join(', ')}
        </p>
      ))}
    </>
  );
  if (instrument.state) return <Zero instrument={instrument} state={instrument.state} water={water} about={about} />;
  return <main id="work">{about}</main>;
}

/** A step tester's own table: what so many steps say. */
function Steps({ instrument }: { instrument: Instrument }) {
  const { temperature } = useUnits();
  const rows = instrument.steps_c;
  return (
    <table className="ways">
      <caption>Steps say “at least”, never an exact value</caption>
      <tbody>
        {[null, ...rows].map((from, i) => (
          <tr key={i}>
            <th scope="row">{i === 0 ? 'none' : i}</th>
            <td>
              {from === null ? `weaker than ${temperature(rows[0] ?? 0, 0)}` : `at least ${temperature(from, 0)}`}
            </td>
            <td className="ink2">
              {from !== null && (rows[i] === undefined ? 'no upper value known' : `not ${temperature(rows[i], 0)}`)}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

interface ZeroProps {
  instrument: Instrument;
  state: Schemas['ZeroState'];
  water: number;
  about: ReactNode;
}

function Zero({ instrument, state, water: mark, about }: ZeroProps) {
  const { system } = useUnits();
  const client = useQueryClient();
  const zone = useDepot()?.time_zone;
  const id = useRef(uuid()); // kept until it is stored: a second try after a dropped line stores it once
  const [value, read] = useState<Typed>(emptyValue);
  const [water, at] = useState<Typed>(typedFrom(20, 'temperature', system, 0));
  const [adjusted, set] = useState(false);
  const save = useMutation<Instrument, RefusalError, Schemas['ZeroIn']>({
    mutationFn: (body) =>
      unwrap(
        api.POST('/api/instruments/{instrument_id}/zero', {
          params: { path: { instrument_id: instrument.id } },
          body,
        }),
      ),
    onSuccess: () => {
      id.current = uuid();
      read(emptyValue);
      set(false);
      void client.invalidateQueries(instrumentsOptions);
      void client.invalidateQueries({ queryKey: ['bench'] });
    },
  });
  const take = useTake(instrument.id, (taken) => {
    read(typedOn(instrument, taken.value, system));
    at(typedFrom(taken.sample_c, 'temperature', system, 0));
  });
  const zero = parsedOn(instrument, value, system);
  const waterC = parseTyped(water, 'temperature', system);
  const last = state.points.at(-1);
  const { step, decimals } = divisionOf(instrument);
  const degrees = kindFor(instrument) === 'temperature';
  // a drift is a small figure: its ± would round to zero with one decimal
  const drift = (k: number) => number(fromKelvin(k, SYSTEMS[system].temperature), 2);
  const press = () => {
    if (zero.ok && waterC.ok && !save.isPending)
      save.mutate({ id: id.current, zero: zero.base, water_c: waterC.base, adjusted });
  };
  return (
    <>
      <main id="work">
        {about}
        <h1 className="title" data-testid="zero-state">
          {sayIn(state.said, system)}
        </h1>
        <p className="ink2">
          {last ? `Last check ${timeOf(last.at, zone)}. ` : ''}
          {state.due_at && `Next by ${dayOf(state.due_at, zone)}. `}
          {state.drift_k_month !== null &&
            state.drift_half !== null &&
            `Drifts ${drift(state.drift_k_month)} ±${drift(state.drift_half)}\u00a0${system === 'us' ? '°F' : '°C'} a month since it was set.`}
        </p>
        {instrument.in_doubt > 0 && (
          <p className={state.good ? '' : 'hot'} data-testid="in-doubt">
            <b>
              {instrument.in_doubt} {instrument.in_doubt === 1 ? 'reading is' : 'readings are'} in doubt
            </b>
            : taken between the last good zero and the check that found the error. They are marked in Readings.
          </p>
        )}
        {state.points.length > 1 && (
          <Suspense fallback={<p className="ink2">Loading …</p>}>
            <ZeroChart points={state.points} />
            <Twin
              caption="How far off water read at each check"
              heads={['when', `off zero, ${system === 'us' ? '°F' : '°C'}`, 'then']}
              rows={state.points.map((point) => [
                timeOf(point.at, zone),
                drift(point.off_k),
                point.adjusted ? 'adjusted to zero' : 'left as it was',
              ])}
            />
          </Suspense>
        )}
        <p className="rulehead">
          <b>Check zero</b> with demineralised water, clean, at the sample&rsquo;s temperature.
        </p>
        <div className="row">
          <Stepper
            name="zero"
            label="Water reads"
            kind={kindFor(instrument)}
            step={degrees ? 0.1 : step}
            decimals={Math.max(1, decimals)}
            start={instrument.zero}
            placeholder="set"
            typed={value}
            refused={save.error?.message}
            onChange={read}
          />
          {instrument.by_itself && (
            <div className="field takefield">
              <span className="lbl">Instrument</span>
              <ButtonBase
                className="key"
                aria-disabled={take.isPending}
                onClick={() => !take.isPending && take.mutate()}
              >
                {take.error?.code === 'line_dropped' ? 'Read again' : 'Read from instrument'}
              </ButtonBase>
            </div>
          )}
          <Stepper name="water" label="Water is at" kind="temperature" typed={water} onChange={at} />
          <Check
            label="I then adjusted it to zero"
            detail={`with its screw or key; new zero is ${instrument.scale ? scaleText(instrument.scale, mark, system) : 'water'}`}
            checked={adjusted}
            onChange={set}
          />
        </div>
        {take.error && <Refusal which="Not read." allowed={take.error.message} />}
        {save.error && <Refusal which="Not recorded." allowed={save.error.message} />}
        {instrument.by_itself && <SimulatedSample instrument={instrument} />}
      </main>
      <div className="gocorner">
        <GoPlate
          act="Record zero check"
          then="taken off every reading"
          waits={
            zero.ok
              ? waterC.ok
                ? null
                : 'How warm is the water?'
              : zero.empty
                ? 'What does water read?'
                : 'Fix what water reads'
          }
          busy={save.isPending}
          onPress={press}
        />
      </div>
    </>
  );
}
