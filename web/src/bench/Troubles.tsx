import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { useAnswerRejudged } from '../api/queries';
import { Refusal } from '../controls/Refusal';
import { TextField } from '../controls/TextField';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';

/** On its record: what is worse, what to do, and what is done about it. */
export function RejudgedRow({ row }: { row: Schemas['RejudgedOut'] }) {
  const { system } = useUnits();
  const [answer, setAnswer] = useState('');
  const answering = useAnswerRejudged();
  const ready = answer.trim() !== '' && !answering.isPending;
  return (
    <Refusal which={sayIn(row.said, system)} allowed={sayIn(row.act, system)}>
      <div className="row" style={{ alignItems: 'flex-end', gap: 12 }} data-testid="rejudged-row">
        <TextField
          name={`answer-${row.id}`}
          label="What did you do about it?"
          value={answer}
          max={300}
          wide
          onChange={setAnswer}
        />
        <ButtonBase
          className="key"
          aria-disabled={!ready}
          onClick={() => ready && answering.mutate({ id: row.id, answer: answer.trim() })}
        >
          Answered
        </ButtonBase>
      </div>
      {answering.error && <p>{answering.error.message}</p>}
    </Refusal>
  );
}
