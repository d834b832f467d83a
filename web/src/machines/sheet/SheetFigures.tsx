import type { Schemas } from '../../api/client';
import { stateMarks } from '../../bench/marks';
import { Circuit } from '../../figures/Circuit';
import { FrostRule } from '../../figures/FrostRule';
import { useUnits } from '../../units/UnitsContext';

/** The loop and the frost rule as the job left them, small beside the words. */
export function SheetFigures({ bench }: { bench: Schemas['Bench'] }) {
  const { system } = useUnits();
  const { state, loop } = bench;
  const base = state.plan?.product.base ?? state.inside.base;
  const scale = bench.frost_scales.find((row) => row.glycol === (base === 'propylene' ? 'propylene' : 'ethylene'));
  return (
    <aside className="sheetfigures" aria-label="The loop and the frost rule">
      <Circuit
        system={system}
        layout={loop.layout}
        vessels={state.vessels}
        fresh={state.poured.product_l > 0}
        drainsNext={false}
      />
      {scale && base !== 'none' && (
        <FrostRule
          system={system}
          scale={scale}
          marks={{
            ...stateMarks(state, state.plan?.coldest_c ?? null),
            reading: state.proof?.freeze_c ?? null,
            target: state.plan?.target_freeze_c ?? null,
          }}
        />
      )}
    </aside>
  );
}
