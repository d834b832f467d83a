import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { benchOptions, sessionOptions } from '../api/queries';
import { Refusal } from '../controls/Refusal';
import { fromBase, number, SYSTEMS, volumeDecimals } from '../units/units';
import { useUnits } from '../units/UnitsContext';

/** What the readings teach of the capacity: offered to a lead between jobs, never applied in silence. */
export function LearnedCapacity({ bench }: { bench: Schemas['Bench'] }) {
  const { system, volume } = useUnits();
  const client = useQueryClient();
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const take = useMutation<Schemas['Bench'], RefusalError, number>({
    mutationFn: (capacity_l) =>
      unwrap(
        api.POST('/api/loops/{loop_id}/capacity', {
          params: { path: { loop_id: bench.loop.id } },
          body: { capacity_l },
        }),
      ),
    onSuccess: (fresh) => {
      client.setQueryData(benchOptions(bench.loop.id).queryKey, fresh);
      void client.invalidateQueries({ queryKey: ['machines'] });
    },
  });
  const learned = bench.state.learned;
  if (!learned) return null;
  const unit = SYSTEMS[system].volume;
  const half = (width = 0) => `±${number(fromBase(width, unit), volumeDecimals(unit))}`;
  const between = bench.state.signed_at !== null;
  return (
    <div className="learned" data-testid="learned">
      <p>
        <b>
          By this reading the loop holds {volume(learned.combined.value)} {half(learned.combined.half)}
        </b>
        , believed {volume(learned.believed.value)} {half(learned.believed.half)}.{' '}
        {!between
          ? 'You can use it after sign-off.'
          : lead
            ? 'The next mix uses the capacity that you accept.'
            : 'A lead can accept it.'}
      </p>
      {between && lead && (
        <ButtonBase className="key" onClick={() => !take.isPending && take.mutate(learned.combined.value)}>
          Use this capacity {volume(learned.combined.value)}
        </ButtonBase>
      )}
      {take.error && <Refusal which="Not saved." allowed={take.error.message} />}
    </div>
  );
}
