import { useLayoutEffect, useRef, useState } from 'react';
import type { Schemas } from '../../api/client';
import { type AgeBand, LifeFigure } from '../../figures/LifeFigure';
import { useServerNow } from '../../clocks/useServerNow';
import { dateOf } from '../../language/time';
import { fromBase, SYSTEMS } from '../../units/units';
import { unitLabel } from '../../units/parse';
import { useUnits } from '../../units/UnitsContext';

const MONTH = new Intl.DateTimeFormat('en-GB', { month: 'short', year: 'numeric', timeZone: 'UTC' });
const at = (iso: string): number => new Date(iso).getTime();
const day = (time: number): string => dateOf(new Date(time).toISOString().slice(0, 10));

/** One picture of a loop's life: is it losing, how old is it, when is it due. */
export function LifePicture({ data }: { data: Schemas['LoopHistory'] }) {
  const now = useServerNow(undefined, 60_000);
  const { system, volume } = useUnits();
  const box = useRef<HTMLElement>(null);
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const room = box.current;
    if (!room || typeof ResizeObserver === 'undefined') return;
    const observer = new ResizeObserver(() => setWidth(Math.max(320, Math.floor(room.clientWidth))));
    observer.observe(room);
    return () => observer.disconnect();
  }, []);
  const { history, state } = data;
  if (history.levels.length < 2 && history.ages.length === 0) return null;
  const unit = SYSTEMS[system].volume;
  const ages: AgeBand[] = history.ages.map((row) => ({
    at: at(row.at),
    parts: row.parts.map((part) => ({
      share: part.share,
      label: part.on ? MONTH.format(new Date(part.on)) : 'not known',
    })),
  }));
  return (
    <section aria-label="Levels, ages, due" className="chartbox" data-testid="life" ref={box}>
      {width > 0 && (
        <LifeFigure
          width={width}
          levels={history.levels.map((row) => ({
            at: at(row.at),
            gone: fromBase(row.gone_l, unit),
            half: fromBase(row.half_l, unit),
            poured: row.in_l,
            words: `${day(at(row.at))}: ${volume(row.gone_l)} ±${volume(row.half_l)} gone${row.in_l > 0 ? `, ${volume(row.in_l)} poured in` : ''}`,
          }))}
          ages={ages}
          now={now}
          dueAt={state.due?.on ? at(state.due.on) : null}
          unit={unitLabel('volume', system)}
          leaks={history.loss?.kind === 'leaks' || history.loss?.kind === 'at_once'}
          dateWords={day}
        />
      )}
    </section>
  );
}
