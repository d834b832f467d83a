"""Habits that no linter knows: lock files without addresses, the OpenAPI document and the web's types up to date."""

from __future__ import annotations

import re
import subprocess
import sys
import tempfile
from pathlib import Path

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))

from tools import names

ROOT = Path(__file__).resolve().parent.parent
ADDRESS = re.compile(r'"resolved"|--(extra-)?index-url|--find-links|--trusted-host')


def locks_without_addresses() -> list[str]:
    """Lock files name packages, never where they were fetched."""
    locks = [ROOT / "web" / "package-lock.json", *(ROOT / "requirements").glob("*.txt")]
    found = []
    for lock in locks:
        lines = [line for line in lock.read_text().splitlines() if not line.startswith("#")]
        if any(ADDRESS.search(line) for line in lines):
            found.append(f"{lock.relative_to(ROOT)} holds a download address: make it again as CONTRIBUTING.md says.")
    return found


def schema_is_fresh() -> list[str]:
    """server/openapi.yml is what the code says."""
    said = subprocess.run(
        [sys.executable, str(ROOT / "server" / "manage.py"), "spectacular", "--fail-on-warn", "--validate"],
        capture_output=True,
        text=True,
        check=False,
    )
    if said.returncode != 0:
        return [f"The OpenAPI document cannot be made:\n{said.stderr}"]
    if said.stdout != (ROOT / "server" / "openapi.yml").read_text():
        return [
            "server/openapi.yml is stale: python server/manage.py spectacular --file server/openapi.yml, and read the diff."
        ]
    return []


def types_are_fresh() -> list[str]:
    """The web's types are generated from the committed document."""
    kept = ROOT / "web" / "src" / "api" / "schema.gen.ts"
    with tempfile.TemporaryDirectory() as folder:
        made = Path(folder) / "schema.gen.ts"
        subprocess.run(
            [
                "npx",
                "--no-install",
                "openapi-typescript",
                str(ROOT / "server" / "openapi.yml"),
                "--default-non-nullable=false",
                "-o",
                str(made),
            ],
            cwd=ROOT / "web",
            capture_output=True,
            check=True,
        )
        if made.read_text() != kept.read_text():
            return ["web/src/api/schema.gen.ts is stale: npm run types in web/."]
    return []


def names_are_fresh() -> list[str]:
    """The web's names of the trade are the core's."""
    if names.made() != names.KEPT.read_text():
        return ["web/src/api/names.gen.ts is stale: python -m tools.names."]
    return []


def text_is_tidy() -> list[str]:
    """No trailing blanks, a newline at the end, no merge markers, nothing large."""
    listed = subprocess.run(["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True).stdout.splitlines()
    wrong = []
    for name in listed:
        path = ROOT / name
        if not path.is_file() or path.suffix in (".png", ".woff2", ".ttf", ".xz"):
            continue
        text = path.read_text(encoding="utf-8")
        if re.search(r"^(<<<<<<<|>>>>>>>) ", text, re.M):
            wrong.append(f"{name} holds a merge marker.")
        if ".gen." not in name and re.search(r"[ \t]+$", text, re.M):
            wrong.append(f"{name} has blanks at the end of a line.")
        if text and not text.endswith("\n"):
            wrong.append(f"{name} does not end with a newline.")
        if len(text) > 800_000:
            wrong.append(f"{name} is large: does it belong here?")
    return wrong


def main() -> int:
    """Say what is wrong; 1 if anything is."""
    wrong = [*locks_without_addresses(), *text_is_tidy(), *schema_is_fresh(), *types_are_fresh(), *names_are_fresh()]
    for line in wrong:
        print(line)
    return 1 if wrong else 0


if __name__ == "__main__":
    raise SystemExit(main())
