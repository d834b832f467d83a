import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { shelfOptions } from '../api/queries';
import { useScanClaim } from '../controls/scanClaim';
import { useUnits } from '../units/UnitsContext';

interface OutOfProps {
  agentId: number;
  picked: string;
  onPick: (canId: string, agentId: number) => void;
}

/** Out of which container of the cleaner or additive: chosen, or scanned at it; not said is allowed. */
export function AgentOutOf({ agentId, picked, onPick }: OutOfProps) {
  const shelf = useQuery(shelfOptions).data;
  const { volume } = useUnits();
  const own = (shelf?.cans ?? []).filter((can) => !can.emptied && can.agent_id === agentId);
  const scan = useCallback(
    (code: string) => {
      const number = /^\/shelf\/(\d+)$/.exec(code)?.[1];
      const can = own.find((row) => (number ? row.id === Number(number) : row.number === code.toUpperCase()));
      if (can) onPick(String(can.id), agentId);
      return can !== undefined;
    },
    [own, onPick, agentId],
  );
  useScanClaim(scan);
  if (own.length === 0) return null;
  return (
    <label className="othercan" data-testid="agent-out-of">
      Out of (choose or scan){' '}
      <select value={picked} onChange={(event) => onPick(event.target.value, agentId)} name="agent-out-of">
        <option value="">not said</option>
        {own.map((can) => (
          <option key={can.id} value={can.id}>
            {can.number}
            {can.lot && `, lot ${can.lot}`}, {volume(can.left_l)} left
          </option>
        ))}
      </select>
    </label>
  );
}
