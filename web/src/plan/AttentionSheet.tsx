import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { useDepot } from '../api/useDepot';
import { NotHere } from '../controls/NotHere';
import { Refusal } from '../controls/Refusal';
import { TextField } from '../controls/TextField';
import { sayIn } from '../language/say';
import { timeOf } from '../language/time';
import { useUnits } from '../units/UnitsContext';
import { attentionOptions, useAnswer } from './usePlan';

type Row = Schemas['AttentionRow'];

const HEAD: Record<Row['kind'], string> = {
  against_advice: 'Against advice',
  new_verdict: 'New verdict',
  not_checked: 'Not checked',
};
const page = (row: Row) =>
  row.kind === 'not_checked'
    ? `/machines/${row.machine.id}`
    : `/loops/${row.loop_id}/${row.kind === 'new_verdict' ? 'record' : 'history'}`;

/** What waits for a lead: read it, answer it, done; what was answered in the last month is below. */
export function AttentionSheet() {
  const attention = useQuery(attentionOptions);
  if (attention.isError)
    return (
      <NotHere head="The list cannot be shown." text={attention.error.message} retry={() => void attention.refetch()} />
    );
  if (!attention.data)
    return (
      <p className="empty" role="status">
        Loading …
      </p>
    );
  const { waiting, done } = attention.data;
  return (
    <>
      <h2 className="mattershead">Waiting: {waiting.length}</h2>
      {waiting.length === 0 && <p className="empty">Nothing waits for a lead.</p>}
      <ul className="matters">
        {waiting.map((row) => (
          <Matter key={`${row.kind}${row.id}`} row={row} />
        ))}
      </ul>
      {done.length > 0 && (
        <>
          <h2 className="mattershead">Done in the last month: {done.length}</h2>
          <ul className="matters">
            {done.map((row) => (
              <Done key={`${row.kind}${row.id}`} row={row} />
            ))}
          </ul>
        </>
      )}
    </>
  );
}

function Said({ row }: { row: Row }) {
  const { system } = useUnits();
  const zone = useDepot()?.time_zone;
  return (
    <div>
      <p>
        <Link to={page(row)} className="plate">
          <span>{row.machine.fleet_number}</span>
        </Link>{' '}
        <b>{HEAD[row.kind]}</b>{' '}
        <span className="ink2">
          {row.loop_name}, {timeOf(row.at, zone)}
          {row.by && `, ${row.by}`}
        </span>
      </p>
      <p>
        {sayIn(row.said, system)} {row.act && sayIn(row.act, system)}
      </p>
    </div>
  );
}

function Matter({ row }: { row: Row }) {
  const [answer, setAnswer] = useState('');
  const give = useAnswer(row);
  const asks = row.kind === 'new_verdict'; // what is judged worse is answered with words
  const ready = !give.isPending && (!asks || answer.trim() !== '');
  return (
    <li data-testid="matter">
      <Said row={row} />
      <div className="answerrow">
        {row.kind !== 'not_checked' && (
          <TextField
            name={`answer-${row.id}`}
            label={asks ? 'What is done about it?' : 'What is done about it? (may stay empty)'}
            value={answer}
            max={300}
            wide
            onChange={setAnswer}
          />
        )}
        <ButtonBase className="key" aria-disabled={!ready} onClick={() => ready && give.mutate(answer.trim())}>
          {row.kind === 'not_checked' ? 'Checked' : 'Done'}
        </ButtonBase>
      </div>
      {give.error && <Refusal which="Not recorded." allowed={give.error.message} />}
    </li>
  );
}

function Done({ row }: { row: Row }) {
  const zone = useDepot()?.time_zone;
  return (
    <li>
      <Said row={row} />
      <p className="ink2">
        {row.answer || 'Seen.'} {row.answered_by}
        {row.answered_at && `, ${timeOf(row.answered_at, zone)}`}
      </p>
    </li>
  );
}
