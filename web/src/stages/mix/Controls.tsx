import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { Schemas } from '../../api/client';
import { Change, Tick } from '../../controls/icons';
import { Refusal } from '../../controls/Refusal';
import { Segment } from '../../controls/Segment';
import { Stepper } from '../../controls/Stepper';
import { chemistry } from '../../language/names';
import type { MixController } from './useMixController';

interface Props {
  bench: Schemas['Bench'];
  c: MixController;
}

/** Target, litres out, and what to pour from. */
export function Controls({ bench, c }: Props) {
  const [others, showOthers] = useState(false);
  const fitting = bench.choices.filter((row) => row.judged.verdict !== 'no' && row.judged.verdict !== 'emergency_only');
  const rest = fitting.filter((row) => row !== c.choice);
  return (
    <>
      <div className="row">
        {c.glycol && (
          <Stepper
            name="target"
            label="Target"
            kind="temperature"
            typed={c.draft.target}
            refused={c.mix.refusal?.field === 'target_freeze_c' ? c.mix.refusal.message : undefined}
            onChange={(target) => c.change({ target })}
          />
        )}
        <Stepper
          name="out"
          label="Drained"
          kind="volume"
          step={0.1}
          decimals={1}
          typed={c.draft.out}
          refused={c.preview.refusal?.message}
          onChange={(out) => c.change({ out })}
        />
        <div className="field fill">
          <span className="lbl">Pour from</span>
          {c.choice && (
            <ProductOption row={c.choice} picked onPick={() => showOthers(!others)} more={rest.length} open={others} />
          )}
        </div>
      </div>
      {c.product?.form === 'ready_mix' && !bench.loop.low_conductivity && (
        <div className="row">
          <Segment
            label="Pour ready-mix"
            value={c.draft.dilute ? 'diluted' : 'as_it_is'}
            options={[
              { value: 'as_it_is', label: 'as it is' },
              { value: 'diluted', label: 'diluted with water' },
            ]}
            onChange={(next) => c.change({ dilute: next === 'diluted' })}
          />
        </div>
      )}
      {others && (
        <div className="pick" role="group" aria-label="Other suitable products" style={{ paddingTop: 8 }}>
          {rest.map((row) => (
            <ProductOption
              key={row.product.id}
              row={row}
              picked={false}
              onPick={() => {
                c.change({ productId: row.product.id, atHand: {} });
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
  onPick: () => void;
  more?: number;
  open?: boolean;
}

function ProductOption({ row, picked, onPick, more = 0, open = false }: OptionProps) {
  return (
    <ButtonBase
      className={`opt${picked ? ' picked' : ''}`}
      aria-expanded={more > 0 ? open : undefined}
      onClick={onPick}
    >
      <span>
        {row.product.name}
        {more > 0 && <u className="others">{more === 1 ? '1 other' : `${more} others`}</u>}
      </span>
      <small>{chemistry(row.product.family, row.product.base)}</small>
      <b>
        {row.judged.verdict === 'fits' ? <Tick size={15} /> : <Change size={15} />}
        {row.judged.short}
      </b>
    </ButtonBase>
  );
}
