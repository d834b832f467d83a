import { useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { sessionOptions } from '../api/queries';
import { GoPlate } from '../controls/GoPlate';
import { useTitle } from '../controls/menu/Page';
import { NumberField, numberOf, wrongNumber } from '../controls/NumberField';
import { PasswordField } from '../controls/PasswordField';
import { Refusal } from '../controls/Refusal';
import { Segment } from '../controls/Segment';
import { Stepper } from '../controls/Stepper';
import { TextField } from '../controls/TextField';
import { parseTyped, type Typed } from '../units/parse';
import { type System, SYSTEMS } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import './start.css';

const FIELDS = ['code', 'name', 'coldest_c', 'altitude_m', 'currency', 'time_zone', 'person', 'username', 'password'];
const UNITS = (Object.keys(SYSTEMS) as System[]).map((value) => ({ value, label: SYSTEMS[value].label }));
const FROST_FREE_C = 5; // a workshop in frost that forgot the minus would be filled with water

const M_PER_FOOT = 0.3048;
const ownZone = (): string => Intl.DateTimeFormat().resolvedOptions().timeZone || 'UTC';
const zones = (): string[] => [...new Set([ownZone(), 'UTC', ...Intl.supportedValuesOf('timeZone')])];

/** A server without a depot: whoever has the code of its terminal opens the workshop, and leads it first. */
export default function FirstRunPage() {
  useTitle('Open this workshop');
  const client = useQueryClient();
  const go = useNavigate();
  const { system, setSystem } = useUnits();
  const [form, set] = useState({ code: '', name: '', zone: ownZone(), currency: 'EUR', person: '', username: '' });
  const [password, setPassword] = useState('');
  const [coldest, setColdest] = useState<Typed>({ text: '', unit: system === 'us' ? 'degF' : 'degC' });
  const [altitude, setAltitude] = useState('0');
  const [frostFree, sureFrostFree] = useState(false);
  const [refusal, setRefusal] = useState<RefusalError | null>(null);
  const [busy, setBusy] = useState(false);
  const change = (part: Partial<typeof form>) => set((before) => ({ ...before, ...part }));
  const cold = parseTyped(coldest, 'temperature', system);
  const feet = system === 'us';
  const high = wrongNumber(altitude, feet ? 'ft' : 'm') ? null : numberOf(altitude);
  const warm = cold.ok && cold.base > FROST_FREE_C;
  const said = (field: string) => (refusal?.field === field ? refusal.message : undefined);
  const waits =
    form.code.replace(/[\s-]/g, '').length < 8
      ? 'Enter the code from the terminal'
      : form.name.trim() === ''
        ? 'What is the workshop called?'
        : !cold.ok
          ? 'How cold does it get?'
          : warm && !frostFree
            ? 'Is it never colder? Check the minus'
            : high === null
              ? 'How high above the sea?'
              : form.person.trim().length < 2
                ? 'Enter your name'
                : form.username.trim().length < 2
                  ? 'Choose a sign-in name'
                  : password.length < 10
                    ? 'Choose a password, 10 letters or more'
                    : null;
  const open = async () => {
    if (busy || waits !== null || !cold.ok || high === null) return;
    setBusy(true);
    setRefusal(null);
    try {
      await unwrap(api.GET('/api/session')); // sets the CSRF cookie where there is none yet
      const session = await unwrap(
        api.POST('/api/first-run', {
          body: {
            code: form.code,
            name: form.name,
            time_zone: form.zone,
            currency: form.currency.trim().toUpperCase(),
            units: system as Schemas['Units'],
            coldest_c: cold.base,
            altitude_m: feet ? high * M_PER_FOOT : high,
            username: form.username.trim(),
            person: form.person,
            password,
          },
        }),
      );
      await go('/getting-started');
      client.setQueryData(sessionOptions.queryKey, session);
    } catch (error) {
      setRefusal(
        error instanceof RefusalError ? error : new RefusalError(0, '', '', 'Something went wrong: try again.'),
      );
    } finally {
      setBusy(false);
    }
  };
  const submit = (event: FormEvent) => {
    event.preventDefault();
    void open();
  };
  return (
    <main className="firstrun">
      <form onSubmit={submit}>
        <h1 className="mark-temper">
          <span className="plate">
            <span>Temper</span>
          </span>{' '}
          Open this workshop
        </h1>
        <p>
          The terminal shows a code of eight letters and digits. It is good for an hour; <b>./temper first-run-code</b>{' '}
          makes another.
        </p>
        <TextField
          name="code"
          label="Code from the terminal"
          value={form.code}
          max={12}
          wide
          refused={said('code')}
          onChange={(code) => change({ code })}
        />
        <h2>The workshop</h2>
        <TextField
          name="workshop"
          label="Name"
          value={form.name}
          max={80}
          wide
          refused={said('name')}
          onChange={(name) => change({ name })}
        />
        <div className="pair">
          <Segment label="Units on this device" value={system} options={UNITS} onChange={setSystem} />
          <div className="field">
            <label className="lbl" htmlFor="first-run-zone">
              Time zone
            </label>
            <div className="box">
              <select
                id="first-run-zone"
                name="time-zone"
                value={form.zone}
                onChange={(event) => change({ zone: event.target.value })}
              >
                {zones().map((zone) => (
                  <option key={zone}>{zone}</option>
                ))}
              </select>
            </div>
            {said('time_zone') && <Refusal which={said('time_zone') ?? ''} />}
          </div>
        </div>
        <Stepper
          name="coldest"
          label="Coldest expected, where machines stand"
          kind="temperature"
          typed={coldest}
          start={-20}
          placeholder={system === 'us' ? '−4' : '−20'}
          refused={said('coldest_c')}
          onChange={(typed) => {
            setColdest(typed);
            sureFrostFree(false);
          }}
        />
        {warm && (
          <label className="frostfree">
            <input type="checkbox" checked={frostFree} onChange={(event) => sureFrostFree(event.target.checked)} />
            There is no frost here. Without the minus, coolant is mixed for a workshop without frost.
          </label>
        )}
        <div className="pair">
          <NumberField
            name="altitude"
            label="Height above the sea"
            unit={feet ? 'ft' : 'm'}
            value={altitude}
            low={feet ? -1400 : -450}
            high={feet ? 19000 : 6000}
            refused={said('altitude_m')}
            onChange={setAltitude}
          />
          <TextField
            name="currency"
            label="Currency, three letters"
            value={form.currency}
            max={3}
            wide
            refused={said('currency')}
            onChange={(currency) => change({ currency: currency.toUpperCase() })}
          />
        </div>
        <h2>You, its first lead</h2>
        <div className="pair">
          <TextField
            name="person"
            label="First and last name"
            value={form.person}
            max={80}
            wide
            refused={said('person')}
            onChange={(person) => change({ person })}
          />
          <TextField
            name="username"
            label="Sign-in name"
            value={form.username}
            max={30}
            wide
            refused={said('username')}
            onChange={(username) => change({ username: username.toLowerCase() })}
          />
        </div>
        <PasswordField
          name="password"
          label="Password, 10 letters or more"
          value={password}
          kept="new-password"
          refused={said('password')}
          onChange={setPassword}
        />
        {refusal && !FIELDS.includes(refusal.field) && <Refusal which={refusal.message} />}
        <GoPlate
          act="Open the workshop"
          then="coolants, water, an instrument, a machine"
          type="submit"
          busy={busy}
          waits={waits}
          asks={ASKS[waits ?? '']}
          onPress={() => undefined}
        />
      </form>
    </main>
  );
}

/** Where each of the open questions is asked. */
const ASKS: Record<string, string> = {
  'Enter the code from the terminal': 'input[name=code]',
  'What is the workshop called?': 'input[name=workshop]',
  'How cold does it get?': 'input[name=coldest]',
  'Is it never colder? Check the minus': '.frostfree input',
  'How high above the sea?': 'input[name=altitude]',
  'Enter your name': 'input[name=person]',
  'Choose a sign-in name': 'input[name=username]',
  'Choose a password, 10 letters or more': 'input[name=password]',
};
