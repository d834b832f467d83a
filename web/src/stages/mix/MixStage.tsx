import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { Schemas } from '../../api/client';
import type { StageProps } from '../../bench/BenchPage';
import { stateMarks, strengthTag } from '../../bench/marks';
import { StageFrame } from '../../bench/StageFrame';
import type { Fact } from '../../bench/useRecorder';
import { AnswerBar } from '../../figures/AnswerBar';
import { AnswerNumber } from '../../parts/AnswerNumber';
import { GoPlate } from '../../parts/GoPlate';
import { Change, IntervalMark, Tick } from '../../parts/icons';
import { Refusal } from '../../parts/Refusal';
import { Stepper } from '../../parts/Stepper';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { useMixController } from './useMixController';

type Mix = Schemas['MixOut'];
type Controller = ReturnType<typeof useMixController>;

/** Litres of concentrate and of water that reach the target on top of what is still inside. */
export function MixStage({ bench, recorder }: StageProps) {
  const c = useMixController(bench);
  const { temperature } = useUnits();
  const shown = c.basis ?? bench.state;
  const mix = c.mix.refusal || c.preview.refusal ? undefined : c.mix.answer;
  const letters = (bench.loop.layout.drains ?? []).map((drain) => drain.letter).join(' and ');
  const best = mix && !mix.feasible ? mix.reason?.best_freeze_c : null;
  const acceptC = mix ? (mix.feasible ? (c.target.ok ? c.target.base : null) : (best ?? null)) : null;

  const accept = () => {
    const plan = bench.state.plan;
    if (!plan || !c.product) return;
    const room = bench.loop.capacity_l - shown.inside.litres;
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
        ...litres,
      },
    };
    recorder.record([...c.correction, planned], c.settle);
  };
  const waits =
    !c.target.ok && c.glycol
      ? 'Set the target'
      : c.glycol && (!mix || acceptC === null)
        ? 'Correct what is marked'
        : null;
  return (
    <StageFrame
      bench={bench}
      state={shown}
      marks={{
        ...stateMarks(shown, bench.state.plan?.coldest_c ?? null),
        target: acceptC,
        strength: mix ? strengthTag(mix.final.poured_percent) : '',
        likely: mix?.likely ? { low: mix.likely.freeze_c_low, high: mix.likely.freeze_c_high } : null,
        safe: mix?.likely_with_curve?.freeze_c_high ?? null,
      }}
      drafted={c.touched}
      base={c.product?.base ?? null}
      refusal={recorder.refusal}
      go={
        <GoPlate
          act={
            c.glycol && best !== null && best !== undefined
              ? `Accept the best, ${temperature(best)}`
              : c.glycol
                ? 'Accept this mix'
                : `Fill with ${c.product?.name ?? 'it'}`
          }
          then={letters ? `Fill, shut ${letters}` : 'Fill'}
          waits={waits}
          busy={recorder.busy}
          onPress={accept}
        />
      }
    >
      <Controls bench={bench} c={c} />
      {c.glycol ? <Answer bench={bench} c={c} mix={mix} /> : <NoGlycol bench={bench} state={shown} />}
    </StageFrame>
  );
}

function Controls({ bench, c }: { bench: Schemas['Bench']; c: Controller }) {
  const [others, showOthers] = useState(false);
  const fitting = bench.choices.filter((row) => row.judged.verdict !== 'no' && row.product.form === 'concentrate');
  const rest = fitting.filter((row) => row !== c.choice);
  return (
    <>
      <div className="row">
        {c.glycol && (
          <Stepper
            name="target"
            label="Protect down to"
            kind="temperature"
            typed={c.draft.target}
            refused={c.mix.refusal?.field === 'target_freeze_c' ? c.mix.refusal.message : undefined}
            onChange={(target) => c.change({ target })}
          />
        )}
        <Stepper
          name="out"
          label="Came out"
          kind="volume"
          step={0.1}
          decimals={1}
          typed={c.draft.out}
          refused={c.preview.refusal?.message}
          onChange={(out) => c.change({ out })}
        />
        <div className="field fill" role="radiogroup" aria-label="Pour from">
          <span className="lbl">Pour from</span>
          {c.choice && (
            <ProductOption row={c.choice} picked onPick={() => showOthers(!others)} others={others ? 0 : rest.length} />
          )}
        </div>
      </div>
      {others && (
        <div className="pick" role="radiogroup" aria-label="Other products that may go in" style={{ paddingTop: 8 }}>
          {rest.map((row) => (
            <ProductOption
              key={row.product.id}
              row={row}
              picked={false}
              others={0}
              onPick={() => {
                c.change({ productId: row.product.id });
                showOthers(false);
              }}
            />
          ))}
        </div>
      )}
      {c.mix.refusal && c.mix.refusal.field !== 'target_freeze_c' && <Refusal which={c.mix.refusal.message} />}
    </>
  );
}

interface OptionProps {
  row: Schemas['Choice'];
  picked: boolean;
  others: number;
  onPick: () => void;
}

function ProductOption({ row, picked, others, onPick }: OptionProps) {
  return (
    <ButtonBase className="opt" role="radio" aria-checked={picked} onClick={onPick}>
      <span>
        {row.product.name}
        {others > 0 && <u className="others">{others === 1 ? '1 other' : `${others} others`}</u>}
      </span>
      <b>
        {row.judged.verdict === 'fits' ? <Tick size={15} /> : <Change size={15} />}
        {row.judged.short}
      </b>
    </ButtonBase>
  );
}

function Answer({ bench, c, mix }: { bench: Schemas['Bench']; c: Controller; mix: Mix | undefined }) {
  const { volume } = useUnits();
  const inside = (c.basis ?? bench.state).inside;
  if (!mix || !c.product) return <p className="title">Set a target, and the litres follow.</p>;
  const stale = c.mix.answer === undefined;
  const readyMix = c.product.form === 'ready_mix';
  return (
    <>
      <div className="answers" aria-live="polite">
        <AnswerNumber litres={inside.litres} spread={1.96 * inside.sd_l} caption="still inside" second />
        <AnswerNumber
          litres={mix.concentrate_l}
          spread={mix.litres_spread?.concentrate_l ?? null}
          caption={readyMix ? c.product.name : `concentrate, ${c.product.name}`}
          stale={stale}
          testId="concentrate"
        />
        <AnswerNumber
          litres={mix.water_l}
          spread={mix.litres_spread?.water_l ?? null}
          caption="demineralised water"
          stale={stale}
          testId="water"
        />
      </div>
      <AnswerBar
        capacityL={bench.loop.capacity_l}
        insideL={inside.litres}
        oldPercent={inside.old_percent}
        productL={mix.concentrate_l}
        waterL={mix.water_l}
        blendPercent={mix.blend_percent}
        loopPercent={mix.final.poured_percent}
        readyMix={readyMix}
      />
      {mix.feasible ? (
        <Plan mix={mix} name={c.product.name} volume={volume} />
      ) : (
        <OutOfReach mix={mix} volume={volume} insideL={inside.litres} />
      )}
      <Expect bench={bench} mix={mix} c={c} />
    </>
  );
}

function Plan({ mix, name, volume }: { mix: Mix; name: string; volume: (litres: number) => string }) {
  return (
    <>
      <p className="rulehead" style={{ marginTop: 6 }}>
        <b>Blend first, in a bucket:</b> {volume(mix.concentrate_l)} + {volume(mix.water_l)} ={' '}
        {number(mix.blend_percent, 0)} % in the bucket, {number(mix.final.poured_percent, 0)} % in the loop
      </p>
      <ol className="steps">
        <li>
          <span className="nr">1</span>
          <div>
            <b>{volume(mix.concentrate_l)} concentrate</b>
            <span>{name}, into the bucket</span>
          </div>
        </li>
        <li>
          <span className="nr">2</span>
          <div>
            <b>{volume(mix.water_l)} water</b>
            <span>demineralised, to the bucket</span>
          </div>
        </li>
        <li>
          <span className="nr">3</span>
          <div>
            <b>Pour all, run, bleed</b>
            <span>level to the cold mark</span>
          </div>
        </li>
      </ol>
    </>
  );
}

function OutOfReach({ mix, volume, insideL }: { mix: Mix; volume: (litres: number) => string; insideL: number }) {
  const { temperature } = useUnits();
  const reason = mix.reason;
  if (!reason) return null;
  const best = reason.best_freeze_c === null ? 'colder than any handbook tabulates' : temperature(reason.best_freeze_c);
  const weak = reason.code === 'too_much_inside';
  return (
    <div style={{ paddingTop: 10 }} data-testid="out-of-reach">
      <Refusal
        which={weak ? 'Target out of reach.' : 'What is inside is stronger than the target.'}
        allowed={
          weak
            ? `With ${volume(insideL)} inside, concentrate alone freezes at ${best}.`
            : `Filled up with water only it freezes at ${best}.`
        }
        todo={
          reason.drain_more_l === null
            ? 'Even an empty loop stays short: a stronger product is needed.'
            : `Get ${volume(reason.drain_more_l)} more out (block drain, tilt, blow out), or accept the best reachable.`
        }
      />
    </div>
  );
}

function Expect({ bench, mix, c }: { bench: Schemas['Bench']; mix: Mix; c: Controller }) {
  const { temperature } = useUnits();
  const coldest = bench.state.plan?.coldest_c ?? null;
  const safe = mix.likely_with_curve?.freeze_c_high;
  const short = coldest !== null && safe !== undefined && safe > coldest;
  const limit = c.choice?.judged.old_limit_percent ?? null;
  const old = (c.basis ?? bench.state).inside.finished_old_percent;
  const unknown = bench.state.inside.strength_percent === null;
  return (
    <div className="facts push">
      <div>
        <IntervalMark />
        <span>
          {mix.final.freeze_c !== null && <b>Expect {temperature(mix.final.freeze_c)}</b>}
          {mix.likely && (
            <>
              , likely {temperature(mix.likely.freeze_c_low, 0)} to {temperature(mix.likely.freeze_c_high, 0)}
            </>
          )}
          {safe !== undefined && <>; safe to about {temperature(safe, 0)} if the warmer handbook is right</>}.
          {short && coldest !== null && (
            <b className="hot"> Not safe for {temperature(coldest, 0)}: set a colder target, or measure closer.</b>
          )}
          {unknown && ' Strength inside was never read: counted as water.'}
        </span>
      </div>
      {limit !== null && old > limit && (
        <div data-testid="old-over-limit">
          <i className="tape" />
          <span>
            <b className="hot">
              The finished loop would hold {number(old, 1)} % of the old coolant, over the {number(limit, 0)} %
            </b>{' '}
            that may stay: rinse again first, or its life falls to the shorter.
          </span>
        </div>
      )}
      <div>
        <i className="tape" />
        <span>
          <b>Poison, and it tastes sweet.</b> Lid it, label it. Local rules decide where the old stuff goes.
        </span>
      </div>
    </div>
  );
}

function NoGlycol({ bench, state }: { bench: Schemas['Bench']; state: Schemas['LoopState'] }) {
  return (
    <>
      <div className="answers">
        <AnswerNumber
          litres={bench.loop.capacity_l - state.inside.litres}
          caption="glycol-free coolant, as it is"
          testId="concentrate"
        />
      </div>
      <div className="facts push">
        <div>
          <i className="tape" />
          <span>
            <b>No frost protection.</b> It freezes like water: keep the machine in, or drain it after each run.
          </span>
        </div>
      </div>
    </>
  );
}
