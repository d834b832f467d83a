/** The browser's own Python with the packed core, under Node, started as a tablet starts it. */
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const bay = join(dirname(fileURLToPath(import.meta.url)), '..', 'bay');
const at = join(bay, JSON.parse(readFileSync(join(bay, 'manifest.json'), 'utf8')).folder);

/** The runtime; said(what) is called after it runs, and after the core is there. */
export async function start(said = () => undefined) {
  const { loadPyodide } = await import(join(at, 'pyodide.mjs'));
  const py = await loadPyodide({ indexURL: `${at}/`, _loadSnapshot: readFileSync(join(at, 'snapshot.bin')) });
  said('runtime');
  py.unpackArchive(new Uint8Array(readFileSync(join(at, 'bay.zip'))), 'zip', { extractDir: '/bay' });
  py.runPython('import importlib; importlib.invalidate_caches()');
  return py;
}
