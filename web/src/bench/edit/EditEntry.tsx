import ButtonBase from '@mui/material/ButtonBase';
import Dialog from '@mui/material/Dialog';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useId, useRef, useState } from 'react';
import { v4 as uuid } from 'uuid';
import { useSettled } from '../../api/calculators';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../../api/client';
import { EditFields } from '../../controls/EditFields';
import { changesOf, type Value } from '../../controls/editValues';
import { GoPlate } from '../../controls/GoPlate';
import { Refusal } from '../../controls/Refusal';
import { sayIn } from '../../language/say';
import { useUnits } from '../../units/UnitsContext';
import { offerUndo } from '../undo';
import { Follows } from './Follows';
import './edit.css';

interface Props {
  loopId: number;
  entryId: string;
  /** Recorded without a job. */
  between: boolean;
  /** The last entry that this screen has seen. */
  seen: string | null;
  onClose: () => void;
}

const SETTLE_MS = 350;

/** One entry of the record is edited or undone: the figures as they were, the new ones, and what follows from them. */
export default function EditEntry({ loopId, entryId, between, seen, onClose }: Props) {
  const id = useId();
  const { system } = useUnits();
  const client = useQueryClient();
  const editId = useRef(uuid());
  const path = { loop_id: loopId, entry_id: entryId };
  const form = useQuery({
    queryKey: ['entry', loopId, entryId, seen],
    queryFn: ({ signal }) => unwrap(api.GET('/api/loops/{loop_id}/entries/{entry_id}', { params: { path }, signal })),
    retry: false,
  });
  const [values, setValues] = useState<Record<string, Value>>({});
  const [undo, setUndo] = useState(false);
  const [answers, answer] = useState<Record<string, 'stays' | 'undone'>>({});
  const changes = form.data ? changesOf(form.data.fields, values, system) : [];
  const undone = Object.keys(answers).filter((key) => answers[key] === 'undone');
  const kept = Object.keys(answers).filter((key) => answers[key] === 'stays');
  const asked = { changes: undo ? [] : (changes ?? []), undo, undone };
  const ready = undo || (changes !== null && changes.length > 0);
  const settled = useSettled(JSON.stringify(asked), SETTLE_MS);
  const shown = useQuery({
    queryKey: ['entry', loopId, entryId, seen, settled],
    queryFn: ({ signal }) =>
      unwrap(
        api.POST('/api/loops/{loop_id}/entries/{entry_id}/preview', {
          params: { path },
          body: { id: editId.current, ...(JSON.parse(settled) as typeof asked) },
          signal,
        }),
      ),
    enabled: ready && settled === JSON.stringify(asked),
    retry: false,
  });
  const fresh = ready && settled === JSON.stringify(asked) && shown.data !== undefined && !shown.isError;
  const open = fresh ? shown.data.cannot_follow.filter((row) => answers[row.entry_id] === undefined) : [];
  const keep = useMutation<Schemas['EditKept'], RefusalError>({
    mutationFn: () =>
      unwrap(
        api.PUT('/api/loops/{loop_id}/entries/{entry_id}', {
          params: { path },
          body: { id: editId.current, ...asked, kept, seen },
        }),
      ),
    onSuccess: async ({ undo: entry }) => {
      if (entry) offerUndo({ loopId, between, entryIds: [entry] });
      onClose();
      await client.invalidateQueries();
    },
  });
  const waits =
    changes === null
      ? 'Fix the marked fields'
      : !ready
        ? form.data?.fields.length === 0
          ? 'Undo the entry, or leave it'
          : 'Change a figure, or undo the entry'
        : shown.isError
          ? 'Not possible'
          : open.length > 0
            ? 'Stays, or undone?'
            : null;
  return (
    <Dialog open onClose={onClose} fullWidth maxWidth="md" className="editdialog" aria-labelledby={id}>
      <h2 id={id} className="title">
        Edit entry
      </h2>
      {form.isError && <Refusal which="This entry cannot be edited." allowed={form.error.message} />}
      {form.isPending && <p role="status">Loading …</p>}
      {form.data && (
        <>
          <p>
            As it was:{' '}
            {undo || (fresh && shown.data.said) ? (
              <s>{sayIn(form.data.said, system)}</s>
            ) : (
              <b>{sayIn(form.data.said, system)}</b>
            )}
            {fresh && shown.data.said && !undo && (
              <>
                <br />
                New: <b>{sayIn(shown.data.said, system)}</b>
              </>
            )}
          </p>
          {!undo && (
            <EditFields
              fields={form.data.fields}
              values={values}
              onChange={(field, value) => setValues((before) => ({ ...before, [field]: value }))}
            />
          )}
          {form.data.fields.length === 0 && !undo && (
            <p>This entry cannot be edited. Undo it, then record the right one.</p>
          )}
          {ready && shown.isError && <Refusal which="Not possible." allowed={shown.error.message} />}
          {fresh && (
            <Follows
              shown={shown.data}
              answers={answers}
              onAnswer={(entry, given) => answer((before) => ({ ...before, [entry]: given }))}
            />
          )}
          {keep.error && <Refusal which="Not kept." allowed={keep.error.message} />}
        </>
      )}
      <div className="editacts">
        <div className="keyrow">
          <ButtonBase className="key" onClick={onClose}>
            Discard changes
          </ButtonBase>
          {form.data && (
            <ButtonBase className="key" aria-pressed={undo} onClick={() => setUndo(!undo)}>
              {undo ? 'Edit it instead' : 'Undo this entry'}
            </ButtonBase>
          )}
        </div>
        {form.data && (
          <GoPlate
            act={undo ? 'Undo the entry' : 'Keep the edit'}
            then="the old entry stays in the record, struck"
            waits={waits}
            busy={keep.isPending || (ready && !fresh && !shown.isError)}
            onPress={() => keep.mutate()}
          />
        )}
      </div>
    </Dialog>
  );
}
