import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { v4 as uuid } from 'uuid';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { starterOptions } from '../api/queries';
import { Check } from './Check';
import { DialogFrame } from './DialogFrame';
import { Refusal } from './Refusal';
import './addFromList.css';

export type StarterList = 'coolants' | 'waters' | 'instruments';

const TITLE: Record<StarterList, string> = {
  coolants: 'Coolants by what the label states',
  waters: 'Water',
  instruments: 'Instruments by their scale',
};
const NEXT: Record<StarterList, string> = {
  coolants: 'A coolant from the list suits no loop until you enter its label in Products.',
  waters: 'Tap water needs an analysis before it is mixed with.',
  instruments: 'Then edit each to its own scale and smallest division.',
};

/** Several lines of the starter list at once; what the depot has by that name already is ticked and stays. */
export function AddFromList({ of, onClose }: { of: StarterList; onClose: () => void }) {
  const starter = useQuery(starterOptions);
  const client = useQueryClient();
  const [picked, pick] = useState<Record<string, string>>({});
  const add = useMutation<Schemas['Starter'], RefusalError>({
    mutationFn: () =>
      unwrap(api.POST('/api/starter', { body: { picks: Object.entries(picked).map(([key, id]) => ({ key, id })) } })),
    onSuccess: async (fresh) => {
      client.setQueryData(starterOptions.queryKey, fresh);
      for (const key of ['catalogue', 'instruments', 'getting-started'])
        await client.invalidateQueries({ queryKey: [key] });
      onClose();
    },
  });
  const many = Object.keys(picked).length;
  const toggle = (key: string) =>
    pick(({ [key]: was, ...rest }) => (was === undefined ? { ...rest, [key]: uuid() } : rest));
  return (
    <DialogFrame open title={TITLE[of]} leave="Cancel" className="addfromlist" onClose={onClose}>
      <p>{NEXT[of]}</p>
      {starter.isError && <Refusal which="The list cannot be shown." allowed={starter.error.message} />}
      <div className="starterrows">
        {starter.data?.[of].map((row) => (
          <Check
            key={row.key}
            label={row.name}
            detail={row.here ? 'here already' : row.says}
            checked={row.here || picked[row.key] !== undefined}
            onChange={() => !row.here && toggle(row.key)}
          />
        ))}
      </div>
      {add.error && <Refusal which="Nothing was added." allowed={add.error.message} />}
      <ButtonBase
        className="key starteradd"
        aria-disabled={many === 0 || add.isPending}
        onClick={() => many > 0 && !add.isPending && add.mutate()}
      >
        {many === 0 ? 'Tick what you have' : `Add ${many}`}
      </ButtonBase>
    </DialogFrame>
  );
}
