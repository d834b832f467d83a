import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { v4 as uuid } from 'uuid';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { instrumentsOptions } from '../api/queries';
import { useDepot } from '../bench/useDepot';
import { Check } from '../parts/Check';
import { GoPlate } from '../parts/GoPlate';
import { NotHere } from '../parts/NotHere';
import { Refusal } from '../parts/Refusal';
import { Stepper } from '../parts/Stepper';
import { TopStrip } from '../parts/TopStrip';
import { parseTyped, type Typed, typedFrom } from '../units/parse';
import { number } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../words/say';
import { dayOf, timeOf } from '../words/time';
import './instruments.css';

const ZeroChart = lazy(() => import('./ZeroChart'));
type Instrument = Schemas['InstrumentOut'];

/** The instruments of the depot: does water still read as water, since when not, and what that puts in doubt. */
export default function InstrumentsPage() {
  const instruments = useQuery(instrumentsOptions);
  const [picked, pick] = useState<number | null>(null);
  if (instruments.isError)
    return (
      <NotHere
        head="The instruments do not open."
        text={instruments.error.message}
        retry={() => void instruments.refetch()}
      />
    );
  if (!instruments.data) return <p className="empty">Fetching the instruments.</p>;
  const rows = instruments.data.instruments;
  const instrument = rows.find((row) => row.id === picked) ?? rows[0];
  return (
    <div className="page instrumentspage">
      <TopStrip>
        <div className="veh">
          <div>
            <b>Instruments</b>
            <span>a zero that is off flags every reading</span>
          </div>
        </div>
      </TopStrip>
      {instrument ? (
        <Zero key={instrument.id} rows={rows} instrument={instrument} onPick={pick} />
      ) : (
        <p className="empty">No instrument is entered in this depot.</p>
      )}
    </div>
  );
}

interface Props {
  rows: Instrument[];
  instrument: Instrument;
  onPick: (id: number) => void;
}

function Zero({ rows, instrument, onPick }: Props) {
  const { system, kelvin } = useUnits();
  const go = useNavigate();
  const client = useQueryClient();
  const zone = useDepot()?.time_zone;
  const id = useRef(uuid()); // kept until it is stored: a second try after a dropped line stores it once
  const [value, read] = useState<Typed>({ text: '', unit: 'degC' });
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
      read({ text: '', unit: 'degC' });
      set(false);
      void client.invalidateQueries(instrumentsOptions);
    },
  });
  const zero = parseTyped(value, 'temperature', system);
  const waterC = parseTyped(water, 'temperature', system);
  const { state } = instrument;
  const last = state.points.at(-1);
  const press = () => {
    if (zero.ok && waterC.ok && !save.isPending)
      save.mutate({ id: id.current, zero: zero.base, water_c: waterC.base, adjusted });
  };
  return (
    <>
      <main id="work">
        <div className="pick" role="radiogroup" aria-label="Instrument">
          {rows.map((row) => (
            <ButtonBase
              key={row.id}
              className={`opt${row.id === instrument.id ? ' picked' : ''}`}
              role="radio"
              aria-checked={row.id === instrument.id}
              onClick={() => onPick(row.id)}
            >
              <span>
                <b>{row.name}</b>
                <small>{row.scale.replace(/_/g, ' ')} scale</small>
                <small className={row.state.good && !row.state.overdue ? '' : 'hot'}>
                  {row.state.good ? (row.state.overdue ? 'zero due' : 'zero good') : 'zero off'}
                </small>
              </span>
            </ButtonBase>
          ))}
        </div>
        <h1 className="title" data-testid="zero-state">
          {sayIn(state.said, system)}
        </h1>
        <p className="ink2">
          {last ? `Last check ${timeOf(last.at, zone)}. ` : ''}
          {state.due_at && `Next by ${dayOf(state.due_at, zone)}. `}
          {state.drift_k_month !== null &&
            state.drift_half !== null &&
            `Drifts ${number(state.drift_k_month, 1)} ±${number(state.drift_half, 1)} K a month since it was set.`}
        </p>
        {instrument.in_doubt > 0 && (
          <p className="hot" data-testid="in-doubt">
            <b>
              {instrument.in_doubt} {instrument.in_doubt === 1 ? 'reading is' : 'readings are'} in doubt
            </b>
            : taken since its last good zero
            {state.doubtful_since && ` on ${dayOf(state.doubtful_since, zone)}`}.
          </p>
        )}
        {state.points.length > 1 && (
          <Suspense fallback={<p className="ink2">Drawing.</p>}>
            <ZeroChart points={state.points} />
          </Suspense>
        )}
        <p className="rulehead">
          <b>Check it now</b> with demineralised water, prism clean, at the sample&rsquo;s temperature.
        </p>
        <div className="row">
          <Stepper
            name="zero"
            label="Water reads"
            kind="temperature"
            step={0.1}
            decimals={1}
            start={0}
            placeholder="set"
            typed={value}
            refused={save.error?.message}
            onChange={read}
          />
          <Stepper name="water" label="Water is at" kind="temperature" typed={water} onChange={at} />
          <Check
            label="Then set to zero"
            detail={`with its screw or key; from then on it counts as ${kelvin(0)}`}
            checked={adjusted}
            onChange={set}
          />
        </div>
        {save.error && <Refusal which="Not recorded." allowed={save.error.message} />}
      </main>
      <section className="lane keys" />
      <div className="gocorner">
        {zero.ok ? (
          <GoPlate
            act="Record the zero"
            then="every reading takes it off"
            waits={waterC.ok ? null : 'How warm is the water?'}
            busy={save.isPending}
            onPress={press}
          />
        ) : (
          <GoPlate act="Back to the board" then="pick the next machine" onPress={() => void go('/')} />
        )}
      </div>
    </>
  );
}
