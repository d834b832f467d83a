import ButtonBase from '@mui/material/ButtonBase';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { lazy, Suspense } from 'react';
import { Link } from 'react-router';
import { api, type Schemas, unwrap } from '../api/client';
import { instrumentsOptions, sessionOptions } from '../api/queries';
import { useDepot } from '../api/useDepot';
import { NotHere } from '../controls/NotHere';
import { Refusal } from '../controls/Refusal';
import { Twin } from '../controls/Twin';
import { number } from '../units/units';
import { useUnits } from '../units/UnitsContext';
import { sayIn } from '../language/say';
import { dayOf } from '../language/time';
import { watchOptions } from './readingsQuery';
import { WATCH } from '../language/names';

const AgreementChart = lazy(() => import('./AgreementChart'));

/** What the readings say together: what falls, what contradicts, who disagrees. */
export function Together() {
  const watch = useQuery(watchOptions);
  const { system } = useUnits();
  const zone = useDepot()?.time_zone;
  if (watch.isError)
    return (
      <NotHere head="The comparison cannot be shown." text={watch.error.message} retry={() => void watch.refetch()} />
    );
  if (!watch.data) return <p className="empty">Loading …</p>;
  const { flags, compared } = watch.data;
  return (
    <>
      <h1 className="title">{flags.length > 0 ? 'Needs attention' : 'Nothing unusual'}</h1>
      <ul className="watch" data-testid="watch">
        {flags.map((flag) => (
          <li key={`${flag.code} ${flag.about}`}>
            <b>
              {WATCH[flag.code]}:{' '}
              {flag.loop_id === null ? flag.about : <Link to={`/loops/${flag.loop_id}/history`}>{flag.about}</Link>}
            </b>
            <span>
              {sayIn(flag.said, system)}
              {flag.at && <small className="ink2"> {dayOf(flag.at, zone)}</small>}
            </span>
          </li>
        ))}
      </ul>
      <h2 className="rulehead">
        <b>Instruments on the same samples</b>
      </h2>
      {compared.length === 0 && (
        <p className="ink2">No sample was read on two instruments yet. Three such samples show whether they agree.</p>
      )}
      {compared.map((row) => (
        <Pairs key={`${row.first} ${row.second}`} row={row} />
      ))}
    </>
  );
}

/** What the samples teach of either instrument, for a lead to take over: nothing is corrected silently. */
function Offer({ row, bias }: { row: Schemas['Compared']; bias: number }) {
  const client = useQueryClient();
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const all = useQuery(instrumentsOptions).data?.instruments ?? [];
  const learn = useMutation({
    mutationFn: ({ id, against }: { id: number; against: number | null }) =>
      unwrap(
        api.POST('/api/instruments/{instrument_id}/bias', {
          params: { path: { instrument_id: id } },
          body: { against_id: against },
        }),
      ),
    onSuccess: () => client.invalidateQueries(),
  });
  const [first, second] = [row.first, row.second].map((name) => all.find((one) => one.name === name));
  if (!first || !second) return null;
  const corrected = [first, second].filter((one) => one.bias_percent !== 0);
  const key = (one: Schemas['InstrumentOut'], other: Schemas['InstrumentOut'], off: number) => (
    <ButtonBase
      key={one.id}
      className="key small"
      aria-disabled={learn.isPending}
      onClick={() => learn.mutate({ id: one.id, against: other.id })}
    >
      Correct {one.name} by {number(-off, 1)} %
    </ButtonBase>
  );
  return (
    <div className="row" data-testid="bias">
      {corrected.map((one) => (
        <span key={one.id} className="ink2">
          {one.name} is corrected by {number(-one.bias_percent, 1)} % by mass: {one.bias_note}.
        </span>
      ))}
      {lead && corrected.length === 0 && [key(first, second, bias), key(second, first, -bias)]}
      {lead &&
        corrected.map((one) => (
          <ButtonBase
            key={one.id}
            className="key small"
            aria-disabled={learn.isPending}
            onClick={() => learn.mutate({ id: one.id, against: null })}
          >
            Undo: {one.name}
          </ButtonBase>
        ))}
      {!lead && corrected.length === 0 && <span className="ink2">A lead can correct one of them by the other.</span>}
      {learn.error && <Refusal which={learn.error.message} />}
    </div>
  );
}

function Pairs({ row }: { row: Schemas['Compared'] }) {
  const { system } = useUnits();
  return (
    <section className="compared" aria-label={`${row.first} and ${row.second}`}>
      <p>
        <b>
          {row.first} against {row.second}.
        </b>{' '}
        {row.agreement
          ? sayIn(row.agreement.said, system)
          : `${row.pairs.length} ${row.pairs.length === 1 ? 'sample' : 'samples'}: too few to say.`}
      </p>
      {row.agreement?.disagrees && <Offer row={row} bias={row.agreement.bias} />}
      {row.agreement && (
        <Suspense fallback={<p className="ink2">Loading …</p>}>
          <AgreementChart row={row} />
          <Twin
            caption={`Samples read on ${row.first} and on ${row.second}`}
            heads={[`${row.first}, % by mass`, `${row.second}, % by mass`, 'difference']}
            rows={row.pairs.map((pair) => [
              number(pair.first, 1),
              number(pair.second, 1),
              number(pair.first - pair.second, 1),
            ])}
          />
        </Suspense>
      )}
    </section>
  );
}
