import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../api/client';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { STAGE } from '../language/names';
import { NowMark, Ring, Tick } from './icons';

type Stage = Schemas['Stage'];

interface Props {
  stages: Schemas['StageState'][];
  looking: Stage | null;
  onLook: (stage: Stage | null) => void;
}

const MARK: Record<Schemas['Status'], () => React.ReactNode> = {
  done: () => <Tick />,
  now: () => <NowMark />,
  ahead: () => <Ring />,
  choice: () => <Ring dashed />,
};

/** The stages of the job; a done one can be pressed to look at what was recorded. What is ahead is no button. */
export function StageLine({ stages, looking, onLook }: Props) {
  const { system } = useUnits();
  const found = stages.findIndex((row) => row.status === 'now');
  const now = found >= 0 ? found : stages.length - 1; // once signed off, a phone shows the last ones
  return (
    <nav className="stages" aria-label="Stages">
      <ol className="stageline">
        {stages.map(({ stage, status, result }, i) => {
          const far = Math.abs(i - Math.min(Math.max(now, 1), stages.length - 2)) > 1;
          const inside = (
            <>
              {MARK[status]()}
              <span className="n">{STAGE[stage]}</span>
              <span className="r">{result ? sayIn(result, system) : ''}</span>
            </>
          );
          const pressable = status === 'done' || status === 'choice' || (status === 'now' && looking !== null);
          return (
            <li
              key={stage}
              className={`${status === 'choice' ? 'optional' : status}${far ? ' far' : ''}${looking === stage ? ' looking' : ''}`}
              aria-current={status === 'now' ? 'step' : undefined}
            >
              {pressable ? (
                <ButtonBase className="st" onClick={() => onLook(status === 'now' || looking === stage ? null : stage)}>
                  <span>{inside}</span>
                </ButtonBase>
              ) : (
                <div className="st">
                  <span>{inside}</span>
                </div>
              )}
            </li>
          );
        })}
      </ol>
    </nav>
  );
}
