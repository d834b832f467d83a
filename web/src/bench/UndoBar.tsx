import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { v4 as uuid } from 'uuid';
import { api, type Refusal, type Schemas, unwrap } from '../api/client';
import { benchOptions, type EntryIn } from '../api/queries';
import { forgetUndo, UNDO_MS, type Undoable, useUndo } from './undo';
import './undo.css';

/** For ten seconds after something was recorded: undo it, on whatever page is then open. */
export function UndoBar() {
  const offer = useUndo();
  const client = useQueryClient();
  const undo = useMutation<Schemas['Bench'], Refusal, Undoable>({
    mutationFn: ({ loopId, between, entryIds }) =>
      unwrap(
        api.POST('/api/loops/{loop_id}/entries', {
          params: { path: { loop_id: loopId } },
          body: { entries: entryIds.map(taking), seen: null, between },
        }),
      ),
    onSuccess: async (bench, { loopId }) => {
      forgetUndo();
      await client.cancelQueries(benchOptions(loopId));
      client.setQueryData(benchOptions(loopId).queryKey, bench);
      await client.invalidateQueries();
    },
  });
  if (!offer) return null;
  return (
    <div className="undobar" key={offer.at}>
      <p role="status">{undo.error ? undo.error.message : 'Recorded.'}</p>
      {!undo.error && (
        <ButtonBase
          className="key"
          aria-disabled={undo.isPending}
          onClick={() => !undo.isPending && undo.mutate(offer)}
        >
          Undo <Seconds from={offer.at} />
        </ButtonBase>
      )}
    </div>
  );
}

const taking = (entry_id: string): EntryIn => ({ id: uuid(), kind: 'voided', facts: { entry_id, reason: '' } });

function Seconds({ from }: { from: number }) {
  const [now, tick] = useState(from);
  useEffect(() => {
    const timer = setInterval(() => tick(Date.now()), 500);
    return () => clearInterval(timer);
  }, []);
  return <span aria-hidden="true">&nbsp;{Math.max(0, Math.ceil((from + UNDO_MS - now) / 1000))} s</span>;
}
