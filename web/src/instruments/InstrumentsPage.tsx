import ButtonBase from '@mui/material/ButtonBase';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Schemas } from '../api/client';
import { instrumentsOptions, sessionOptions } from '../api/queries';
import { AddFromList } from '../controls/AddFromList';
import { Plus } from '../controls/icons';
import { NotHere } from '../controls/NotHere';
import { PageFrame, Waiting } from '../controls/menu/Page';
import { type Instrument, zeroWants } from '../controls/reading/scale';
import { InstrumentForm } from './InstrumentForm';
import { ZeroSheet } from './ZeroSheet';
import './instruments.css';
import { INSTRUMENT_KIND, SCALE } from '../language/names';

/** The instruments of the depot: does water still read as water, since when not, and what that puts in doubt. */
export default function InstrumentsPage() {
  const instruments = useQuery(instrumentsOptions);
  const lead = useQuery(sessionOptions).data?.person?.role === 'lead';
  const [picked, pick] = useState<number | null>(null);
  const [editing, edit] = useState<Instrument | 'new' | null>(null);
  if (instruments.isError)
    return (
      <NotHere
        head="The instruments cannot be shown."
        text={instruments.error.message}
        retry={() => void instruments.refetch()}
      />
    );
  if (!instruments.data) return <Waiting title="Instruments" />;
  const { instruments: rows, kinds, scales } = instruments.data;
  const instrument = rows.find((row) => row.id === picked) ?? rows[0];
  return (
    <PageFrame title="Instruments" line="The zero error is taken off every reading" className="instrumentspage">
      {editing ? (
        <InstrumentForm
          key={editing === 'new' ? 'new' : editing.id}
          instrument={editing === 'new' ? null : editing}
          kinds={kinds}
          scales={scales}
          onDone={(kept) => {
            if (kept) pick(kept.id);
            edit(null);
          }}
        />
      ) : (
        <Shown key={instrument?.id ?? 0} {...{ rows, instrument, lead, pick, edit }} data={instruments.data} />
      )}
    </PageFrame>
  );
}

interface ShownProps {
  rows: Instrument[];
  instrument: Instrument | undefined;
  data: Schemas['Instruments'];
  lead: boolean;
  pick: (id: number) => void;
  edit: (what: Instrument | 'new') => void;
}

function Shown({ rows, instrument, data, lead, pick, edit }: ShownProps) {
  const [list, openList] = useState(false);
  const head = (
    <>
      <div className="pick" role="radiogroup" aria-label="Instrument">
        {rows.map((row) => (
          <ButtonBase
            key={row.id}
            className={`opt${row.id === instrument?.id ? ' picked' : ''}`}
            role="radio"
            aria-checked={row.id === instrument?.id}
            onClick={() => pick(row.id)}
          >
            <span>
              <b>{row.name}</b>
              <small>{row.scale && row.kind !== 'steps' ? SCALE[row.scale] : INSTRUMENT_KIND[row.kind]}</small>
              {row.state && <small className={zeroWants(row) ? 'hot' : ''}>{zeroWants(row) ?? 'zero fine'}</small>}
              {row.retired && <small>retired</small>}
            </span>
          </ButtonBase>
        ))}
      </div>
      <div className="row instrumentkeys">
        <Link className="key pagelink" to={instrument ? `/readings?instrument=${instrument.id}` : '/readings'}>
          Readings
        </Link>
        {lead && instrument && (
          <ButtonBase className="key" onClick={() => edit(instrument)}>
            Edit scale
          </ButtonBase>
        )}
        {lead && (
          <ButtonBase className="key" onClick={() => edit('new')}>
            <Plus />
            &nbsp;Instrument
          </ButtonBase>
        )}
        {lead && (
          <ButtonBase className="key" onClick={() => openList(true)}>
            Add from the list
          </ButtonBase>
        )}
        {list && <AddFromList of="instruments" onClose={() => openList(false)} />}
      </div>
    </>
  );
  if (instrument)
    return (
      <ZeroSheet
        instrument={instrument}
        how={data.kinds.find((row) => row.kind === instrument.kind)?.how ?? ''}
        water={data.scales.find((row) => row.scale === instrument.scale)?.water ?? 0}
      >
        {head}
      </ZeroSheet>
    );
  return (
    <main id="work">
      {head}
      <p className="empty">
        No instrument yet. {lead ? 'Add from the list what lies in the drawer.' : 'Ask a lead to add it.'}
      </p>
    </main>
  );
}
