import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { Link, useParams } from 'react-router';
import type { Schemas } from '../api/client';
import { useDepot } from '../api/useDepot';
import { NotHere } from '../controls/NotHere';
import { Page, Waiting } from '../controls/menu/Page';
import { Refusal } from '../controls/Refusal';
import { sayIn } from '../language/say';
import { timeOf } from '../language/time';
import { number } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { truthOptions, useBegin } from './queries';
import './practice.css';

type Truth = Schemas['LookingBack'];
type Beside = Schemas['BesideTruth'] | null;

/** What came of a run: unsafe acts first, what to do differently, the aims, then belief and truth side by side. */
export default function TruthPage() {
  const { runId = '' } = useParams();
  const asked = useQuery(truthOptions(runId));
  const begin = useBegin();
  const { system } = useUnits();
  const zone = useDepot()?.time_zone;
  if (asked.isError)
    return <NotHere head="The truth cannot be shown." text={asked.error.message} retry={() => void asked.refetch()} />;
  if (!asked.data) return <Waiting title="The truth" />;
  const { run, truth, loops } = asked.data;
  const at = (minute: number) =>
    timeOf(new Date(Date.parse(run.started_at) + minute * 60_000).toISOString(), zone, new Date(run.started_at));
  const free = run.lesson.startsWith('free-');
  return (
    <Page
      title={`${run.name}: what was true`}
      line={`Seed ${run.seed}`}
      tools={
        <>
          {!free && (
            <ButtonBase
              className="key small"
              aria-disabled={begin.isPending}
              onClick={() => !begin.isPending && begin.mutate({ lesson: run.lesson })}
            >
              The same lesson again
            </ButtonBase>
          )}
          <Link className="key small" to="/practice">
            Practice
          </Link>
        </>
      }
      mainClass="practice one"
    >
      {begin.error && <Refusal which="Not begun." allowed={begin.error.message} />}
      {truth.unsafe.length > 0 && (
        <section aria-label="Not safe">
          <h2 className="unsafe">Unsafe acts</h2>
          <ul className="toldlist">
            {truth.unsafe.map((row, index) => (
              <li key={index} className="unsafe">
                {at(row.at_min)} {sayIn(row.said, system)}
              </li>
            ))}
          </ul>
        </section>
      )}
      <section aria-label="Next time">
        <h2>Next time</h2>
        {truth.next_time.length === 0 ? (
          <p>Nothing to change.</p>
        ) : (
          <ol className="toldlist">
            {truth.next_time.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ol>
        )}
      </section>
      <Aims truth={truth} loops={loops} />
      <Steps truth={truth} loops={loops} at={at} />
      {truth.deviations.length > 0 && (
        <section aria-label="What differed">
          <h2>
            What differed <span>and what to do instead</span>
          </h2>
          <ul className="toldlist">
            {truth.deviations.map((row, index) => (
              <li key={index}>
                <b className="tnum">{at(row.at_min)}</b> {loops.length > 1 && `${loops[row.loop]}: `}
                {sayIn(row.said, system)} <span className="ink2">{row.instead}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <Habits truth={truth} loops={loops} />
      <section aria-label="The trap">
        <h2>The trap of this lesson</h2>
        <p>{truth.trap}</p>
      </section>
    </Page>
  );
}

/** What is done or not done: a number says no more of it than the words. */
const COUNTED = new Set<Schemas['Goal']>(['unsafe', 'signed', 'zeroed', 'found_loss']);

function Aims({ truth, loops }: { truth: Truth; loops: string[] }) {
  const shown = useAimValue();
  return (
    <section aria-label="Aims">
      <h2>Aims</h2>
      <table className="ledger truthtable">
        <thead>
          <tr>
            <th>aim</th>
            <th>true</th>
            <th className="wide">asked for</th>
            <th>reached</th>
          </tr>
        </thead>
        <tbody>
          {truth.aims.map(({ aim, value, met }, index) => (
            <tr key={index}>
              <td>
                {loops.length > 1 && `${loops[aim.loop ?? 0]}: `}
                {aim.text}
              </td>
              <td className="tnum">{shown(aim.goal, value)}</td>
              <td className="tnum wide">
                {!COUNTED.has(aim.goal) &&
                  [
                    aim.low == null ? '' : `at least ${shown(aim.goal, aim.low)}`,
                    aim.high == null ? '' : `at most ${shown(aim.goal, aim.high)}`,
                  ]
                    .filter(Boolean)
                    .join(', ')}
              </td>
              <td>
                <b className={met ? '' : 'unsafe'}>{met ? 'yes' : 'no'}</b>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

/** A figure of an aim in its unit. */
function useAimValue(): (goal: Schemas['Goal'], value: number) => string {
  const { temperature, volume, kelvin } = useUnits();
  return (goal, value) => {
    switch (goal) {
      case 'freeze_c':
        return temperature(value, 1);
      case 'missed_c':
        return value > 90 ? 'nothing claimed' : kelvin(value);
      case 'level_l':
      case 'air_l':
        return volume(Math.abs(value) < 0.005 ? 0 : value);
      case 'old_percent':
      case 'cleaner_percent':
      case 'other_percent':
        return `${number(value, 1)} %`;
      case 'conducts':
        return `${number(value, 0)} µS/cm`;
      case 'unsafe':
        return value === 0 ? 'none was' : number(value, 0);
      default:
        return value > 0 ? 'it is' : 'it is not';
    }
  };
}

function Steps({ truth, loops, at }: { truth: Truth; loops: string[]; at: (minute: number) => string }) {
  const { system, volume, temperature } = useUnits();
  if (truth.steps.length === 0)
    return (
      <section aria-label="Steps">
        <h2>Step by step</h2>
        <p>Nothing was recorded.</p>
      </section>
    );
  const percent = (value: number) => `${number(value, 0)} %`;
  const degrees = (value: number) => temperature(value, 0);
  return (
    <section aria-label="Steps">
      <h2>
        Step by step <span>what your record made of it, and what was true</span>
      </h2>
      <table className="ledger truthtable">
        <thead>
          <tr>
            <th>step</th>
            <th>inside</th>
            <th>old coolant</th>
            <th>freezes at</th>
          </tr>
        </thead>
        <tbody>
          {truth.steps.map((step, index) => (
            <tr key={index}>
              <td>
                <span className="ink2 tnum">{at(step.at_min)}</span> {loops.length > 1 && `${loops[step.loop]}: `}
                {sayIn(step.said, system)}
              </td>
              <Cell of={step.inside_l} shown={volume} />
              <Cell of={step.old_percent} shown={percent} />
              <Cell of={step.freeze_c} shown={degrees} />
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

const CLAIM_C = -89;

/** Belief with its doubt, and the truth below it; marked where the doubt did not hold it. */
function Cell({ of, shown }: { of: Beside; shown: (value: number) => string }) {
  if (!of) return <td className="ink2">not said</td>;
  const { low, high } = of.believed;
  const believed = low < CLAIM_C ? `${shown(high)} or colder` : `${shown(low)} to ${shown(high)}`;
  return (
    <td className="tnum">
      <span className="ink2">{believed}</span>
      <b className={of.within ? '' : 'unsafe'}>
        {shown(of.true)}
        {of.within ? '' : ', outside'}
      </b>
    </td>
  );
}

function Habits({ truth, loops }: { truth: Truth; loops: string[] }) {
  const { system, temperature } = useUnits();
  if (truth.habits.length === 0) return null;
  return (
    <section aria-label="Usual habits">
      <h2>
        What usual habits would give <span>on this loop, without calculating</span>
      </h2>
      <table className="ledger truthtable">
        <thead>
          <tr>
            <th>habit</th>
            <th>freezes at</th>
            <th>old coolant</th>
            <th>rinses</th>
          </tr>
        </thead>
        <tbody>
          {truth.habits.map((habit, index) => (
            <tr key={index}>
              <td>
                {loops.length > 1 && `${loops[habit.loop]}: `}
                {sayIn(habit.said, system)}
              </td>
              <td className="tnum">{temperature(habit.freeze_c, 0)}</td>
              <td className="tnum">{number(habit.old_percent, 0)} %</td>
              <td className="tnum">{habit.rounds}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
