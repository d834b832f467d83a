import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import { Plus } from '../../controls/icons';
import { QuantityField } from '../../controls/QuantityField';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { caughtFrom, type CaughtDraft, type DrainDraft } from './draft';

interface Props {
  drain: Schemas['DrainPlan'];
  draft: DrainDraft;
  /** What the server says, and of which container. */
  refused: { index: number; message: string } | null;
  /** From what stands there then: two quick presses never undo each other. */
  onChange: (next: (caught: CaughtDraft[]) => CaughtDraft[]) => void;
}

/** The loop's drain points in the order of the work, each with its hints and what was caught there. */
export function CaughtRows({ drain, draft, refused, onChange }: Props) {
  const { volume, system } = useUnits();
  const change = (index: number, part: Partial<CaughtDraft>) =>
    onChange((caught) => caught.map((row, i) => (i === index ? { ...row, ...part } : row)));
  return (
    <div className="caught">
      {drain.points.map((point) => (
        <section key={point.where} className="drainpoint" aria-label={`${point.name}, ${point.where}`}>
          <div className="where">
            <b>
              {!point.by_hand && <span className="nr">{point.where}</span>} {point.name}
            </b>
            <span className="ink2">
              {point.by_hand ? 'holds' : 'should give'} {volume(point.expected_l)}.{' '}
              {point.hints.map((hint) => sayIn(hint, system)).join(' ')}
            </span>
          </div>
          <div className="containers">
            {draft.caught.map((row, i) =>
              row.where === point.where ? (
                <Container
                  key={i}
                  name={`${point.where}-${i}`}
                  weighed={draft.mode === 'weighed'}
                  row={row}
                  refused={refused?.index === i ? refused.message : undefined}
                  onChange={(part) => change(i, part)}
                />
              ) : null,
            )}
          </div>
          <ButtonBase
            className="key small"
            aria-label={`Add container from ${point.name}`}
            onClick={() =>
              onChange((caught) => [
                ...caught,
                caughtFrom(point.where, caught.findLast((row) => row.where === point.where)?.tare),
              ])
            }
          >
            <Plus />
          </ButtonBase>
        </section>
      ))}
    </div>
  );
}

interface ContainerProps {
  name: string;
  weighed: boolean;
  row: CaughtDraft;
  refused: string | undefined;
  onChange: (part: Partial<CaughtDraft>) => void;
}

function Container({ name, weighed, row, refused, onChange }: ContainerProps) {
  if (!weighed)
    return (
      <QuantityField
        name={`marks-${name}`}
        label="By the marks"
        kind="volume"
        typed={row.marks}
        refused={refused}
        onChange={(marks) => onChange({ marks })}
      />
    );
  return (
    <>
      <QuantityField
        name={`gross-${name}`}
        label="Full"
        kind="weight"
        typed={row.gross}
        refused={refused}
        onChange={(gross) => onChange({ gross })}
      />
      <QuantityField
        name={`tare-${name}`}
        label="Empty"
        kind="weight"
        typed={row.tare}
        onChange={(tare) => onChange({ tare })}
      />
    </>
  );
}
