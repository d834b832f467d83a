/** Where this page is: in the depot, or in a run of practice, whose address everything of it begins with. */
const PRACTICE = /^\/practice\/([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})(?=\/|$)/;
const found = PRACTICE.exec(globalThis.location?.pathname ?? '');

/** The run of practice that this page belongs to; null in the depot. */
export const practiceRun: string | null = found?.[1] ?? null;

/** What every address of this page begins with. */
export const base = practiceRun === null ? '' : `/practice/${practiceRun}`;

/** An address of the API, for a link or a picture. */
export const apiAddress = (path: string): string => base + path;

/** Loads the whole page again at another address, so that nothing of practice or of the depot is left in it. */
export const goTo = (address: string): void => globalThis.location.assign(address);
