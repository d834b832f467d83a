import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import { v4 as uuid } from 'uuid';
import { Picker } from '../controls/Picker';
import { QuantityField } from '../controls/QuantityField';
import { Refusal } from '../controls/Refusal';
import { litresTyped } from './litres';
import { Segment } from '../controls/Segment';
import { type Typed, unitFor } from '../units/parse';
import { useUnits } from '../units/UnitsContext';
import { FoundNow, FoundBefore } from './FoundThere';
import { type Act, type Bench, useHands } from './queries';

type LoopAtHand = Bench['loops'][number];
type Do = Act['do'];

const WAITS = [
  { minutes: 5, label: '5 min' },
  { minutes: 20, label: '20 min' },
  { minutes: 60, label: '1 h' },
  { minutes: 720, label: '12 h' },
  { minutes: 7200, label: '5 days' },
];

interface Props {
  bench: Bench;
  zone: string | undefined;
  onHide: () => void;
}

/** The machine, as hands have it: what can be done with it now, what was found, and time. Nothing here is recorded. */
export function AtTheMachine({ bench, zone, onHide }: Props) {
  const [at, setAt] = useState(0);
  const { act, wait } = useHands(bench.run.id);
  const loop = bench.loops[at] ?? bench.loops[0];
  const busy = act.isPending || wait.isPending;
  const error = act.error ?? wait.error;
  if (!loop) return null;
  const hand = (doing: Do, more: Partial<Act> = {}) => {
    if (busy) return;
    wait.reset();
    act.mutate({
      id: uuid(),
      act: {
        loop: at,
        where: '',
        what: '',
        litres: null,
        to_mark: false,
        heater_full: false,
        glass: '',
        ...more,
        do: doing,
      },
    });
  };
  const hurry = (minutes: number) => {
    if (busy) return;
    act.reset();
    wait.mutate(minutes);
  };
  return (
    <aside className="atmachine" aria-label="At the machine" aria-busy={busy}>
      <header>
        <h2>At the machine</h2>
        <ButtonBase className="key small" onClick={onHide}>
          Back to the page
        </ButtonBase>
      </header>
      {bench.loops.length > 1 && (
        <Segment
          label="Loop"
          value={String(at)}
          options={bench.loops.map((row, index) => ({ value: String(index), label: row.name }))}
          onChange={(value) => setAt(Number(value))}
        />
      )}
      {error && <Refusal which="Not done." allowed={error.message} />}
      {bench.done[0] ? <FoundNow bench={bench} zone={zone} /> : <p className="story">{bench.story}</p>}
      <div className="atkeys">
        <Keys loop={loop} bench={bench} hand={hand} />
        <section aria-label="Time">
          <h3>Let time pass</h3>
          <div className="row">
            {WAITS.map(({ minutes, label }) => (
              <ButtonBase key={minutes} className="key small" aria-disabled={busy} onClick={() => hurry(minutes)}>
                {label}
              </ButtonBase>
            ))}
          </div>
        </section>
        {bench.done[0] && (
          <section aria-label="The story">
            <h3>The story</h3>
            <p className="story">{bench.story}</p>
          </section>
        )}
        <FoundBefore bench={bench} zone={zone} />
      </div>
    </aside>
  );
}

interface KeysProps {
  loop: LoopAtHand;
  bench: Bench;
  hand: (doing: Do, more?: Partial<Act>) => void;
}

/** What can be done now; what cannot stands there with what it waits for. */
function Keys({ loop, bench, hand }: KeysProps) {
  return (
    <>
      <section aria-label="Look and feel">
        <h3>Look and feel</h3>
        <div className="row">
          <Key name="Feel the hoses" onPress={() => hand('feel')} />
          <Key name="Look at the level" onPress={() => hand('level')} />
          {loop.heater && <Key name="Hand at the heater" onPress={() => hand('heater')} />}
          <Key name="Read the can" onPress={() => hand('label')} />
        </div>
      </section>
      <section aria-label="Engine and cap">
        <h3>Engine and cap</h3>
        <div className="row">
          {loop.running ? (
            <Key name="Stop the engine" onPress={() => hand('engine_off')} />
          ) : (
            <>
              <Key name="Start, heater full hot" onPress={() => hand('engine_on', { heater_full: true })} />
              {loop.heater && <Key name="Start, heater shut" onPress={() => hand('engine_on')} />}
            </>
          )}
          {loop.cap_open ? (
            <Key name="Close the cap" onPress={() => hand('close_cap')} />
          ) : (
            <Key name="Open the cap" onPress={() => hand('open_cap')} />
          )}
          {loop.bleeders.map((row) => (
            <Key
              key={row.mark}
              name={`Bleed ${row.mark}, ${row.name.toLowerCase()}`}
              onPress={() => hand('bleed', { where: row.mark })}
            />
          ))}
        </div>
      </section>
      <section aria-label="Drain">
        <h3>Drain into a container on the scale</h3>
        {loop.running ? (
          <p className="ink2">The engine runs. Stop it first.</p>
        ) : (
          <div className="row">
            {loop.drains.map((row) => (
              <Key
                key={row.mark}
                name={`Open ${row.mark}, ${row.name.toLowerCase()}`}
                onPress={() => hand('drain', { where: row.mark })}
              />
            ))}
            {loop.by_hand.map((row) => (
              <Key
                key={row.mark}
                name={`Empty ${row.name.toLowerCase()}`}
                onPress={() => hand('drain', { where: row.mark })}
              />
            ))}
            {loop.drains_open.length > 0 && (
              <Key name={`Shut ${loop.drains_open.join(', ')}`} onPress={() => hand('shut_drains')} />
            )}
            <Key name="Known weight on the scale" onPress={() => hand('known_weight')} />
          </div>
        )}
      </section>
      <PourThere loop={loop} bench={bench} hand={hand} />
      <GlassThere loop={loop} bench={bench} hand={hand} />
    </>
  );
}

function PourThere({ loop, bench, hand }: KeysProps) {
  const { system } = useUnits();
  const [what, setWhat] = useState(bench.coolants[0] ?? '');
  const [typed, setTyped] = useState<Typed>({ text: '', unit: unitFor('volume', system) });
  const litres = litresTyped(typed, system);
  const shut = !loop.cap_open ? 'The cap is closed.' : loop.drains_open.length > 0 ? 'A drain is open.' : null;
  return (
    <section aria-label="Pour">
      <h3>Pour by the jug</h3>
      {shut ? (
        <p className="ink2">{shut}</p>
      ) : (
        <>
          <Picker
            label="What"
            value={what}
            options={[...bench.coolants, ...bench.waters, bench.cleaner].map((name) => ({ value: name, label: name }))}
            onChange={setWhat}
          />
          <div className="row">
            <QuantityField name="pour-there" label="How much" kind="volume" typed={typed} onChange={setTyped} />
            {litres !== null && <Key name="Pour it" onPress={() => hand('pour', { what, litres })} />}
            <Key name="Fill to the cold mark" onPress={() => hand('pour', { what, to_mark: true })} />
          </div>
        </>
      )}
    </section>
  );
}

function GlassThere({ loop, bench, hand }: KeysProps) {
  const [glass, setGlass] = useState(bench.glasses[0]?.name ?? '');
  return (
    <section aria-label="Sample and instrument">
      <h3>Sample and instrument</h3>
      <Segment
        label="Instrument"
        value={glass}
        options={bench.glasses.map((row) => ({ value: row.name, label: row.name }))}
        onChange={setGlass}
      />
      <div className="row">
        <Key name="Look at water" onPress={() => hand('look_water', { glass })} />
        <Key name="Turn its zero" onPress={() => hand('set_zero', { glass })} />
        {loop.cap_open ? (
          <Key name="Take a sample" onPress={() => hand('sample')} />
        ) : (
          <span className="ink2">A sample: the cap is closed.</span>
        )}
        {loop.sample && <Key name="Look at the sample" onPress={() => hand('look_sample', { glass })} />}
        {loop.sample && <Key name="Strips in the sample" onPress={() => hand('strips')} />}
        {loop.sample && <Key name="Pen in the sample" onPress={() => hand('pen')} />}
      </div>
    </section>
  );
}

function Key({ name, onPress }: { name: string; onPress: () => void }) {
  return (
    <ButtonBase className="key small" onClick={onPress}>
      {name}
    </ButtonBase>
  );
}
