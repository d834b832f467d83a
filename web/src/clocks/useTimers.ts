import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { boardOptions } from '../api/queries';
import { onFirstTouch, ring } from './bell';
import { nextRing, overLimit, type Timer } from './clock';
import { useServerNow } from './useServerNow';

/** A clock or an estimate of some job, and where it runs. */
export interface Running {
  timer: Timer;
  loopId: number;
  fleetNumber: string;
}

/** Everything that runs in the bay: passed limits first, then what rang, then what ends next. */
export function useTimers(): { running: Running[]; now: number } {
  const board = useQuery(boardOptions).data;
  const now = useServerNow(board?.server_time);
  const running = (board?.strips ?? []).flatMap((strip) =>
    strip.row.timers.map((timer) => ({
      timer,
      loopId: strip.loop_id,
      fleetNumber: strip.machine.fleet_number,
    })),
  );
  const moment = ({ timer }: Running) => Date.parse(timer.ends_at ?? timer.likely_at ?? timer.started_at);
  const over = ({ timer }: Running) => (overLimit(timer, now) === null ? 1 : 0);
  running.sort((a, b) => over(a) - over(b) || moment(a) - moment(b));
  return { running, now };
}

const LOUD_EVERY_MS = 60_000;

/** Rings on this page, whatever it shows, when a clock ends; while a limit is passed it keeps ringing. */
export function useAlarm(): void {
  const { running, now } = useTimers();
  const client = useQueryClient();
  const heard = useRef(now);
  const loud = useRef(0);
  useEffect(onFirstTouch, []);
  useEffect(() => {
    const timers = running.map((row) => row.timer);
    const over = timers.some((timer) => overLimit(timer, now) !== null);
    if (nextRing(timers, heard.current) <= now) {
      ring(over);
      void client.invalidateQueries({ queryKey: ['board'] });
      void client.invalidateQueries({ queryKey: ['bench'] });
    } else if (over && now - loud.current >= LOUD_EVERY_MS && ring(true)) {
      loud.current = now;
    }
    heard.current = now;
  }, [client, now, running]);
}
