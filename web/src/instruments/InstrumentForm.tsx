import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { v4 as uuid } from 'uuid';
import { api, type Refusal as RefusalError, type Schemas, unwrap } from '../api/client';
import { instrumentsOptions } from '../api/queries';
import { Check } from '../controls/Check';
import { GoPlate } from '../controls/GoPlate';
import { NumberField, numberOf, wrongNumber } from '../controls/NumberField';
import { Refusal } from '../controls/Refusal';
import { TextField } from '../controls/TextField';
import { type Instrument } from '../controls/reading/scale';
import { parseNumber } from '../units/parse';
import { INSTRUMENT_KIND, SCALE } from '../language/names';

interface Props {
  instrument: Instrument | null;
  kinds: Schemas['KindOut'][];
  scales: Schemas['ScaleOut'][];
  onDone: (kept: Instrument | null) => void;
}

/** Numbers in a row, as they are printed; null where one of them cannot be read. A comma parts them. */
function numbersOf(text: string): number[] | null {
  const found: number[] = [];
  for (const part of text.split(/[,;\s]+/).filter(Boolean)) {
    const parsed = parseNumber(part);
    if (!parsed.ok) return null;
    found.push(parsed.value);
  }
  return found;
}

const blank = (value: number | null | undefined): string =>
  value === null || value === undefined ? '' : String(value);

/** What strips show, by the figures of the test. */
const BANDS = { ph: 'pH', reserve_ml: 'reserve, ml', nitrite_mg_l: 'nitrite, mg/l', molybdate_mg_l: 'molybdate, mg/l' };

/** What is engraved on an instrument; what was read on it already keeps the scale it had. */
export function InstrumentForm({ instrument, kinds, scales, onDone }: Props) {
  const client = useQueryClient();
  const id = useRef(uuid());
  const [name, call] = useState(instrument?.name ?? '');
  const [kind, setKind] = useState<Schemas['InstrumentKind']>(instrument?.kind ?? 'optical');
  const [scale, setScale] = useState<Schemas['Scale'] | null>(instrument?.scale ?? 'freeze_ethylene');
  const [division, divide] = useState(instrument && instrument.kind !== 'steps' ? String(instrument.resolution) : '');
  const [compensated, compensate] = useState(instrument?.compensated ?? true);
  const [low, setLow] = useState(blank(instrument?.compensation_low_c));
  const [high, setHigh] = useState(blank(instrument?.compensation_high_c));
  const [steps, setSteps] = useState((instrument?.steps_c ?? []).join(', '));
  const [bands, setBands] = useState<Record<string, string>>(
    Object.fromEntries(Object.entries(instrument?.bands ?? {}).map(([key, values]) => [key, values.join(', ')])),
  );
  const [address, reach] = useState(instrument?.address ?? '');
  const [retired, putAway] = useState(instrument?.retired ?? false);
  const row = kinds.find((one) => one.kind === kind);
  const facts = scales.find((one) => one.scale === scale);
  const save = useMutation<Instrument, RefusalError, Schemas['InstrumentIn']>({
    mutationFn: (body) =>
      unwrap(
        instrument
          ? api.PUT('/api/instruments/{instrument_id}', { params: { path: { instrument_id: instrument.id } }, body })
          : api.POST('/api/instruments', { body }),
      ),
    onSuccess: async (kept) => {
      await client.invalidateQueries(instrumentsOptions);
      onDone(kept);
    },
  });
  const reads = (row?.scales.length ?? 0) > 0;
  const stepsC = numbersOf(steps);
  const bandRows = Object.entries(bands).map(([figure, text]) => [figure, numbersOf(text)] as const);
  const wrong =
    (kind === 'steps' && stepsC === null ? 'steps' : null) ??
    (bandRows.some(([, values]) => values === null) ? 'bands' : null) ??
    wrongNumber(division, facts?.unit ?? '') ??
    wrongNumber(low, '°C') ??
    wrongNumber(high, '°C');
  const press = () =>
    save.mutate({
      id: instrument ? null : id.current,
      seen: instrument?.edited_at ?? null,
      name,
      kind,
      scale: reads ? scale : null,
      resolution: kind === 'steps' || !reads ? null : numberOf(division),
      compensated,
      compensation_low_c: numberOf(low),
      compensation_high_c: numberOf(high),
      steps_c: kind === 'steps' ? (stepsC ?? []) : [],
      bands:
        kind === 'strips'
          ? Object.fromEntries(
              bandRows.filter(([, values]) => values?.length).map(([key, values]) => [key, values ?? []]),
            )
          : {},
      address: kind === 'digital' ? address.trim() : '',
      retired,
    });
  const choose = (next: Schemas['InstrumentKind']) => {
    setKind(next);
    const allowed = kinds.find((one) => one.kind === next)?.scales ?? [];
    if (scale === null || !allowed.includes(scale)) setScale(allowed[0] ?? null);
    divide('');
  };
  return (
    <>
      <main id="work" className="instrumentform">
        <h1 className="title">{instrument ? `Edit scale of ${instrument.name}` : 'A new instrument'}</h1>
        <TextField name="name" label="Name" value={name} max={40} wide onChange={call} />
        <div className="field">
          <span className="lbl">Kind</span>
          <div className="pick" role="radiogroup" aria-label="Kind">
            {kinds.map((one) => (
              <ButtonBase
                key={one.kind}
                className={`opt${one.kind === kind ? ' picked' : ''}`}
                role="radio"
                aria-checked={one.kind === kind}
                onClick={() => choose(one.kind)}
              >
                {INSTRUMENT_KIND[one.kind]}
              </ButtonBase>
            ))}
          </div>
        </div>
        {reads && (
          <div className="field">
            <span className="lbl">{kind === 'steps' ? 'Steps are marked for' : 'Scale'}</span>
            <div className="pick" role="radiogroup" aria-label="Scale">
              {row?.scales.map((one) => (
                <ButtonBase
                  key={one}
                  className={`opt${one === scale ? ' picked' : ''}`}
                  role="radio"
                  aria-checked={one === scale}
                  onClick={() => {
                    setScale(one);
                    divide('');
                  }}
                >
                  {SCALE[one]}
                </ButtonBase>
              ))}
            </div>
          </div>
        )}
        {kind === 'steps' && (
          <TextField
            name="steps"
            label="Freeze point in °C at which step 1, 2, 3 … shows, from its table"
            value={steps}
            max={120}
            wide
            refused={stepsC === null ? 'Numbers in °C, with spaces between, such as -7 -18 -29 -40.' : undefined}
            onChange={setSteps}
          />
        )}
        {reads && kind !== 'steps' && (
          <div className="row">
            <NumberField
              name="division"
              label={`Smallest division (usually ${facts?.resolution ?? ''})`}
              unit={facts?.unit ?? ''}
              value={division}
              onChange={divide}
            />
            {kind !== 'hydrometer' && (
              <>
                <Check
                  label="Compensated for temperature"
                  detail="shows the value at 20 °C"
                  checked={compensated}
                  onChange={compensate}
                />
                {compensated && (
                  <>
                    <NumberField name="comp-low" label="from" unit="°C" value={low} onChange={setLow} />
                    <NumberField name="comp-high" label="to" unit="°C" value={high} onChange={setHigh} />
                  </>
                )}
              </>
            )}
          </div>
        )}
        {kind === 'strips' &&
          Object.entries(BANDS).map(([figure, words]) => (
            <TextField
              key={figure}
              name={figure}
              label={`Bands of ${words}, as printed on the tube`}
              value={bands[figure] ?? ''}
              max={120}
              wide
              onChange={(text) => setBands({ ...bands, [figure]: text })}
            />
          ))}
        {kind === 'digital' && (
          <TextField
            name="address"
            label="Driver on this machine, if any (127.0.0.1:port)"
            value={address}
            max={60}
            onChange={reach}
          />
        )}
        {instrument && (
          <Check label="Retired" detail="keeps its readings, no longer offered" checked={retired} onChange={putAway} />
        )}
        {save.error && <Refusal which="Not saved." allowed={save.error.message} />}
        <ButtonBase className="key" onClick={() => onDone(null)}>
          Discard changes
        </ButtonBase>
      </main>
      <div className="gocorner">
        <GoPlate
          act="Save instrument"
          then="check the zero"
          waits={name.trim() === '' ? 'Give it a name' : wrong ? 'Fix the marked fields' : null}
          busy={save.isPending}
          onPress={() => !save.isPending && press()}
        />
      </div>
    </>
  );
}
