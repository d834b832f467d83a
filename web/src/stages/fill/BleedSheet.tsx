import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { StageProps } from '../../bench/stage';
import { stateMarks } from '../../bench/marks';
import { readyFor } from '../../bench/readyFor';
import { StageFrame } from '../../bench/StageFrame';
import { GoPlate } from '../../controls/GoPlate';
import { Segment } from '../../controls/Segment';
import { lengthText } from '../../clocks/clock';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { Check } from '../../controls/Check';
import { Cautions } from '../../bench/Cautions';
import { OpenStage } from '../open/OpenStage';
import { PourLedger } from './PourLedger';
import { Runner } from './Runner';
import { SlipPanel } from './SlipPanel';
import { SignsSheet } from './SignsSheet';
import { TopUpKeys } from './TopUpKeys';

/** The air out: the loop's recipe as guided steps, or the two signs of whoever bled it without them. */
export function BleedSheet({ bench, recorder }: StageProps) {
  const { system } = useUnits();
  const { state } = bench;
  const [view, show] = useState<'recipe' | 'signs' | 'feel'>('recipe');
  const shipped = bench.recipes.map((row) => row.name);
  const own = state.fill?.bleed.recipe;
  const [named, name] = useState(own?.name ?? '');
  const [aired, air] = useState(false);
  if (!state.fill || !own) return null;
  if (state.fill.bleed.run) return <Runner bench={bench} recorder={recorder} />;
  if (view === 'signs') return <SignsSheet bench={bench} recorder={recorder} onBack={() => show('recipe')} />;
  if (view === 'feel') return <OpenStage bench={bench} recorder={recorder} purpose="cap" />;
  const { air: trapped, top_ups: topUps, bleed } = state.fill;
  const recipe = named === own.name ? own : (bench.recipes.find((row) => row.name === named) ?? own);
  const names = shipped.includes(own.name) ? shipped : [own.name, ...shipped];
  const opensFirst = recipe.steps[0] && ['open', 'funnel'].includes(recipe.steps[0].cap ?? 'tight');
  const shut = state.gate.ran_shut;
  const asked = recipe.steps.some((step) => step.rpm != null) ? (state.gate.asked_run ?? []) : [];
  const feel = shut && (Boolean(opensFirst) || bleed.level_first);
  return (
    <StageFrame
      bench={bench}
      state={state}
      marks={{ ...stateMarks(state, state.plan?.coldest_c ?? null), target: state.plan?.target_freeze_c ?? null }}
      refusal={recorder.refusal}
      go={
        feel ? (
          <GoPlate act="Check it is safe to open" then="top up, bleed again" onPress={() => show('feel')} />
        ) : (
          <GoPlate
            act={bleed.attempts > 0 ? 'Bleed again' : 'Start the bleed'}
            then="guided steps; two signs end it"
            busy={recorder.busy}
            waits={asked.length > 0 && !aired ? 'Tick: exhaust ventilated' : null}
            onPress={() =>
              recorder.record([
                ...(asked.length > 0 ? [readyFor(asked)] : []),
                { kind: 'bleed_started', facts: { recipe } },
              ])
            }
          />
        )
      }
    >
      <Cautions bench={bench} at="bleed" />
      <h1 className="title">Bleeding: {recipe.name.toLowerCase()}</h1>
      {asked.map((row) => (
        <Check key={row.ready} label={row.name} checked={aired} onChange={air} />
      ))}
      <SlipPanel state={state} recorder={recorder} />
      {bleed.said && (
        <p className="refusal" role="status">
          <b>Look: </b>
          {sayIn(bleed.said, system)}
        </p>
      )}
      {trapped && (
        <p className={trapped.trapped ? 'airline' : 'airline ink2'} data-testid="air">
          {trapped.trapped && <i className="tape" />}
          {sayIn(trapped.said, system)}
        </p>
      )}
      {topUps && (
        <p data-testid="top-ups" className={topUps.verdict === 'wrong' ? 'hot' : ''}>
          <b>Top-ups: </b>
          {sayIn(topUps.said, system)}
        </p>
      )}
      {bleed.attempts > 0 && !shut && <TopUpKeys bench={bench} recorder={recorder} />}
      <div className="recipepick">
        <Segment
          label="By"
          hideLabel
          value={recipe.name}
          options={names.map((value) => ({ value, label: value }))}
          onChange={name}
        />
      </div>
      <ol className="recipe">
        {recipe.steps.map((step, i) => (
          <li key={i}>
            <span className="num">{step.seconds ? lengthOf(step.seconds) : 'until'}</span>
            <span>
              <b>{step.act || `Step ${i + 1}`}</b>
              <small>{wordsOf(recipe === own ? bleed.steps[i]?.words : null, step)}</small>
            </span>
          </li>
        ))}
      </ol>
      <p className="ink2">Spitting coolant is hot: keep your face away from the neck.</p>
      <div className="row">
        <ButtonBase className="key small" onClick={() => show('signs')}>
          Bled without guided steps: two signs
        </ButtonBase>
      </div>
      <PourLedger fill={state.fill} />
    </StageFrame>
  );
}

const lengthOf = (seconds: number): string => (seconds < 120 ? `${seconds} s` : lengthText(seconds * 1000));

interface Step {
  rpm?: number | null;
  pump?: boolean;
  cap?: string;
}

/** In the core's words; a recipe that is not in use yet is said shortly. */
const wordsOf = (words: string[] | null | undefined, step: Step): string =>
  words
    ? words.join(', ')
    : [
        step.rpm ? `${step.rpm} rpm` : step.pump ? 'pump on' : 'engine off',
        { open: 'neck open', funnel: 'funnel on the neck', engaged: 'cap just engaged' }[step.cap ?? ''] ?? 'cap tight',
      ].join(', ');
