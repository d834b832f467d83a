import { useQuery } from '@tanstack/react-query';
import { useCallback } from 'react';
import { shelfOptions } from '../../api/queries';
import { useScanClaim } from '../../controls/scanClaim';
import { useUnits } from '../../units/UnitsContext';

interface Props {
  /** The coolant that is poured, by its number. */
  productId: string;
  picked: string;
  onPick: (canId: string, productId: string | null) => void;
}

/** Out of which can: chosen, or scanned at the can; not said is allowed, then its lot cannot be traced. */
export function OutOf({ productId, picked, onPick }: Props) {
  const shelf = useQuery(shelfOptions).data;
  const { volume } = useUnits();
  const cans = (shelf?.cans ?? []).filter(
    (can) => !can.emptied && (can.kind === 'coolant' || (can.kind === 'recovered' && can.strength_percent !== null)),
  );
  const scan = useCallback(
    (code: string) => {
      const number = /^\/shelf\/(\d+)$/.exec(code)?.[1];
      const can = cans.find((row) =>
        number ? row.id === Number(number) : row.number.toLowerCase() === code.toLowerCase(),
      );
      if (!can) return false;
      onPick(String(can.id), can.product_id === null ? null : String(can.product_id));
      return true;
    },
    [cans, onPick],
  );
  useScanClaim(scan);
  const own = cans.filter((can) => String(can.product_id) === productId);
  if (own.length === 0) return null;
  const now = own.find((can) => String(can.id) === picked);
  return (
    <label className="othercan" data-testid="out-of">
      Out of (choose or scan){' '}
      <select value={now ? picked : ''} onChange={(event) => onPick(event.target.value, null)} name="out-of">
        <option value="">not said</option>
        {own.map((can) => (
          <option key={can.id} value={can.id}>
            {can.number}
            {can.kind === 'recovered' && ', recovered'}
            {can.lot && `, lot ${can.lot}`}, {volume(can.left_l)} left
          </option>
        ))}
      </select>
    </label>
  );
}
