"""Is Temper as sure as it says? True worlds are drawn, jobs are played on them, and every claim is held against the truth.

    ./temper check --coverage        10,000 worlds a single step, 500 jobs of each type on each layout; docs/coverage.json
    python -m tools.coverage 40      the same with 40 instead of 500, printed; with --store kept as well

docs/sources.md shows the stored table; `tools/sources.py --check` asks only that its version and seed are today's.
"""

from __future__ import annotations

import json
import math
import os
import sys
from collections import defaultdict
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from concurrent.futures import ProcessPoolExecutor
from dataclasses import dataclass
from importlib import import_module
from pathlib import Path
from random import Random
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from temper_core.job.job_types import JobType
    from temper_core.simulate.cases import Case

ROOT = Path(__file__).resolve().parent.parent
STORED = ROOT / "docs" / "coverage.json"
VERSION, SEED = 3, 19  # raise the version when the model of the worlds or the doubt changes
STEPS, JOBS, CONFUSED = 10_000, 500, 2_000
BELIEVED_PERCENT = 45.0


@dataclass
class Row:
    """One claim over many worlds: how often the truth lay in the 95 % interval, below it, above it; how wide it was."""

    what: str
    worlds: int = 0
    below: int = 0
    above: int = 0
    width: float = 0.0

    def count(self, truth: float, low: float, high: float) -> None:
        """One world more."""
        self.worlds += 1
        self.below += truth < low
        self.above += truth > high
        self.width += high - low

    @property
    def held(self) -> float:
        """Share of the worlds that the interval held [%]."""
        return 100 * (1 - (self.below + self.above) / max(1, self.worlds))


Claim = tuple[str, float, float, float]  # what, truth, low, high


# ---- single steps -------------------------------------------------------------------------------------------------


def drains(start: int, count: int) -> list[Claim]:
    """What stays inside after one drain: read or believed, weighed, by marks or guessed; and the mix planned on it."""
    from temper_core.job.job_types import JobType
    from temper_core.job.loop import CapacitySource
    from temper_core.simulate.cases import Case
    from temper_core.simulate.jobs import begin_and_drain

    ways: tuple[tuple[str, dict[str, Any]], ...] = (
        ("inside, weighed, strength read", {"source": CapacitySource.MANUAL}),
        ("inside, weighed, strength believed", {"source": CapacitySource.MEASURED, "read_found": False}),
        ("inside, by marks, level not looked at", {"way": "marks", "level_seen": False}),
        ("inside, guessed", {"way": "guessed", "source": CapacitySource.REMEMBERED}),
    )
    claims = []
    for n in range(start, start + count):
        for name, changes in ways:
            case = Case(JobType.REFILL, "degas_tank", rounds=0, believed_percent=BELIEVED_PERCENT, **changes)
            machine, state = begin_and_drain(case, SEED * 1_000_003 + n)
            claims.append((name, machine.inside_l, state.inside.likely_l.low, state.inside.likely_l.high))
    return claims


def readings(start: int, count: int) -> list[Claim]:
    """What one instrument says of one sample: glass and digital, zeroed or not, once or three times, on other scales."""
    from temper_core.basis.policy import Policy
    from temper_core.basis.quantity import MassFraction
    from temper_core.instruments import ReadingQuestion, repeats
    from temper_core.science import Glycol, freeze_point
    from temper_core.simulate.cases import TOOLS
    from temper_core.simulate.machine import show
    from temper_core.simulate.truth import draw_tool

    policy, claims = Policy(), []
    kinds = (("glass", 1, True), ("glass", 3, True), ("glass", 1, False), ("digital", 1, True), ("digital", 1, False))
    for n in range(start, start + count):
        rng = Random(f"{SEED} reading {n}")
        for name, times, zeroed in kinds:
            tool, w = draw_tool(TOOLS[name], rng, policy), rng.uniform(0.30, 0.54)
            zero = show(tool, Glycol.ETHYLENE, 0.0, rng) if zeroed else None
            questions = [
                ReadingQuestion(
                    Glycol.ETHYLENE, tool.instrument.scale, show(tool, Glycol.ETHYLENE, w, rng), zero=zero,
                    resolution=tool.instrument.resolution,
                )
                for _ in range(times)
            ]  # fmt: skip
            found = repeats(questions, policy)
            if found is None or found.likely is None:
                continue
            said = f"a reading, {name}, {'zeroed' if zeroed else 'zero not checked'}, {times} times"
            truth = freeze_point(Glycol.ETHYLENE, MassFraction(w)).at_most_c
            claims.append((said, truth, found.likely.low, found.likely.high))
    return claims


def cooling(start: int, count: int) -> list[Claim]:
    """When it is hand-warm, by two temperatures: a thermometer and a bay that are a little off."""
    from temper_core.basis.errors import CoreError
    from temper_core.basis.policy import Policy
    from temper_core.calculate.cooldown import AMBIENT_SD_K, POINT_SD_K, CooldownQuestion, CoolPoint, cooldown

    claims = []
    for n in range(start, start + count):
        rng = Random(f"{SEED} cooling {n}")
        tau, bay = rng.uniform(60, 180), rng.uniform(0, 20)
        minutes = (20.0, rng.uniform(45, 90))
        truth = tau * math.log((95 - bay) / (45 - bay))
        points = tuple(CoolPoint(t, bay + (95 - bay) * math.exp(-t / tau) + rng.gauss(0, POINT_SD_K)) for t in minutes)
        try:
            said = cooldown(CooldownQuestion(95, bay + rng.gauss(0, AMBIENT_SD_K), 45, 20.0, points), Policy())
        except CoreError:
            continue
        claims.append(("cooling by two temperatures", truth, said.minutes_low, said.minutes_high))
    return claims


# ---- whole jobs ---------------------------------------------------------------------------------------------------


def case_of(job_type: JobType, layout: str, rng: Random) -> Case:
    """How one job is done: instruments, sources and habits drawn as depots have them."""
    from temper_core.job.loop import CapacitySource
    from temper_core.simulate.cases import Case

    sources = (CapacitySource.MEASURED, CapacitySource.MANUAL, CapacitySource.MANUAL, CapacitySource.REMEMBERED)
    return Case(
        job_type,
        layout,
        tool=rng.choice(("digital", "glass")),
        source=rng.choice(sources),
        read_found=rng.random() < 0.8,
        read_rinses=rng.random() < 0.4,
        rounds=rng.choice((1, 2, 3)),
        readings=rng.choice((1, 3)),
        way=rng.choice(("weighed", "weighed", "marks", "guessed")),
        level_seen=rng.random() < 0.7,
    )


def jobs(job_type: str, layout: str, start: int, count: int) -> list[Claim]:
    """Claims of whole jobs."""
    from temper_core.job.job_types import JobType
    from temper_core.simulate.jobs import play

    claims = []
    for n in range(start, start + count):
        case = case_of(JobType(job_type), layout, Random(f"{SEED} {job_type} {layout} {n}"))
        for one in play(case, SEED * 1_000_003 + n).claims:
            claims.append((one.what, one.truth, one.interval.low, one.interval.high))
    return claims


LESSON_CLAIMS = {"inside_l": "inside", "old_percent": "old share", "freeze_c": "freeze point"}


def lessons(key: str, start: int, count: int) -> list[Claim]:
    """What the record of a practised lesson believes at its steps, played right, beside the truth of its world."""
    hands: Any = import_module("tests.core.test_lessons")  # tests are not typed
    claims = []
    for n in range(start, start + count):
        player = hands.Player(key, SEED * 1_003 + n)
        hands.RIGHT[key](player)
        for step in player.back().steps[1:]:
            for name, what in LESSON_CLAIMS.items():
                one = getattr(step, name)
                if one is not None:
                    claims.append((f"{key.replace('-', ' ')}: {what}", one.true, one.believed.low, one.believed.high))
    return claims


# ---- verdicts -----------------------------------------------------------------------------------------------------

CONFUSIONS: dict[str, dict[str, Any]] = {
    "digital, capacity by the manual": {},
    "1 °C glass, capacity by the manual": {"tool": "glass"},
    "digital, capacity remembered": {"source": "remembered"},
    "1 °C glass, capacity measured": {"tool": "glass", "source": "measured"},
    "digital, 15 % less product poured than recorded": {"spilled": 0.15},
    "1 °C glass, 15 % less product poured than recorded": {"tool": "glass", "spilled": 0.15},
}


def verdicts(name: str, start: int, count: int) -> list[tuple[str, bool]]:
    """(verdict, whether the truth freezes warmer than the coldest expected) of change-type jobs."""
    from temper_core.job.job_types import JobType
    from temper_core.job.loop import CapacitySource
    from temper_core.simulate.cases import LAYOUTS, Case
    from temper_core.simulate.jobs import play

    changes = dict(CONFUSIONS[name])
    if "source" in changes:
        changes["source"] = CapacitySource(changes["source"])
    rows = []
    for n in range(start, start + count):
        case = Case(
            JobType.CHANGE_TYPE, LAYOUTS[n % len(LAYOUTS)], readings=3, **{"source": CapacitySource.MANUAL} | changes
        )
        played = play(case, SEED * 1_000_003 + n)
        proof = played.state.proof if played.state is not None else None
        rows.append((proof.verdict.value if proof else "none", played.machine.freezes_c > case.coldest_c))
    return rows


# ---- all of it ----------------------------------------------------------------------------------------------------


def _pieces(worlds: int, piece: int) -> Iterator[tuple[int, int]]:
    for start in range(0, worlds, piece):
        yield start, min(piece, worlds - start)


def _tasks(steps: int, each: int, confused: int) -> Iterator[tuple[str, Callable[..., Any], tuple[Any, ...]]]:
    from temper_core.simulate.cases import LAYOUTS
    from temper_core.simulate.jobs import JOB_TYPES

    for step in (drains, readings, cooling):
        for start, count in _pieces(steps, 250):
            yield "step", step, (start, count)
    for job_type in JOB_TYPES:
        for layout in LAYOUTS:
            for start, count in _pieces(each, 50):
                yield job_type.value, jobs, (job_type.value, layout, start, count)
    practice: Any = import_module("tests.core.test_practice")
    for key in practice.HONEST:
        for start, count in _pieces(max(1, each // 5), 10):
            yield "lesson", lessons, (key, start, count)
    for name in CONFUSIONS:
        for start, count in _pieces(confused, 50):
            yield f"verdict {name}", verdicts, (name, start, count)


def measure(steps: int = STEPS, each: int = JOBS, confused: int = CONFUSED) -> dict[str, Any]:
    """The whole table as it is stored."""
    rows: dict[tuple[str, str], Row] = {}
    confusion: dict[str, dict[str, int]] = defaultdict(lambda: defaultdict(int))
    with ProcessPoolExecutor(os.cpu_count()) as pool:
        running = [(kind, pool.submit(task, *given)) for kind, task, given in _tasks(steps, each, confused)]
        for done, (kind, future) in enumerate(running, 1):
            if kind.startswith("verdict "):
                _confuse(confusion[kind.removeprefix("verdict ")], future.result())
            else:
                for what, truth, low, high in future.result():
                    rows.setdefault((kind, what), Row(what)).count(truth, low, high)
            if sys.stderr.isatty():
                print(f"\r{done} of {len(running)}", end="", file=sys.stderr)
    return {
        "version": VERSION,
        "seed": SEED,
        "rows": [{"job": kind, **vars(row)} for (kind, _), row in sorted(rows.items())],
        "verdicts": {name: dict(row) for name, row in confusion.items()},
    }


def _confuse(row: dict[str, int], found: Iterable[tuple[str, bool]]) -> None:
    for verdict, warmer in found:
        row["worlds"] += 1
        row[verdict] += 1
        row["warmer"] += warmer
        row["green_and_warmer"] += warmer and verdict in ("proven", "protected")
        row["sound"] += not warmer
        row["sound_and_green"] += (not warmer) and verdict in ("proven", "protected")
        row["sound_and_disagree"] += (not warmer) and verdict == "does_not_agree"


# ---- shown --------------------------------------------------------------------------------------------------------


def bounds(worlds: int, whole_job: bool) -> tuple[float, float]:
    """Share of held worlds that still agrees with 95 % [%]: the 99.9 % binomial bounds; of whole jobs 93.5 to 96.5."""
    if whole_job:
        return 93.5, 96.5
    half = 100 * 3.29 * math.sqrt(0.95 * 0.05 / max(1, worlds))
    return 95 - half, 95 + half


_VERDICTS = (
    ("proven", "verified"), ("protected", "protected, off target"), ("read_again", "read again"), ("too_weak", "too weak"),
    ("too_strong", "past the maximum"), ("does_not_agree", "does not agree"), ("none", "none"),
)  # fmt: skip


def tables(stored: Mapping[str, Any]) -> str:
    """The stored measurement as two tables for the page of sources."""
    lines = ["| job | claim | worlds | held | below | above | mean width |", "|---|---|---|---|---|---|---|"]
    for row in stored["rows"]:
        worlds = max(1, row["worlds"])
        held = 100 * (1 - (row["below"] + row["above"]) / worlds)
        name = "single step" if row["job"] == "step" else row["job"].replace("_", " ")
        lines.append(
            f"| {name} | {row['what']} | {row['worlds']} | {held:.1f} % | {100 * row['below'] / worlds:.1f} % | "
            f"{100 * row['above'] / worlds:.1f} % | {row['width'] / worlds:.2f} |"
        )
    heads = " | ".join(name for _, name in _VERDICTS)
    lines += ["", f"| jobs | worlds | {heads} | truth warmer, and green | sound, and green |", "|---" * 11 + "|"]
    for name, row in stored["verdicts"].items():
        worlds, sound = max(1, row["worlds"]), max(1, row["sound"])
        shares = " | ".join(f"{100 * row.get(code, 0) / worlds:.1f} %" for code, _ in _VERDICTS)
        lines.append(
            f"| {name} | {row['worlds']} | {shares} | {100 * row['green_and_warmer'] / worlds:.2f} % | "
            f"{100 * row['sound_and_green'] / sound:.1f} % |"
        )
    return "\n".join(lines)


def main(given: Sequence[str]) -> int:
    """Measure and store, or measure a few and print."""
    if given:
        each = int(given[0])
        found = measure(20 * each, each, 4 * each)
        print(tables(found))
        if "--store" in given:
            STORED.write_text(json.dumps(found, indent=1) + "\n")
        return 0
    STORED.write_text(json.dumps(measure(), indent=1) + "\n")
    print(f"temper: wrote {STORED.relative_to(ROOT)}; now ./temper check --sources")
    return 0


if __name__ == "__main__":
    raise SystemExit(main(sys.argv[1:]))
