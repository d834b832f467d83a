import { NumberField } from '../controls/NumberField';
import { freshId, type LayoutForm } from './layoutForm';
import { RowTable } from './RowTable';
import { BLEEDER, NODE_KIND, VIA } from '../language/names';

const options = (names: Record<string, string>) => Object.entries(names).map(([value, label]) => ({ value, label }));
const COLUMNS = [
  { value: '0', label: 'left' },
  { value: '1', label: 'middle' },
  { value: '2', label: 'right' },
];

interface Props {
  form: LayoutForm;
  onChange: (part: Partial<LayoutForm>) => void;
}

/** How a loop is built: the drawing beside it follows. Litres up to the cold mark, heights above the floor. */
export function LayoutEditor({ form, onChange }: Props) {
  const vessels = form.nodes.map((row) => ({ value: row.id ?? '', label: row.name ?? '' }));
  const first = vessels[0]?.value ?? '';
  return (
    <div className="layouteditor">
      <RowTable
        name="Vessels"
        says="litres to the cold mark add up to the capacity; the rest is hoses"
        columns={[
          { key: 'name', label: 'name', wide: true },
          { key: 'kind', label: 'kind', options: options(NODE_KIND) },
          { key: 'volume', label: 'L' },
          { key: 'bottom', label: 'bottom mm' },
          { key: 'top', label: 'top mm' },
          { key: 'column', label: 'drawn', options: COLUMNS },
        ]}
        rows={form.nodes}
        fresh={() => ({
          id: freshId(form.nodes),
          name: '',
          kind: 'block',
          volume: '',
          bottom: '',
          top: '',
          column: '0',
        })}
        onChange={(nodes) => onChange({ nodes })}
      />
      <NumberField
        name="tankTotal"
        label="Tank filled to the brim"
        unit="L"
        value={form.tankTotal}
        low={0}
        high={5000}
        onChange={(tankTotal) => onChange({ tankTotal })}
      />
      <RowTable
        name="Hoses"
        says="from vessel to vessel, and what is fitted in them"
        columns={[
          { key: 'start', label: 'from', options: vessels },
          { key: 'end', label: 'to', options: vessels },
          { key: 'at', label: 'at mm' },
          { key: 'via', label: 'through', options: options(VIA) },
        ]}
        rows={form.pipes}
        fresh={() => ({ start: first, end: vessels[1]?.value ?? first, at: '', via: 'none' })}
        onChange={(pipes) => onChange({ pipes })}
      />
      <RowTable
        name="Drains"
        says="how much each empties, in percent of each vessel"
        columns={[
          { key: 'letter', label: 'letter' },
          { key: 'node', label: 'at', options: vessels },
          { key: 'height', label: 'at mm' },
          { key: 'share', label: 'empties, such as “Radiator 95, Tank 100”', wide: true },
        ]}
        rows={form.drains}
        fresh={() => ({
          letter: String.fromCharCode(65 + form.drains.length),
          node: first,
          height: '',
          share: '',
        })}
        onChange={(drains) => onChange({ drains })}
      />
      <RowTable
        name="Bleeders"
        says="in the order they are opened"
        columns={[
          { key: 'node', label: 'at', options: vessels },
          { key: 'height', label: 'at mm' },
          { key: 'kind', label: 'kind', options: options(BLEEDER) },
        ]}
        rows={form.bleeders}
        fresh={() => ({ node: first, height: '', kind: 'screw' })}
        onChange={(bleeders) => onChange({ bleeders })}
      />
      <RowTable
        name="Fill points"
        says="in the order they are filled"
        columns={[
          { key: 'node', label: 'at', options: vessels },
          { key: 'name', label: 'called' },
        ]}
        rows={form.fillPoints}
        fresh={() => ({ node: first, name: 'plug' })}
        onChange={(fillPoints) => onChange({ fillPoints })}
      />
    </div>
  );
}
