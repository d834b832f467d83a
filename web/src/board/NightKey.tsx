import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { api, type Schemas, unwrap } from '../api/client';
import { sessionOptions } from '../api/queries';
import { DialogFrame } from '../controls/DialogFrame';
import { QuantityField } from '../controls/QuantityField';
import { Refusal } from '../controls/Refusal';
import { LOW_SOURCE } from '../language/names';
import { parseTyped, type Typed, unitFor } from '../units/parse';
import { useUnits } from '../units/UnitsContext';

/** Where tonight's low comes from, and whether the weather service answers. */
function sourceWords(night: Schemas['NightOut']): string {
  if (night.low === null) return 'no frost expected';
  return night.by ? `entered by ${night.by.name}` : LOW_SOURCE[night.low.source];
}

const SERVICE: Record<Schemas['Service'], string> = {
  none: 'No weather service is set up. Enter the forecast, or the coldest expected here is used.',
  connected: 'The weather service is connected.',
  not_connected: 'The weather service is not connected.',
};

/** Tonight's low; a lead presses it to enter another. */
export function NightKey({ night }: { night: Schemas['NightOut'] }) {
  const { temperature } = useUnits();
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const [asked, ask] = useState(false);
  const words = (
    <>
      <b>Tonight {night.low === null ? '–' : temperature(night.low.low_c, 0)}</b>
      <span>
        {sourceWords(night)}
        {night.service === 'not_connected' && ', weather not connected'}
      </span>
    </>
  );
  if (!lead) return <p className="night">{words}</p>;
  return (
    <>
      <ButtonBase className="night key small" onClick={() => ask(true)}>
        {words}
      </ButtonBase>
      <DialogFrame open={asked} title="Tonight’s low" leave="Cancel" onClose={() => ask(false)}>
        <NightForm night={night} onSaved={() => ask(false)} />
      </DialogFrame>
    </>
  );
}

function NightForm({ night, onSaved }: { night: Schemas['NightOut']; onSaved: () => void }) {
  const { system, temperature } = useUnits();
  const [typed, setTyped] = useState<Typed>({ text: '', unit: unitFor('temperature', system) });
  const queries = useQueryClient();
  const enter = useMutation({
    mutationFn: (low_c: number | null) => unwrap(api.POST('/api/night', { body: { low_c } })),
    onSuccess: () => {
      void queries.invalidateQueries({ queryKey: ['board'] });
      onSaved();
    },
  });
  const low = parseTyped(typed, 'temperature', system);
  const ready = low.ok && !enter.isPending;
  return (
    <>
      <p>{SERVICE[night.service]}</p>
      {night.wrong && <p className="hot">{night.wrong}</p>}
      {night.forecast_c !== null && <p>Forecast: {temperature(night.forecast_c, 0)}.</p>}
      <p className="ink2">
        A machine that can freeze at this temperature where it is parked goes to Act now. Not entered where: counted as
        outdoors.
      </p>
      <QuantityField
        name="night-low"
        label="Lowest outdoors tonight"
        kind="temperature"
        typed={typed}
        onChange={setTyped}
      />
      <div className="row">
        <ButtonBase className="key" aria-disabled={!ready} onClick={() => ready && enter.mutate(low.base)}>
          Save tonight’s low
        </ButtonBase>
        {night.by && (
          <ButtonBase className="key" aria-disabled={enter.isPending} onClick={() => enter.mutate(null)}>
            Undo the entered low
          </ButtonBase>
        )}
      </div>
      {enter.error && <Refusal which="Not saved." allowed={enter.error.message} />}
    </>
  );
}
