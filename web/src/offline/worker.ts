/// <reference lib="webworker" />
import { expose } from 'comlink';

/** The core in this worker: text in, text out. */
interface Python {
  ask(text: string): string;
  again(kept: string, now: string): string;
  destroy(): void;
}

type Runtime = {
  unpackArchive(data: ArrayBuffer, format: string, options: { extractDir: string }): void;
  runPython(code: string): unknown;
  pyimport(name: string): { Bay(kit: string): Python };
};

let runtime: Promise<Runtime> | null = null;
let bay: Python | null = null;

/** The runtime's errors carry the whole of its minified source. */
const short = (error: unknown): Error => new Error(String((error as Error).message ?? error).slice(-800));

async function start(at: string): Promise<Runtime> {
  const { loadPyodide } = (await import(/* @vite-ignore */ `${at}pyodide.mjs`)) as {
    loadPyodide(options: { indexURL: string; _loadSnapshot: Uint8Array }): Promise<Runtime>;
  };
  const file = (name: string) => fetch(`${at}${name}`).then((answer) => answer.arrayBuffer());
  const [packed, snapshot] = await Promise.all([file('bay.zip'), file('snapshot.bin')]);
  // its memory as the build left it, most of the core in it: a tenth of the time that a start from nothing takes
  const py = await loadPyodide({ indexURL: at, _loadSnapshot: new Uint8Array(snapshot) });
  py.unpackArchive(packed, 'zip', { extractDir: '/bay' });
  py.runPython('import importlib; importlib.invalidate_caches()');
  return py;
}

const core = {
  /** Start with a kit, and let what waits stand in the records once more; gives what no longer can. */
  async load(at: string, kit: string, kept: string, now: string): Promise<string> {
    try {
      const py = await (runtime ??= start(at));
      bay?.destroy();
      bay = py.pyimport('bay.answers').Bay(kit);
      return bay.again(kept, now);
    } catch (error) {
      runtime = null;
      throw short(error);
    }
  },
  ask(text: string): string {
    if (!bay) throw new Error('no kit');
    try {
      return bay.ask(text);
    } catch (error) {
      throw short(error);
    }
  },
};

export type Core = typeof core;
expose(core);
