import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import type { StageProps } from '../../bench/stage';
import { useTabDraft } from '../../bench/useTabDraft';
import { Segment } from '../../controls/Segment';
import { Stepper } from '../../controls/Stepper';
import { parseTyped, type Typed } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';
import { lastWater, topUpFact } from './topUp';

type What = 'blend' | 'water' | 'product';

/** Topped up while the air comes out: litres and what it was; both enter the mix. */
export function TopUpKeys({ bench, recorder }: StageProps) {
  const { system, volume } = useUnits();
  const { plan } = bench.state;
  // a hold, or the next step, draws the guided steps again: what is typed stays
  const { draft, change, settle } = useTabDraft<{ typed: Typed; what: What; water: Schemas['Water'] | '' }>(
    `temper.topup.${bench.loop.id}`,
    `after ${bench.state.fill?.pours.length}`,
    { typed: { text: '', unit: 'l' }, what: 'blend', water: '' },
  );
  const { typed, what } = draft;
  const water = draft.water || lastWater(bench);
  const litres = parseTyped(typed, 'volume', system, 0);
  const share = what === 'blend' ? (bench.state.top_up_share ?? 1) : what === 'product' ? 1 : 0;
  const ready = plan !== null && litres.ok && litres.base > 0 && (share >= 1 || water !== '');
  const record = () => {
    if (!ready) return;
    recorder.record([topUpFact(litres.base, share, plan.product, true, water || null)], settle);
  };
  return (
    <section className="topupkeys" aria-label="Top-up">
      <Stepper
        name="top-up"
        label="Topped up to the mark with"
        kind="volume"
        step={0.1}
        decimals={1}
        start={0}
        low={0}
        placeholder="0"
        typed={typed}
        onChange={(next) => change({ typed: next })}
      />
      <Segment
        label="of"
        value={what}
        options={[
          { value: 'blend', label: 'same mix' },
          { value: 'product', label: 'product' },
          { value: 'water', label: 'water' },
        ]}
        onChange={(next) => change({ what: next })}
      />
      {share < 1 && (
        <Segment
          label="Water"
          value={water}
          options={[
            { value: 'demineralised', label: 'demineralised' },
            { value: 'tap', label: 'tap' },
          ]}
          onChange={(next) => change({ water: next })}
        />
      )}
      <ButtonBase className="key" onClick={record} aria-disabled={!ready || recorder.busy}>
        {ready ? `Record ${volume(litres.base)}` : 'Record'}
      </ButtonBase>
    </section>
  );
}
