import { Link } from 'react-router';
import type { Schemas } from '../../api/client';
import { Check } from '../../controls/Check';
import { NumberField } from '../../controls/NumberField';
import { QuantityField } from '../../controls/QuantityField';
import { TextField } from '../../controls/TextField';
import { Segment } from '../../controls/Segment';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { WASTE } from '../../language/names';
import type { FlushDraft } from './draft';

interface Props {
  bench: Schemas['Bench'];
  flush: Schemas['FlushState'];
  draft: FlushDraft;
  onChange: (part: Partial<FlushDraft>) => void;
}

/** Litres that drained by kind, and the containers they are in. */
export function WastePanel({ bench, flush, draft, onChange }: Props) {
  const { volume, system } = useUnits();
  const holds = bench.policy.waste_container_l ?? 20;
  return (
    <div className="wastepanel">
      <table className="ways">
        <caption className="visually-hidden">Waste of this job</caption>
        <tbody>
          {flush.waste.map((row) => (
            <tr key={row.kind}>
              <th scope="row">{WASTE[row.kind]}</th>
              <td>{volume(row.out_l)} drained</td>
              <td>
                {row.containers > 0
                  ? `${volume(row.kept_l)} in ${row.containers} ${row.containers === 1 ? 'container' : 'containers'}`
                  : 'no container yet'}
              </td>
              <td>{row.more > 0 && `${row.more} more of ${volume(holds)}`}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="row">
        <Segment
          label="Filled, closed and labelled"
          value={draft.waste}
          options={flush.waste.map((row) => ({ value: row.kind, label: WASTE[row.kind] }))}
          onChange={(waste) => onChange({ waste, reuse: false })}
        />
        <QuantityField
          name="waste-l"
          label="Litres in all"
          kind="volume"
          typed={draft.wasteL}
          onChange={(wasteL) => onChange({ wasteL })}
        />
        <NumberField
          name="containers"
          label="Containers"
          unit=""
          value={draft.containers}
          low={1}
          high={500}
          onChange={(containers) => onChange({ containers })}
        />
      </div>
      <TextField
        name="stands"
        label="Kept at"
        value={draft.stands}
        max={60}
        onChange={(stands) => onChange({ stands })}
      />
      {draft.waste === 'old_coolant' &&
        (flush.no_reuse.length === 0 ? (
          <Check
            label="Kept for reuse"
            detail="read, clean, in a clean container"
            checked={draft.reuse}
            onChange={(reuse) => onChange({ reuse })}
          />
        ) : (
          <p className="ink2">{flush.no_reuse.map((said) => sayIn(said, system)).join(' ')}</p>
        ))}
      <p>
        <Link to={`/loops/${bench.loop.id}/labels`}>Labels to print</Link>. Rinse water is waste too. Local rules decide
        where it goes; never on the ground, never in a drain.
      </p>
    </div>
  );
}
