import type { Schemas } from '../../api/client';
import { Segment } from '../../controls/Segment';
import { sayIn } from '../../language/say';
import { useUnits } from '../../units/UnitsContext';

type Answer = 'stays' | 'undone';

interface Props {
  shown: Schemas['EditShown'];
  answers: Record<string, Answer>;
  onAnswer: (entryId: string, answer: Answer) => void;
}

const ANSWERS = [
  { value: 'stays', label: 'Stays' },
  { value: 'undone', label: 'Undo it too' },
] as const;

/** What an edit changes, before it is kept; and of each entry that can no longer follow, whether it stays. */
export function Follows({ shown, answers, onAnswer }: Props) {
  const { system } = useUnits();
  const said = (message: Schemas['Message'] | null) => (message ? sayIn(message, system) : 'none');
  return (
    <>
      {shown.follows.length === 0 ? (
        <p role="status">No other figure changes.</p>
      ) : (
        <table className="follows" aria-live="polite">
          <caption>What follows from it</caption>
          <thead>
            <tr>
              <td />
              <th scope="col">before</th>
              <th scope="col">after</th>
            </tr>
          </thead>
          <tbody>
            {shown.follows.map((row) => (
              <tr key={row.name}>
                <th scope="row">{row.name}</th>
                <td className="ink2">{said(row.before)}</td>
                <td>
                  <b>{said(row.after)}</b>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {shown.cannot_follow.map((row) => (
        <div key={row.entry_id} className="cannot">
          <p>
            <b>Can no longer follow: {sayIn(row.said, system)}.</b> {row.why}
          </p>
          <Segment
            label={`Whether it stays: ${sayIn(row.said, system)}`}
            hideLabel
            value={answers[row.entry_id] ?? ''}
            options={ANSWERS}
            onChange={(given) => onAnswer(row.entry_id, given)}
          />
        </div>
      ))}
    </>
  );
}
