import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useRef } from 'react';
import { v4 as uuid } from 'uuid';
import { loopsOptions, useRecord } from '../api/queries';
import { offerUndo } from '../bench/undo';
import { Refusal } from '../controls/Refusal';

interface Props {
  loopId: number;
  /** Which machine, for a screen reader. */
  of: string;
  /** What stands in its place where one press does not do. */
  otherwise?: React.ReactNode;
}

/** The level is at the mark, seen through the tank's wall: one press. Only where that is all the check asks for. */
export function LevelOkKey({ loopId, of, otherwise = null }: Props) {
  const line = useQuery(loopsOptions).data?.loops.find((row) => row.loop_id === loopId)?.line;
  const record = useRecord(loopId);
  const id = useRef(uuid()); // kept until it is stored: a double press stores it once
  if (!line?.asked?.at_a_glance) return otherwise;
  const press = () => {
    if (record.isPending) return;
    const entry = id.current;
    record.mutate(
      {
        entries: [{ id: entry, kind: 'level_seen', facts: { level: 'at_mark', note: '' } }],
        seen: null,
        between: true,
      },
      {
        onSuccess: () => {
          id.current = uuid();
          offerUndo({ loopId, between: true, entryIds: [entry] });
        },
      },
    );
  };
  return (
    <>
      <ButtonBase
        className="key small"
        aria-disabled={record.isPending}
        aria-label={`Level at mark: ${of}`}
        onClick={press}
      >
        Level at mark
      </ButtonBase>
      {record.error && <Refusal which="Not recorded." allowed={record.error.message} />}
    </>
  );
}
