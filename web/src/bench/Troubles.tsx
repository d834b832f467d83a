import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { useAnswerRejudged } from '../api/queries';
import { Refusal } from '../controls/Refusal';
import { TextField } from '../controls/TextField';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';

/** Over the strips, loud: loops whose record cannot be worked out. The board stands all the same. */
export function BrokenRows({ rows }: { rows: Schemas['Broken'][] }) {
  return rows.map((row) => (
    <Link key={row.loop_id} className="bstrip broken" to={`/loops/${row.loop_id}/record`} data-testid="broken">
      <span className="nowplate hotplate">
        <span>
          <b>STOP</b>
          no result
        </span>
      </span>
      <span className="pl">
        <span className="plate">
          <span>{row.machine.fleet_number}</span>
        </span>
      </span>
      <span className="u">
        <b>{row.machine.kind}</b>
        <span>{row.loop_name}</span>
      </span>
      <span className="brokentext">
        <b>This record cannot be calculated.</b>
        <span>{row.message}</span>
      </span>
    </Link>
  ));
}

/** For a lead: signed jobs that today's rules judge worse, each a card that leads to its record. */
export function RejudgedCards({ rows }: { rows: Schemas['RejudgedOut'][] }) {
  const { system } = useUnits();
  return rows.map((row) => (
    <li key={row.id}>
      <Link to={`/loops/${row.loop_id}/record`} className="lanecard not" data-testid="rejudged">
        <b>{row.machine.fleet_number}</b>
        new verdict
        <br />
        <span className="ink2">{sayIn(row.act, system)}</span>
      </Link>
    </li>
  ));
}

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
