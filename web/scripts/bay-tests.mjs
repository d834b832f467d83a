/**
 * Runs the core's tests in the browser's own Python, under Node, against the packed files that a tablet computes with: the
 * examples of every module, and those tests that need no library compiled for another machine (tests/in_browser.py).
 * Prints {modules, tried, failed, passed, wrong, said}.
 */
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { start } from './start-bay.mjs';

const site = process.argv[2]; // of the Python that has pytest

const TESTS = `
import doctest, importlib, io, json, os, pkgutil, sys
from contextlib import redirect_stdout
sys.path[:0] = ["/bay", "/repo"]
sys.path.append("/site")
sys.dont_write_bytecode = True
os.environ["PYTEST_DISABLE_PLUGIN_AUTOLOAD"] = "1"
os.chdir("/repo")
import temper_core
assert temper_core.__file__.startswith("/bay/")
said, tried, failed, modules = io.StringIO(), 0, 0, 0
with redirect_stdout(said):
    for row in pkgutil.walk_packages(temper_core.__path__, "temper_core."):
        found = doctest.testmod(importlib.import_module(row.name))
        modules, tried, failed = modules + 1, tried + found.attempted, failed + found.failed

import pytest

class Counted:
    passed, wrong = 0, 0
    def pytest_runtest_logreport(self, report):
        self.passed += report.when == "call" and report.passed
        self.wrong += report.failed
    def pytest_collectreport(self, report):
        self.wrong += report.failed

counted = Counted()
with redirect_stdout(said):
    # the long walks stay with the server's Python: two minutes here
    pytest.main(
        ["-q", "-c", "/dev/null", "--rootdir=/repo", "--noconftest", "--import-mode=importlib", "-p", "no:cacheprovider",
         "-p", "no:doctest", "-p", "tests.in_browser", "-k", "not within_what_can_be",
         "--ignore=tests/core/test_house.py", "tests/core"],  # the house is looked at where its sources are,
        plugins=[counted],
    )
json.dumps({"modules": modules, "tried": tried, "failed": failed, "passed": counted.passed, "wrong": counted.wrong,
            "said": said.getvalue()[-4000:]})
`;

try {
  const py = await start();
  for (const [to, from] of [
    ['/repo', join(dirname(fileURLToPath(import.meta.url)), '..', '..')],
    ['/site', site],
  ]) {
    py.FS.mkdirTree(to);
    py.mountNodeFS(to, from);
  }
  console.log(py.runPython(TESTS));
  process.exit(0);
} catch (error) {
  console.error(String(error.message ?? error).slice(-3000)); // its stack holds the whole minified runtime
  process.exit(1);
}
