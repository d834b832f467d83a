import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import type { Schemas } from '../../../api/client';
import { shelfOptions } from '../../../api/queries';
import { NumberField } from '../../../controls/NumberField';
import { AgentOutOf } from '../../../bench/AgentOutOf';
import { sayIn } from '../../../language/say';
import { number } from '../../../units/units';
import { useUnits } from '../../../units/UnitsContext';
import type { DoseProps } from './props';

/** The additives of the depot, each with what to pour by the strips, or why nothing; then what really went in. */
export function Additives({ bench, draft, onChange }: DoseProps) {
  const { system } = useUnits();
  const shelf = useQuery(shelfOptions).data;
  /** Said before the loop is opened, where the depot keeps this additive on its shelf. */
  const short = (row: Schemas['AdditiveChoice']): string => {
    const own = (shelf?.cans ?? []).filter((can) => !can.emptied && can.agent_id === row.agent.id);
    const here = 1000 * own.reduce((sum, can) => sum + can.left_l, 0);
    if (!row.dose || own.length === 0 || here >= row.dose.ml) return '';
    return `Not enough on the shelf: ${number(here, 0)} ml here.`;
  };
  const chosen = bench.dosing.find((row) => row.agent.id === draft.agentId);
  if (bench.dosing.length === 0) return <p className="ink2">No additive is in Products yet. A lead adds one.</p>;
  return (
    <>
      <div className="additives" role="radiogroup" aria-label="Additive">
        {bench.dosing.map((row) => (
          <ButtonBase
            key={row.agent.id}
            className="opt"
            role="radio"
            aria-checked={row.agent.id === draft.agentId}
            aria-disabled={!row.dose?.ml}
            onClick={() => row.dose?.ml && onChange({ agentId: row.agent.id, canId: '' })}
          >
            <b>
              {row.agent.name}
              {row.dose !== null && row.dose.ml > 0 && `: ${number(row.dose.ml, 0)} ml`}
            </b>
            <small>
              {row.dose ? sayIn(row.dose.said, system) : row.refused} {short(row)}
            </small>
          </ButtonBase>
        ))}
      </div>
      {chosen && (
        <div className="row">
          <NumberField
            name="dose-ml"
            label="Poured"
            unit="ml"
            value={draft.doseMl}
            low={1}
            high={250000}
            onChange={(doseMl) => onChange({ doseMl })}
          />
          {chosen.dose && (
            <ButtonBase className="key small" onClick={() => onChange({ doseMl: String(chosen.dose?.ml ?? '') })}>
              {number(chosen.dose.ml, 0)} ml, as planned
            </ButtonBase>
          )}
          <AgentOutOf
            agentId={chosen.agent.id}
            picked={draft.canId}
            onPick={(canId, agentId) => onChange(agentId === draft.agentId ? { canId } : { canId, agentId })}
          />
        </div>
      )}
    </>
  );
}
