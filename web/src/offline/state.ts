import { useSyncExternalStore } from 'react';

/** How this tablet stands to the depot, said on every page. */
export interface Bay {
  /** Since when nothing answers, by this device's clock; null while the server does. */
  since: number | null;
  /** Requests and photos that wait to be sent. */
  waiting: number;
  /** Of them, those that ask somebody first: others worked meanwhile. */
  asking: number;
  /** Of them, what somebody else recorded here: sent when they sign in. */
  others: number;
  /** Of them, sign-offs: signed here, and not yet at the depot. */
  signed: number;
  /** When the kit was made, by the server's clock; null: there is none. */
  kitAt: string | null;
  /** The calculator of this tablet. */
  core: 'off' | 'starting' | 'ready' | 'failed';
  sending: boolean;
  /** Who was signed in when something was last sent; null: not known, whoever recorded it. */
  me: number | null;
  /** The clock of this device was set while nothing answered. */
  clockJumped: boolean;
  /** The browser threw the kit away. */
  evicted: boolean;
  /** A new version of the application is here. */
  update: boolean;
  /** Something that could not be done, in words. */
  notice: string;
  /** Somebody wants to sign out while something waits: called with their answer. */
  leaving: ((yes: boolean) => void) | null;
}

/** What the browser wakes the service worker with. */
export const SEND_TAG = 'temper-send';

let bay: Bay = {
  since: null,
  waiting: 0,
  asking: 0,
  others: 0,
  signed: 0,
  kitAt: null,
  core: 'off',
  sending: false,
  me: null,
  clockJumped: false,
  evicted: false,
  update: false,
  notice: '',
  leaving: null,
};
const listeners = new Set<() => void>();

export const bayNow = (): Bay => bay;

export function tell(part: Partial<Bay>): void {
  if (Object.entries(part).every(([key, value]) => bay[key as keyof Bay] === value)) return;
  bay = { ...bay, ...part };
  listeners.forEach((listener) => listener());
}

export const useBay = (): Bay =>
  useSyncExternalStore(
    (listener) => {
      listeners.add(listener);
      return () => listeners.delete(listener);
    },
    () => bay,
  );
