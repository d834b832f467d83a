import ButtonBase from '@mui/material/ButtonBase';
import type { Schemas } from '../../api/client';
import { Change, Cross, Tick } from '../../controls/icons';
import { Segment } from '../../controls/Segment';
import { TextField } from '../../controls/TextField';
import { useUnits } from '../../units/UnitsContext';
import { sayIn } from '../../language/say';
import { JOB_TYPE, JOB_TYPE_MEANS } from '../../language/names';
import type { TestDraft } from './draft';

type JobType = Schemas['JobType'];
const JOB_TYPES = Object.keys(JOB_TYPE) as JobType[];
const LEFT_OUT = ['not needed now', 'no tool here', 'no time', 'done elsewhere'].map((value) => ({
  value,
  label: value,
}));

interface Props {
  advice: Schemas['Advice'];
  /** Names of the checks that were asked for and not made. */
  missing: string[];
  draft: TestDraft;
  /** The number of the finding that a reason points to, as it stands in the list above. */
  finding: (entryId: string) => number | null;
  onChange: (part: Partial<TestDraft>) => void;
}

/** What Temper advises and why; the person decides. */
export function DecidePanel({ advice, missing, draft, finding, onChange }: Props) {
  const job_type = draft.job_type ?? advice.job_type;
  const against = job_type !== advice.job_type;
  return (
    <div className="decidepanel">
      <AdviceBlock advice={advice} finding={finding} />
      <div className="jobtypes" role="radiogroup" aria-label="Job type">
        {JOB_TYPES.map((value) => (
          <ButtonBase
            key={value}
            className="opt"
            role="radio"
            aria-checked={job_type === value}
            onClick={() => onChange({ job_type: value })}
          >
            <b>
              {JOB_TYPE[value]}
              {value === advice.job_type && <small className="advised">advised</small>}
            </b>
            <small>{JOB_TYPE_MEANS[value]}</small>
          </ButtonBase>
        ))}
      </div>
      {against && (
        <TextField
          name="against"
          label="Against advice: why? A lead will read it."
          value={draft.reason}
          max={300}
          wide
          onChange={(reason) => onChange({ reason })}
        />
      )}
      {missing.length > 0 && (
        <div className="leftout">
          <span>
            <b>Not checked:</b> {missing.join(', ').toLowerCase()}.
          </span>
          <Segment
            label="Because"
            hideLabel
            value={draft.leftOut}
            options={LEFT_OUT}
            onChange={(leftOut) => onChange({ leftOut })}
          />
        </div>
      )}
    </div>
  );
}

/** The advice in one line, then its reasons, the deciding ones first; each says where it was seen. */
function AdviceBlock({ advice, finding }: Pick<Props, 'advice' | 'finding'>) {
  const { system } = useUnits();
  return (
    <section className={`advice${advice.stop ? ' stop' : ''}`} aria-label="Advice" data-testid="advice">
      <p className="said">
        {advice.stop && <i className="tape" />}
        <b>{advice.stop ? sayIn(advice.said, system) : `${JOB_TYPE[advice.job_type]}.`}</b>
        {!advice.stop && ` ${sayIn(advice.said, system)}`}
      </p>
      <ul className="reasons">
        {advice.reasons.map((reason) => (
          <li key={`${reason.code} ${reason.entry_id ?? ''} ${reason.said.sentence}`}>
            <Force weight={reason.weight} />
            <span>
              {sayIn(reason.said, system)}
              {reason.entry_id && finding(reason.entry_id) !== null && (
                <span className="nr from" aria-label={`finding ${finding(reason.entry_id)}`}>
                  {finding(reason.entry_id)}
                </span>
              )}
            </span>
          </li>
        ))}
        {advice.tests.map((test) => (
          <li key={test.check}>
            <span className="askmark">?</span>
            <span>
              <b>Next test, {test.name.toLowerCase()}:</b> {sayIn(test.why, system)}.
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Stops and decides are crosses and arrows; a hint is open; what speaks for leaving it is a tick. */
function Force({ weight }: { weight: number }) {
  if (weight === 3) return <Cross size={17} />;
  if (weight === 2) return <Change size={17} />;
  if (weight === 0) return <Tick size={17} />;
  return <span className="hintmark" aria-label="hint" />;
}
