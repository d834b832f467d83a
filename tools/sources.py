"""Write docs/sources.md: every published figure, where it comes from, and how far Temper stands from a reference.

The measured part is made from tests/accuracy.py, which the tests hold to the same limits; `./temper check` refuses a
stale page.
"""

from __future__ import annotations

import json
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
PAGE = ROOT / "docs" / "sources.md"
HEAD = ROOT / "docs" / "sources.head.md"
TAIL = ROOT / "docs" / "sources.tail.md"


COVERAGE_HEAD = """## Is it as sure as it says?

True worlds were drawn by the rules of "how sure", jobs were played on them, and each 95 % interval was held against the
truth: how often it held, how often the truth lay below and above, how wide it was on average (L, %, degC, minutes).
Whole jobs are of every type on six layouts, with instruments, sources of the capacity and habits drawn. `./temper check
--coverage` makes the tables. "Protects to" is an upper end only. Green is verified or protected. Of a
lesson: every step of the record in thirty worlds, which are not independent of each other.

Outside the aims: *a reading* in a job holds 97 to 98 %, wider than it need be; why was not looked into. *Guessed*
litres hold 94.3 %. Sound jobs with *a capacity from memory* are green in 87 % with a digital instrument (aim 90):
their plan is that uncertain, and the verdict says what to do, a colder target or a measured capacity. With 15 % less
product poured than was recorded hardly any job is sound, and what is green of the rest is counted over few.

In these worlds a bottle that no drain reaches stays as it is. Whoever lifts it out has to record it as a place of its
own: emptied into the same bucket, unsaid, its litres are taken for the radiator's, and the old share came out too
high in one job of four.
"""


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
    measured = f"{HEAD.read_text().rstrip()}\n\n" + "\n".join(rows)
    return f"{measured}\n\n{coverage()}\n\n{TAIL.read_text().rstrip()}\n"


def coverage() -> str:
    """The stored measurement of how sure Temper is; ValueError where it is of another version or seed."""
    from tools.coverage import SEED, STORED, VERSION, tables

    if not STORED.exists():
        return f"{COVERAGE_HEAD}\n\nNot measured yet: `./temper check --coverage`."
    stored = json.loads(STORED.read_text())
    if (stored["version"], stored["seed"]) != (VERSION, SEED):
        raise ValueError("docs/coverage.json is of another version or seed: run ./temper check --coverage.")
    return f"{COVERAGE_HEAD}\n\n{tables(stored)}"


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
