import ButtonBase from '@mui/material/ButtonBase';
import { useState } from 'react';
import type { Schemas } from '../api/client';
import { BAND } from '../language/names';
import { BoardRow } from './BoardRow';

type Band = Schemas['Band'];

const MEANS: Record<Band, string> = {
  act_now: 'a limit is passed, a clock rang, or it can freeze tonight',
  your_turn: 'waiting for hands, longest first',
  running: 'a clock runs; next to ring first',
  cooling: 'an estimate; check it is safe to open',
  paused: 'longest first',
};
const ORDER = Object.keys(MEANS) as Band[];
const KEPT = 'temper.board.folded';

function kept(): Band[] {
  try {
    return JSON.parse(localStorage.getItem(KEPT) ?? '[]') as Band[];
  } catch {
    return [];
  }
}

interface Props {
  strips: Schemas['Strip'][];
  now: number;
  /** Nobody can fold what is far away: on the wall. */
  fixed?: boolean;
}

/** The rows under the heads of their bands; a head folds its band, but for what needs an act now. */
export function Bands({ strips, now, fixed = false }: Props) {
  const [folded, setFolded] = useState(kept);
  const toggle = (band: Band) => {
    const next = folded.includes(band) ? folded.filter((one) => one !== band) : [...folded, band];
    setFolded(next);
    localStorage.setItem(KEPT, JSON.stringify(next));
  };
  return ORDER.map((band) => {
    const rows = strips.filter((strip) => strip.band === band);
    if (rows.length === 0) return null;
    const shut = !fixed && band !== 'act_now' && folded.includes(band);
    const head = (
      <>
        <b>{BAND[band]}</b> <span className="count">{rows.length}</span> <span className="means">{MEANS[band]}</span>
      </>
    );
    return (
      <section
        key={band}
        className={`band${band === 'act_now' ? ' urgent' : ''}`}
        data-band={band}
        aria-label={`${BAND[band]}, ${rows.length}`}
      >
        <h2>
          {fixed || band === 'act_now' ? (
            <span className="bandhead">{head}</span>
          ) : (
            <ButtonBase className="bandhead" aria-expanded={!shut} onClick={() => toggle(band)}>
              {head}
              <span className="fold">{shut ? 'Show' : 'Hide'}</span>
            </ButtonBase>
          )}
        </h2>
        {!shut && rows.map((strip) => <BoardRow key={strip.loop_id} strip={strip} now={now} still={fixed} />)}
      </section>
    );
  });
}
