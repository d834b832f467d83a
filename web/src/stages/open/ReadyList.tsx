import type { Schemas } from '../../api/client';
import { AllCheck } from '../../controls/AllCheck';
import { Check } from '../../controls/Check';

interface Props {
  asked: Schemas['Asked'][];
  ready: Schemas['Ready'][];
  onChange: (ready: Schemas['Ready'][]) => void;
}

/** What has to stand ready, each by a tap; or all of it by one, which can be unticked again. */
export function ReadyList({ asked, ready, onChange }: Props) {
  const rows = asked.map((row) => row.ready);
  return (
    <section className="ready" aria-label="Ready">
      {asked.map(({ ready: row, name }) => (
        <Check
          key={row}
          label={name}
          checked={ready.includes(row)}
          onChange={(on) => onChange(on ? [...ready, row] : ready.filter((one) => one !== row))}
        />
      ))}
      <AllCheck label="All ready" rows={rows} picked={ready} onChange={onChange} />
    </section>
  );
}
