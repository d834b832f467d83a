import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import type { Recorder } from '../../bench/useRecorder';
import { NumberField } from '../../controls/NumberField';
import { QuantityField } from '../../controls/QuantityField';
import { Segment } from '../../controls/Segment';
import { number } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { lengthText } from '../../clocks/clock';
import { sayIn } from '../../language/say';
import { METHOD } from '../../language/names';
import { AgentOutOf } from '../../bench/AgentOutOf';
import { Cautions } from '../../bench/Cautions';
import { type FlushDraft, runMinutes, sweeps } from './draft';

interface Props {
  bench: Schemas['Bench'];
  draft: FlushDraft;
  recorder: Recorder;
  onChange: (part: Partial<FlushDraft>) => void;
}

const METHODS = (Object.keys(METHOD) as Schemas['Method'][]).map((value) => ({ value, label: METHOD[value] }));

/** The next round: how, with which water, with what in it. */
export function RoundPanel({ bench, draft, recorder, onChange }: Props) {
  const { volume, system } = useUnits();
  const waters = bench.flushing?.waters ?? [];
  const water = waters.find((row) => String(row.id) === draft.water);
  const method = bench.flushing?.methods.find((row) => row.method === draft.method);
  const dry = draft.method === 'blow_out';
  return (
    <div className="roundpanel">
      {draft.method !== 'fill_run_drain' && draft.method !== 'cleaner' && <Cautions bench={bench} at="flush" />}
      <div className="row">
        <Segment label="How" value={draft.method} options={METHODS} onChange={(method) => onChange({ method })} />
      </div>
      {!dry && (
        <div className="row">
          <Segment
            label="Water"
            value={draft.water}
            options={waters.map((row) => ({ value: String(row.id), label: row.name }))}
            onChange={(value) => onChange({ water: value })}
          />
        </div>
      )}
      {draft.method === 'cleaner' && <Cleaner bench={bench} draft={draft} onChange={onChange} />}
      {sweeps(bench, draft) && <Through bench={bench} draft={draft} onChange={onChange} />}
      <p className="ink2">
        {draft.method === 'fill_run_drain' &&
          `Fill to the cold mark (${volume(bench.state.poured.room_l)}), heater on full, run until both hoses are hot. 3 minutes do not open the thermostat. Never pour cold water into a hot block. `}
        {method?.note && `${sayIn(method.note, system)} `}
        {water &&
          water.judged.verdict !== 'fit' &&
          !dry &&
          `${water.name}: early rounds only, the last is demineralised. `}
      </p>
      {draft.method === 'hose_flow' && (
        <ButtonBase
          className="key small"
          onClick={() =>
            recorder.record([
              {
                kind: 'clock_started',
                facts: { clock: 'hose_flow', minutes: bench.policy.hose_flow_high_min ?? 15 },
              },
            ])
          }
        >
          Start a clock of {number(bench.policy.hose_flow_high_min ?? 15, 0)} min
        </ButtonBase>
      )}
    </div>
  );
}

type Part = Omit<Props, 'recorder'>;

/** Dose and run time by the label; the label's limit rules. */
function Cleaner({ bench, draft, onChange }: Part) {
  const cleaners = bench.flushing?.cleaners ?? [];
  const choice = cleaners.find((row) => String(row.agent.id) === draft.agent);
  if (!choice) return <p className="ink2">No cleaner in Products: a lead can add one.</p>;
  const { agent, dose } = choice;
  const part = dose.exact_ml / agent.container_ml;
  return (
    <>
      <div className="row">
        <Segment
          label="Cleaner"
          value={draft.agent}
          options={cleaners.map((row) => ({ value: String(row.agent.id), label: row.agent.name }))}
          onChange={(value) => {
            const next = cleaners.find((row) => String(row.agent.id) === value);
            onChange({ agent: value, canId: '', agentMl: next ? String(Math.round(next.dose.exact_ml)) : '' });
          }}
        />
        <NumberField
          name="agent-ml"
          label="Poured"
          unit="ml"
          value={draft.agentMl}
          low={1}
          high={250_000}
          onChange={(agentMl) => onChange({ agentMl })}
        />
        <AgentOutOf agentId={agent.id} picked={draft.canId} onPick={(canId) => onChange({ canId })} />
        <Segment
          label="Run"
          value={draft.run}
          options={[
            { value: 'light', label: `light, ${lengthText(runMinutes(choice, 'light') * 60_000)}` },
            { value: 'heavy', label: `heavy, ${lengthText(runMinutes(choice, 'heavy') * 60_000)}` },
          ]}
          onChange={(run) => onChange({ run })}
        />
      </div>
      <p data-testid="dose">
        <b>
          {dose.containers} {dose.containers === 1 ? 'bottle' : 'bottles'} by its label
        </b>{' '}
        ({number(part, 1)} exactly, {number(dose.exact_ml, 0)} ml). Longest time inside{' '}
        {lengthText(choice.runs.limit_min * 60_000)}, never overnight. No frost protection. Wear gloves and glasses.
      </p>
    </>
  );
}

/** Litres through each vessel; for a blow-out what came out of it. */
function Through({ bench, draft, onChange }: Part) {
  const { volume } = useUnits();
  const dry = draft.method === 'blow_out';
  const vessels = bench.state.vessels.filter((vessel) => vessel.kind !== 'hoses' && (!dry || vessel.litres > 0.05));
  return (
    <>
      {draft.method === 'parts' && (
        <div className="row">
          <Segment
            label="Direction"
            value={draft.reversed ? 'reversed' : 'forward'}
            options={[
              { value: 'reversed', label: 'first against the flow' },
              { value: 'forward', label: 'only with the flow' },
            ]}
            onChange={(way) => onChange({ reversed: way === 'reversed' })}
          />
        </div>
      )}
      <div className="row">
        {vessels.map((vessel) => (
          <QuantityField
            key={vessel.id}
            name={`through-${vessel.id}`}
            label={`${dry ? 'out of' : 'through'} ${vessel.name} (${volume(dry ? vessel.litres : vessel.volume_l)})`}
            kind="volume"
            typed={draft.litres[vessel.id] ?? { text: '', unit: 'l' }}
            onChange={(typed) => onChange({ litres: { ...draft.litres, [vessel.id]: typed } })}
          />
        ))}
      </div>
    </>
  );
}
