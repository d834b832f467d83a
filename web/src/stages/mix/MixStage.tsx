import { useState } from 'react';
import type { Schemas } from '../../api/client';
import type { StageProps } from '../../bench/stage';
import { stateMarks, strengthTag } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import type { Fact } from '../../bench/useRecorder';
import { AnswerBar } from '../../figures/AnswerBar';
import { AnswerNumber } from '../../controls/AnswerNumber';
import { GoPlate } from '../../controls/GoPlate';
import { IntervalMark } from '../../controls/icons';
import { Refusal } from '../../controls/Refusal';
import { Segment } from '../../controls/Segment';
import { number, safeText } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { inUnits, sayIn } from '../../language/say';
import { Controls } from './Controls';
import './mix.css';
import { Cans } from './panels/Cans';
import { Heat } from './panels/Heat';
import { HowSure } from './panels/HowSure';
import { OtherWays } from './panels/OtherWays';
import { PourPanel } from './panels/PourPanel';
import { ReadyMixBeside } from './ReadyMixBeside';
import { type MixController, useMixController } from './useMixController';

type Mix = Schemas['MixOut'];

const PANELS = [
  { value: 'pour', label: 'Pour' },
  { value: 'ways', label: 'Other ways' },
  { value: 'sure', label: 'How sure' },
  { value: 'cans', label: 'Cans' },
  { value: 'heat', label: 'Heat' },
] as const;
type Panel = (typeof PANELS)[number]['value'];

/** Litres of concentrate and of water that reach the target on top of what is still inside. */
export function MixStage({ bench, recorder }: StageProps) {
  const c = useMixController(bench);
  const { temperature } = useUnits();
  const shown = c.basis ?? bench.state;
  const mix = c.mix.refusal || c.preview.refusal ? undefined : c.mix.answer;
  const letters = (bench.loop.layout.drains ?? []).map((drain) => drain.letter).join(' and ');
  const best = mix && !mix.feasible ? mix.reason?.best_freeze_c : null;
  const aim = c.asItIs || c.draft.beSure ? (mix?.final.freeze_c ?? null) : c.target.ok ? c.target.base : null;
  const acceptC = mix ? (mix.feasible || c.asItIs ? aim : (best ?? null)) : null;

  const accept = () => {
    const plan = bench.state.plan;
    if (!plan || !c.product) return;
    const room = shown.mix_capacity_l - shown.inside.litres;
    const litres =
      c.glycol && mix
        ? { concentrate_l: mix.concentrate_l, water_l: mix.water_l }
        : { concentrate_l: room, water_l: 0 };
    const planned: Fact = {
      kind: 'planned',
      facts: {
        product_id: c.product.id,
        coldest_c: plan.coldest_c,
        margin_k: plan.margin_k,
        target_freeze_c: c.glycol ? acceptC : null,
        dilute: c.product.form === 'ready_mix' && c.draft.dilute,
        reason: plan.reason,
        ...litres,
      },
    };
    recorder.record([...c.correction, planned], c.settle);
  };
  const waits =
    !c.target.ok && c.glycol
      ? 'Set the target'
      : c.glycol && (!mix || acceptC === null)
        ? 'Fix the marked fields'
        : null;
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={{
        ...stateMarks(shown, bench.state.plan?.coldest_c ?? null),
        target: acceptC,
        strength: mix ? strengthTag(loopPercent(c, mix)) : '',
        likely: mix?.likely ? { low: mix.likely.freeze_c_low, high: mix.likely.freeze_c_high } : null,
        safe: mix?.likely_with_curve?.freeze_c_high ?? null,
      }}
      drafted={c.touched}
      base={c.product?.base ?? null}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={
            c.glycol && !c.asItIs && best !== null && best !== undefined
              ? `Accept the best, ${temperature(best)}`
              : c.glycol
                ? c.asItIs
                  ? 'Accept as it is'
                  : 'Accept this mix'
                : `Fill with ${c.product?.name ?? 'it'}`
          }
          then={letters ? `fill: shut ${letters}` : 'fill'}
          waits={waits}
          busy={recorder.busy || (c.glycol !== null && c.mix.stale)}
          onPress={accept}
        />
      }
    >
      <Controls bench={bench} c={c} />
      {c.glycol ? <Answer bench={bench} c={c} mix={mix} /> : <NoGlycol state={shown} />}
    </StageFrame>
  );
}

/** By volume of the concentrate in use; a ready-mix counts in the default one, or it would always read 100 %. */
const loopPercent = (c: MixController, mix: Mix): number =>
  c.product?.form === 'ready_mix' ? mix.final.strength_percent : mix.final.poured_percent;

function Answer({ bench, c, mix }: { bench: Schemas['Bench']; c: MixController; mix: Mix | undefined }) {
  const [panel, show] = useState<Panel>('pour'); // never kept: the next visit starts at what hands do
  const { system } = useUnits();
  const inside = (c.basis ?? bench.state).inside;
  if (!mix || !c.product) return <p className="title">Set a target to see the litres.</p>;
  const stale = c.mix.answer === undefined;
  const readyMix = c.product.form === 'ready_mix';
  return (
    <>
      <div className={`answers${system === 'metric' ? '' : ' long'}`} aria-live="polite">
        <AnswerNumber litres={inside.litres} spread={inside.half_l ?? 0} caption="still inside" second />
        <AnswerNumber
          litres={mix.concentrate_l}
          spread={mix.litres_spread?.concentrate_l ?? null}
          caption={readyMix ? c.product.name : `concentrate, ${c.product.name}`}
          stale={stale}
          testId="concentrate"
        />
        {(!readyMix || mix.water_l > 0.005) && (
          <AnswerNumber
            litres={mix.water_l}
            spread={mix.litres_spread?.water_l ?? null}
            caption="demineralised water"
            stale={stale}
            testId="water"
          />
        )}
        <ReadyMixBeside bench={bench} c={c} />
      </div>
      <AnswerBar
        system={system}
        capacityL={(c.basis ?? bench.state).mix_capacity_l}
        insideL={inside.litres}
        oldPercent={inside.old_percent}
        productL={mix.concentrate_l}
        waterL={mix.water_l}
        blendPercent={mix.blend_percent}
        loopPercent={loopPercent(c, mix)}
        readyMix={readyMix}
      />
      <div className="panelpick">
        <Segment label="Show" hideLabel value={panel} options={PANELS} onChange={show} />
      </div>
      <div className="panel">
        {panel === 'pour' &&
          (mix.feasible ? (
            <PourPanel bench={bench} c={c} mix={mix} />
          ) : (
            <OutOfReach
              mix={mix}
              insideL={inside.litres}
              what={readyMix ? c.product.name : 'concentrate'}
              asItIs={c.asItIs}
            />
          ))}
        {panel === 'ways' && <OtherWays bench={bench} c={c} mix={mix} />}
        {panel === 'sure' && <HowSure c={c} mix={mix} />}
        {panel === 'cans' && <Cans bench={bench} c={c} mix={mix} />}
        {panel === 'heat' && <Heat bench={bench} c={c} mix={mix} />}
      </div>
      <Expect bench={bench} mix={mix} c={c} />
    </>
  );
}

interface OutProps {
  mix: Mix;
  insideL: number;
  what: string;
  asItIs: boolean;
}

function OutOfReach({ mix, insideL, what, asItIs }: OutProps) {
  const { system, temperature, volume, kelvin } = useUnits();
  const reason = mix.reason;
  if (!reason) return null;
  const bestC = reason.best_freeze_c ?? null;
  const best = bestC === null ? 'colder than any handbook shows' : temperature(bestC);
  const weak = reason.code === 'too_much_inside';
  const more = reason.drain_more_l ?? null;
  const missed = reason.misses_by_c ?? null;
  if (reason.code === 'not_sure') {
    return (
      <div className="outofreach" data-testid="out-of-reach">
        <Refusal which="Cannot be guaranteed." allowed={inUnits(reason, system)} />
      </div>
    );
  }
  if (asItIs) {
    return (
      <div className="outofreach" data-testid="out-of-reach">
        <Refusal which="Undiluted it still falls short." allowed={inUnits(reason, system)} />
      </div>
    );
  }
  return (
    <div className="outofreach" data-testid="out-of-reach">
      <Refusal
        which={
          weak
            ? `Target out of reach${missed === null ? '' : `, by ${kelvin(missed)}`}.`
            : `What is inside is stronger than the target${missed === null ? '' : `, by ${kelvin(-missed)}`}.`
        }
        allowed={
          weak
            ? `With ${volume(insideL)} inside, ${what} alone freezes at ${best}.`
            : `Filled up with water only it freezes at ${best}.`
        }
        todo={
          more === null
            ? 'Even an empty loop falls short. Use a stronger product.'
            : `Drain ${volume(more)} more (block drain, tilt, blow out), or accept the best reachable.`
        }
      />
    </div>
  );
}

function Expect({ bench, mix, c }: { bench: Schemas['Bench']; mix: Mix; c: MixController }) {
  const { temperature, coldEnd, system, kelvin } = useUnits();
  const coldest = bench.state.plan?.coldest_c ?? null;
  const safe = mix.likely_with_curve?.freeze_c_high;
  const warmer = safe !== undefined && mix.likely !== null && safe - mix.likely.freeze_c_high > 0.3;
  const short = coldest !== null && safe !== undefined && safe > coldest;
  const limit = c.choice?.judged.old_limit_percent ?? null;
  const old = (c.basis ?? bench.state).inside.finished_old_percent;
  // it explains the target that was suggested, not one that somebody set
  const note =
    c.target.ok && Math.abs(c.target.base - bench.state.suggested_target_c) < 0.5 ? bench.state.target_note : null;
  const unknown = bench.state.inside.strength_percent === null;
  return (
    <div className="facts push">
      <div>
        <IntervalMark />
        <span>
          {mix.final.freeze_c !== null && (
            <b>
              {c.draft.beSure ? 'Planned to be sure, for' : 'Expect'} {temperature(mix.final.freeze_c)}
            </b>
          )}
          {mix.likely && (
            <>
              , likely {coldEnd(mix.likely.freeze_c_low)} to {temperature(mix.likely.freeze_c_high, 0)}
            </>
          )}
          {safe !== undefined && <>; protects to about {safeText(safe, system)}</>}
          {warmer && ' by the warmer handbook'}.
          {short && coldest !== null && (
            <b className="hot">
              {' '}
              Does not protect to {temperature(coldest, 0)}:{' '}
              {c.asItIs ? 'drain more, or add concentrate.' : 'set a colder target, or measure more exactly.'}
            </b>
          )}
          {unknown && ' Strength inside not read: counted as water.'}
        </span>
      </div>
      {c.asItIs && mix.own_freeze_c != null && (
        <div data-testid="as-it-is">
          <i className="tape" />
          <span>
            Freezes at {temperature(mix.own_freeze_c)} itself
            {mix.inside_takes_k != null && mix.inside_takes_k > 0.05
              ? `; what is still inside costs ${kelvin(mix.inside_takes_k)} of it.`
              : '.'}
          </span>
        </div>
      )}
      {note && !c.asItIs && (
        <div>
          <i className="tape" />
          <span>{sayIn(note, system)}</span>
        </div>
      )}
      {mix.warnings.map((warning) => (
        <div key={warning.code}>
          <i className="tape" />
          <span>{sayIn(warning, system)}</span>
        </div>
      ))}
      {mix.reason?.code === 'not_sure' && (
        <div>
          <i className="tape" />
          <span>{inUnits(mix.reason, system)}</span>
        </div>
      )}
      {limit !== null && old > limit && (
        <div data-testid="old-over-limit">
          <i className="tape" />
          <span>
            <b className="hot">
              After refill the loop holds {number(old, 1)} % old coolant, over the limit of {number(limit, 0)} %
            </b>{' '}
            . Rinse again, or it lasts only as long as the shorter-lived one.
          </span>
        </div>
      )}
      <div>
        <i className="tape" />
        <span>
          <b>Poisonous. Keep away from children and animals.</b> Close and label waste. Follow local rules for disposal.
        </span>
      </div>
    </div>
  );
}

function NoGlycol({ state }: { state: Schemas['LoopState'] }) {
  return (
    <>
      <div className="answers">
        <AnswerNumber
          litres={state.mix_capacity_l - state.inside.litres}
          caption="glycol-free coolant, as it is"
          testId="concentrate"
        />
      </div>
      <div className="facts push">
        <div>
          <i className="tape" />
          <span>
            <b>No frost protection.</b> Freezes like water: keep the machine indoors, or drain it after each run.
          </span>
        </div>
      </div>
    </>
  );
}
