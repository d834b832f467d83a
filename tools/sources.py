"""Write docs/sources.md: every published figure, where it comes from, and how far Temper stands from a reference.

The measured part is made from tests/accuracy.py, which the tests hold to the same limits; `./temper check` refuses a
stale page.
"""

from __future__ import annotations

import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
PAGE = ROOT / "docs" / "sources.md"
HEAD = ROOT / "docs" / "sources.head.md"
TAIL = ROOT / "docs" / "sources.tail.md"


def rounded(value: float, within: float) -> str:
    """Two figures of the limit's size: finer would differ from machine to machine."""
    decimals = 0
    while within * 10**decimals < 10 and decimals < 5:
        decimals += 1
    return f"{value:.{decimals}f}"


def page() -> str:
    """The whole page."""
    from tests.accuracy import MEASURES

    rows = ["| quantity | range | reference | largest deviation | allowed |", "|---|---|---|---|---|"]
    for m in MEASURES:
        unit = f" {m.unit}" if m.unit else ""
        deviation = rounded(float(m.largest()), m.within)
        rows.append(f"| {m.quantity} | {m.range} | {m.reference} | {deviation}{unit} | {m.within:g}{unit} |")
    return f"{HEAD.read_text().rstrip()}\n\n" + "\n".join(rows) + f"\n\n{TAIL.read_text().rstrip()}\n"


def main() -> int:
    """Write the page; with --check only say whether it is stale."""
    made = page()
    if "--check" in sys.argv:
        if PAGE.read_text() != made:
            print("docs/sources.md is stale: ./temper check --sources, and read the diff.")
            return 1
        return 0
    PAGE.write_text(made)
    print(f"temper: wrote {PAGE.relative_to(ROOT)}")
    return 0


if __name__ == "__main__":
    raise SystemExit(main())
