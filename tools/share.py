"""Print the share of tests in the code: non-blank lines, generated files and migrations left out."""

from __future__ import annotations

import re
import subprocess
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
CODE = re.compile(r"(\.(py|ts|tsx|css|mjs|cjs)|^temper)$")
NOT_CODE = re.compile(r"migrations/|\.gen\.|\.d\.ts$")
TEST = re.compile(r"(^tests/|\.(test|spec)\.tsx?$|(^|/)test_[^/]*\.py$|conftest\.py$)")


def non_blank(path: Path) -> int:
    """Lines with something on them."""
    return sum(1 for line in path.read_text(encoding="utf-8").splitlines() if line.strip())


def main() -> None:
    """Print the share, and the files that grew long."""
    listed = subprocess.run(
        ["git", "ls-files", "--cached", "--others", "--exclude-standard"],
        cwd=ROOT,
        capture_output=True,
        text=True,
        check=True,
    ).stdout.splitlines()
    code = [name for name in listed if CODE.search(name) and not NOT_CODE.search(name) and (ROOT / name).is_file()]
    lines = {name: non_blank(ROOT / name) for name in code}
    tests = sum(count for name, count in lines.items() if TEST.search(name))
    whole = sum(lines.values())
    print(f"tests are {100 * tests / whole:.0f} % of the code ({tests} of {whole} non-blank lines); the aim is 25 to 33 %")
    for name, count in lines.items():
        if count > 400:
            print(f"  long: {name}, {count} lines")


if __name__ == "__main__":
    main()
