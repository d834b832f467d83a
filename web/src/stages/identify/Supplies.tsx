import type { Schemas } from '../../api/client';
import { Cross, Tick } from '../../controls/icons';
import { useUnits } from '../../units/UnitsContext';

/** Everything the job will need with this coolant, before anything is opened: what is here, what is short, what nobody counts. */
export function Supplies({ choice }: { choice: Schemas['Choice'] }) {
  const { volume } = useUnits();
  if (choice.supplies.length === 0) return null;
  const short = choice.supplies.filter((row) => row.short_l !== null);
  return (
    <section className="supplies" aria-label="Supplies" data-testid="supplies">
      <h2 className={short.length > 0 ? 'hot' : ''}>
        {short.length > 0
          ? `Not enough on the shelf: ${short.map((row) => row.name).join(', ')}`
          : 'This job will need'}
      </h2>
      <ul>
        {choice.supplies.map((row) => (
          <li key={`${row.kind} ${row.name}`} className={row.short_l !== null ? 'hot' : ''}>
            {row.short_l !== null ? <Cross /> : row.have_l !== null ? <Tick size={17} /> : <span aria-hidden />}
            <span>
              <b>
                {row.need_l !== null ? volume(row.need_l) : row.need_pieces}{' '}
                {row.kind === 'coolant' || row.kind === 'cleaner' ? row.name : ''}
              </b>{' '}
              {row.kind === 'coolant' || row.kind === 'cleaner' ? '' : row.name}
              {row.short_l !== null && row.have_l !== null
                ? `: ${volume(row.have_l)} here, ${volume(row.short_l)} short`
                : row.have_l !== null
                  ? `: ${volume(row.have_l)} here`
                  : row.need_l !== null
                    ? ': not counted'
                    : ''}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}
