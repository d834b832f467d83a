import { useMutation } from '@tanstack/react-query';
import { v4 as uuid } from 'uuid';
import { api, type Refusal, type Schemas, unwrap } from '../../api/client';

const keyOf = (instrumentId: number) => `temper.take.${instrumentId}`;

/**
 * One press of an instrument's own key. Its id is kept until the reading is here, over a dropped line and a reload:
 * asked again, the instrument gives the same reading instead of a new one.
 */
export function useTake(instrumentId: number, onTaken: (taken: Schemas['Taken']) => void) {
  return useMutation<Schemas['Taken'], Refusal>({
    mutationFn: () => {
      const id = sessionStorage.getItem(keyOf(instrumentId)) ?? uuid();
      sessionStorage.setItem(keyOf(instrumentId), id);
      return unwrap(
        api.POST('/api/instruments/{instrument_id}/take', {
          params: { path: { instrument_id: instrumentId } },
          body: { id },
        }),
      );
    },
    onSuccess: (taken) => {
      sessionStorage.removeItem(keyOf(instrumentId));
      onTaken(taken);
    },
    onError: (refusal) => {
      if (refusal.code === 'no_sample') sessionStorage.removeItem(keyOf(instrumentId));
    },
  });
}
