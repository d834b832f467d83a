"""Look for phrases that docs/words.md replaced, in everything that a person reads; fails where one stands.

Read are: strings of the core, the server, the demo and the command (docstrings left out: code is not read on a bay), strings
and texts of the front end, the guide, the README and the descriptions of the API. A phrase may stand where EXCEPT says so,
with the reason.
"""

from __future__ import annotations

import ast
import json
import re
import subprocess
import sys
from collections.abc import Iterator
from functools import cache
from pathlib import Path

import yaml

ROOT = Path(__file__).resolve().parent.parent
WORDS = ROOT / "docs" / "words.md"
PYTHON = ("core/temper_core", "server", "demo", "temper")
DOCS = ("README.md", "docs/guide.md", "docs/readings.md")
# phrase: files where it may stand, by a pattern, and why
EXCEPT = {
    "proof": (r"openapi|/facts\.py|mix/plan\.py", "the name of a field"),
    "policy": (r"openapi\.yml|server/jobs/models\.py", "help of a column, which a migration holds"),
    "ledger": (r"server/config/urls\.py|App\.tsx", "an address of before"),
    "sweep": (r"README|guide", "the name of a folder"),
}
Line = tuple[str, int, str]


def replaced() -> list[str]:
    """The phrases of both tables that are used no more."""
    found = []
    for line in WORDS.read_text(encoding="utf-8").splitlines():
        cells = [cell.strip() for cell in line.strip("|").split("|")]
        if not line.startswith("|") or set(line) <= set("|- "):
            continue
        column = cells[2] if len(cells) == 3 else cells[0]
        found += [phrase.strip() for phrase in column.split(";") if phrase.strip() and phrase.strip() != "not"]
    return found


def python_strings() -> Iterator[Line]:
    """Strings with a blank in them, but for docstrings."""
    for place in PYTHON:
        root = ROOT / place
        for path in [root] if root.is_file() else sorted(root.rglob("*.py")):
            if "migrations" not in path.parts:
                yield from _strings_of(path)


def _strings_of(path: Path) -> Iterator[Line]:
    tree = ast.parse(path.read_text(encoding="utf-8"))
    kinds = (ast.Module, ast.ClassDef, ast.FunctionDef, ast.AsyncFunctionDef)
    docstrings = {id(_first_value(node)) for node in ast.walk(tree) if isinstance(node, kinds)}
    for node in ast.walk(tree):
        if not isinstance(node, ast.Constant) or not isinstance(node.value, str) or id(node) in docstrings:
            continue
        if " " in node.value.strip():
            yield str(path.relative_to(ROOT)), node.lineno, node.value


def _first_value(node: ast.Module | ast.ClassDef | ast.FunctionDef | ast.AsyncFunctionDef) -> ast.expr | None:
    """What stands alone as the first statement: a docstring."""
    first = node.body[0] if node.body else None
    return first.value if isinstance(first, ast.Expr) else None


def web_strings() -> Iterator[Line]:
    """Strings and texts of the front end."""
    done = subprocess.run(["node", "scripts/strings.mjs"], cwd=ROOT / "web", capture_output=True, text=True, check=True)
    for line in done.stdout.splitlines():
        file, at, text = json.loads(line)
        yield file, at, text


def doc_lines() -> Iterator[Line]:
    """Lines of the guide, without what stands as code."""
    for name in DOCS:
        for at, line in enumerate((ROOT / name).read_text(encoding="utf-8").splitlines(), 1):
            yield name, at, re.sub(r"`[^`]*`", "", line)


@cache
def _patterns() -> list[tuple[str, re.Pattern[str]]]:
    after = {"safe to": "(?! open| be)"}  # the safe-to-open check
    bounds = r"(?<![\w-]){}(?![\w-]){}"
    return [(one, re.compile(bounds.format(re.escape(one), after.get(one, "")), re.I)) for one in replaced()]


def phrases_in(text: str) -> list[str]:
    """The replaced phrases that stand in a text."""
    plain = re.sub(r"{\w+}", "", text)
    return [phrase for phrase, pattern in _patterns() if pattern.search(plain)]


def api_lines() -> Iterator[Line]:
    """Descriptions of the API's document."""
    name = "server/openapi.yml"
    document = yaml.safe_load((ROOT / name).read_text(encoding="utf-8"))
    for text in _descriptions(document):
        yield name, 1, re.sub(r"`[^`]*`", "", text)


def _descriptions(part: object) -> Iterator[str]:
    if isinstance(part, dict):
        for key, value in part.items():
            if key in ("description", "summary") and isinstance(value, str):
                yield value
            else:
                yield from _descriptions(value)
    elif isinstance(part, list):
        for value in part:
            yield from _descriptions(value)


def main() -> int:
    """Print each phrase where it stands; 1 where there is any."""
    found = 0
    for file, at, text in (*python_strings(), *web_strings(), *doc_lines(), *api_lines()):
        for phrase in phrases_in(text):
            if phrase in EXCEPT and re.search(EXCEPT[phrase][0], file):
                continue
            print(f"{file}:{at}: “{phrase}” in: {' '.join(text.split())[:150]}")
            found += 1
    print(f"{len(replaced())} replaced phrases looked for, {found} found (docs/words.md)")
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())
