/**
 * Packs what a browser computes with into web/bay/<digest>/: the Python runtime as its package ships it, and one archive
 * with the core, the shapes of the API and their few needs, compiled by that very Python, so that nothing is compiled on
 * a tablet. web/bay/manifest.json names the folder; nothing is done where it is up to date.
 */
import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import {
  cpSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';

const web = join(dirname(fileURLToPath(import.meta.url)), '..');
const root = join(web, '..');
const out = join(web, 'bay');
const runtime = dirname(createRequire(import.meta.url).resolve('pyodide/package.json'));
const RUNTIME = ['pyodide.mjs', 'pyodide.asm.mjs', 'pyodide.asm.wasm', 'python_stdlib.zip', 'pyodide-lock.json'];
const venv = join(root, '.venv', 'bin', 'python');
const python = existsSync(venv) ? venv : 'python3';

const every = (folder) =>
  readdirSync(folder, { recursive: true })
    .map((name) => join(folder, name))
    .filter((path) => statSync(path).isFile())
    .sort();

/** Runs code in the runtime; its errors carry the whole of its minified source, so they are cut. */
async function inRuntime(work, options = {}) {
  const { loadPyodide } = await import(join(runtime, 'pyodide.mjs'));
  const py = await loadPyodide({ indexURL: `${runtime}/`, ...options });
  try {
    return await work(py);
  } catch (error) {
    throw new Error(String(error.message ?? error).slice(0, 2000));
  }
}

const COMPILE = `
import compileall, os, pathlib, zipfile
root = pathlib.Path("/tree")
assert compileall.compile_dir(root, quiet=1, legacy=True, invalidation_mode=compileall.py_compile.PycInvalidationMode.UNCHECKED_HASH)
with zipfile.ZipFile("/bay.zip", "w", zipfile.ZIP_DEFLATED, compresslevel=9) as packed:
    for path in sorted(root.rglob("*")):
        if path.is_file() and path.suffix != ".py":
            info = zipfile.ZipInfo(str(path.relative_to(root)), (2020, 1, 1, 0, 0, 0))
            info.compress_type = zipfile.ZIP_DEFLATED
            packed.writestr(info, path.read_bytes())
`;

/**
 * What stands in the runtime's memory before any kit: it starts from there, instead of from nothing. Compiled modules are
 * linked after it, so what needs pydantic stays outside.
 */
const REMEMBERED = `
import sys
sys.path.insert(0, "/bay")
import json, zoneinfo, dataclasses, decimal, fractions, uuid, inspect, typing_extensions, annotated_types, temper_core.job.kinds
`;

const tree = mkdtempSync(join(tmpdir(), 'bay-'));
try {
  execFileSync(python, ['-m', 'tools.pack', tree], { cwd: root, stdio: ['ignore', 'inherit', 'inherit'] });
  const hash = createHash('sha256');
  for (const path of every(tree)) hash.update(relative(tree, path)).update(readFileSync(path));
  for (const name of RUNTIME) hash.update(readFileSync(join(runtime, name)));
  hash.update(REMEMBERED);
  const digest = hash.digest('hex').slice(0, 16);
  const folder = join(out, digest);
  if (!existsSync(join(folder, 'snapshot.bin'))) {
    rmSync(out, { recursive: true, force: true });
    mkdirSync(folder, { recursive: true });
    const packed = await inRuntime((py) => {
      py.FS.mkdir('/tree');
      for (const path of every(tree)) {
        const to = `/tree/${relative(tree, path)}`;
        py.FS.mkdirTree(dirname(to));
        py.FS.writeFile(to, new Uint8Array(readFileSync(path)));
      }
      py.runPython(COMPILE);
      return py.FS.readFile('/bay.zip');
    });
    writeFileSync(join(folder, 'bay.zip'), packed);
    const remembered = await inRuntime(
      (py) => {
        py.unpackArchive(packed, 'zip', { extractDir: '/bay' });
        py.runPython(REMEMBERED);
        return py.makeMemorySnapshot();
      },
      { _makeSnapshot: true },
    );
    writeFileSync(join(folder, 'snapshot.bin'), remembered);
    for (const name of RUNTIME) cpSync(join(runtime, name), join(folder, name));
  }
  writeFileSync(join(out, 'manifest.json'), `${JSON.stringify({ folder: digest })}\n`);
  console.log(
    `the core for browsers: web/bay/${digest}, ${(statSync(join(folder, 'bay.zip')).size / 1e6).toFixed(2)} MB`,
  );
} finally {
  rmSync(tree, { recursive: true, force: true });
}
process.exit(0);
