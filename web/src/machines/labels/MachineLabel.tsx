import { useQuery } from '@tanstack/react-query';
import { labelOptions } from '../../api/queries';
import { safeText } from '../../units/units';
import { useUnits } from '../../units/UnitsContext';
import { QrCode } from '../../controls/QrCode';
import { sayIn } from '../../language/say';
import { dateOf } from '../../language/time';

/** The label on the machine: chemistry, strength, how far it protects, when it is due, and the loop's address as a code. */
export function MachineLabel({ loopId }: { loopId: number }) {
  const label = useQuery(labelOptions(loopId)).data;
  const { temperature, system } = useUnits();
  if (!label?.printable) return null; // rinse water or cleaner inside: only the tag is hung
  return (
    <article className="printlabel machinelabel" data-testid="machine-label">
      <div>
        <p className="plateword">{label.machine.fleet_number}</p>
        <h2>{label.loop_name}</h2>
        <p>
          <b>{label.product || 'Coolant'}</b>
          <br />
          {label.chemistry}
        </p>
        {label.freeze_c !== null && (
          <p className="large">
            {label.measured ? 'Reads' : 'By the litres'} {temperature(label.freeze_c)}
            {label.measured && label.safe_c !== null && `, protects to ${safeText(label.safe_c, system)}`}
          </p>
        )}
        <p>
          {label.strength_percent !== null && `${Math.round(label.strength_percent)} % by volume. `}
          {label.filled_on && `Filled ${dateOf(label.filled_on)}. `}
          {label.due_on && `Due ${dateOf(label.due_on)}.`}
        </p>
        {label.missing.length > 0 && (
          <p data-testid="label-missing">
            <b>Not done: {label.missing.map((row) => sayIn(row, system)).join(' ')}</b>
          </p>
        )}
        <p>Never mix. Never top up with plain water. Maker’s instructions and local rules first.</p>
      </div>
      <QrCode rows={label.qr} says={label.address} />
    </article>
  );
}
