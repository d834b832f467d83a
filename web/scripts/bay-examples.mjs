/**
 * Runs the examples of every module of the core in the browser's own Python, under Node; prints {modules, tried, failed}.
 * The core's other tests need pytest and stay with the server's Python; these are the half that travels with the code.
 */
import { readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

const bay = join(dirname(fileURLToPath(import.meta.url)), '..', 'bay');
const at = join(bay, JSON.parse(readFileSync(join(bay, 'manifest.json'), 'utf8')).folder);
const { loadPyodide } = await import(join(at, 'pyodide.mjs'));

const EXAMPLES = `
import doctest, importlib, io, json, pkgutil, sys
from contextlib import redirect_stdout
sys.path.insert(0, "/bay")
import temper_core
said, tried, failed, modules = io.StringIO(), 0, 0, 0
with redirect_stdout(said):
    for row in pkgutil.walk_packages(temper_core.__path__, "temper_core."):
        found = doctest.testmod(importlib.import_module(row.name))
        modules, tried, failed = modules + 1, tried + found.attempted, failed + found.failed
json.dumps({"modules": modules, "tried": tried, "failed": failed, "said": said.getvalue()[-2000:]})
`;

try {
  const py = await loadPyodide({ indexURL: `${at}/` });
  py.unpackArchive(new Uint8Array(readFileSync(join(at, 'bay.zip'))), 'zip', { extractDir: '/bay' });
  console.log(py.runPython(EXAMPLES));
  process.exit(0);
} catch (error) {
  console.error(String(error.message ?? error).slice(-3000)); // its stack holds the whole minified runtime
  process.exit(1);
}
