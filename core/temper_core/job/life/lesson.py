"""What a job measured of its machine, and what that says of the next one: drained share, exchange, first fill, cooling."""

from __future__ import annotations

import math
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from temper_core.basis.message import Message, say
from temper_core.basis.uncertainty import Interval
from temper_core.calculate.pooling import pooled
from temper_core.job.drain.facts import Measured
from temper_core.job.drain.state import DrainedVolume
from temper_core.job.flush.facts import RoundFilled
from temper_core.job.fold_state import LedgerFold
from temper_core.job.loop import COOLING, DRAIN, FILL, ROUND, Loop, drain_key

Lesson = Mapping[str, float]
SHARE_SD, COOLING_SD = 0.03, 0.15  # usual spread of a share of the litres, of the logarithm of minutes; own default
MOST_JOBS = 12  # of one machine: what came long before says little of its taps today


def note_out(t: LedgerFold, out: DrainedVolume, held_l: float) -> None:
    """A drain that was measured teaches its share of the litres inside [l]: of the first one, of each drain, of a round."""
    job = t.job
    if Measured.GUESSED.value in out.ways or held_l <= 0 or out.litres > held_l:
        return
    row = job.flush.rounds[-1] if job.flush.rounds else None
    if row is None or row.out_l is None:
        return
    if row.facts is not None:
        if isinstance(row.facts, RoundFilled) and row.facts.fill_l is None:
            job.lesson.append((ROUND, out.litres / held_l))
        return
    if any(key == DRAIN or key.startswith(f"{DRAIN}:") for key, _ in job.lesson):
        return  # more of the same drain: what is left then is another share
    letters = {drain.letter for drain in t.loop.layout.drains}
    named = {place: litres for place, litres in out.by_place.items() if place in letters}
    job.lesson += [(drain_key(place), litres / held_l) for place, litres in named.items()]
    if not named or set(named) == letters:
        job.lesson.append((DRAIN, out.litres / held_l))


def lesson_of(t: LedgerFold) -> dict[str, float]:
    """What the job of this fold taught, by its key; the mean where it measured more than once."""
    found: dict[str, list[float]] = {}
    for key, value in t.job.lesson:
        found.setdefault(key, []).append(value)
    pours = t.job.pours
    in_l, first_l = (sum(p.product_l + p.water_l for p in pours if not p.bleeding or more) for more in (True, False))
    if t.job.fill.ended and t.job.fill.corrected is None and pours and pours[-1].at_mark and in_l > 0 and first_l < in_l:
        found[FILL] = [first_l / in_l]
    return {key: sum(values) / len(values) for key, values in found.items()}


@dataclass(frozen=True, slots=True)
class Offer:
    """What a machine's jobs say of one figure, offered to a lead. shares of the litres inside, minutes of cooling.

    likely: of the next job. jobs: of this machine and its sisters; own: of this machine. said: in words.
    """

    key: str
    value: float
    sd: float
    likely: Interval
    jobs: int
    own: int
    sisters: int
    said: Message


def offers(loop: Loop, own: Sequence[Lesson], sisters: Sequence[Sequence[Lesson]]) -> list[Offer]:
    """What can be offered of a loop, by its own jobs and those of its sisters, the oldest first."""
    own, sisters = own[-MOST_JOBS:], [rows[-MOST_JOBS:] for rows in sisters]
    keys = sorted({key for rows in (own, *sisters) for lesson in rows for key in lesson}, key=_order)
    found = (_offer(loop, key, _values(own, key), [_values(rows, key) for rows in sisters]) for key in keys)
    return [row for row in found if row is not None]


def _order(key: str) -> tuple[int, str]:
    return ((DRAIN, ROUND, FILL, COOLING).index(key.split(":")[0]), key)


def _values(lessons: Iterable[Lesson], key: str) -> list[float]:
    return [lesson[key] for lesson in lessons if lesson.get(key, 0.0) > 0]


def _offer(loop: Loop, key: str, own: list[float], sisters: list[list[float]]) -> Offer | None:
    logs = key == COOLING  # a time constant varies by a factor
    usual = COOLING_SD if logs else SHARE_SD
    rows = [[math.log(value) for value in group] if logs else group for group in (own, *sisters)]
    found = pooled(rows[0], rows[1:], usual, usual)
    if found is None:
        return None
    value, low, high = found.value, found.likely.low, found.likely.high
    if logs:
        value, low, high = math.exp(value), math.exp(low), math.exp(high)
    else:
        low, high = max(0.0, low), min(1.0, high)
    sd = value * found.sd if logs else found.sd
    return Offer(
        key,
        value,
        sd,
        Interval(low, high),
        found.figures,
        found.own,
        found.sisters,
        said_of(loop, key, value, Interval(low, high)),
    )


def said_of(loop: Loop, key: str, value: float, likely: Interval) -> Message:
    """One figure in words, with where the next one lies."""
    capacity_l = loop.capacity_l
    litres = {"next_l": value * capacity_l, "low_l": likely.low * capacity_l, "high_l": likely.high * capacity_l}
    if key == COOLING:
        shown = {"minutes": f"{value:.0f}", "low": f"{likely.low:.0f}", "high": f"{likely.high:.0f}"}
        words = "Its warmth above the bay falls to a third in {minutes} min ({low} to {high})."
        return say("taught_cooling", words, **shown)
    if key == ROUND:
        shown = {"percent": f"{100 * value:.0f} %", "low": f"{100 * likely.low:.0f}", "high": f"{100 * likely.high:.0f} %"}
        return say("taught_round", "A rinse exchanges {percent} of what is inside ({low} to {high}).", **shown)
    if key == FILL:
        shown = {"percent": f"{100 * value:.0f} %", "low": f"{100 * likely.low:.0f}", "high": f"{100 * likely.high:.0f} %"}
        words = "It takes {percent} ({low} to {high}) of its fill before the bleed, the rest while the air comes out."
        return say("taught_fill", words, **shown)
    if key == DRAIN:
        return say("taught_drain", "A drain gives {next_l} ({low_l} to {high_l}) from the full loop.", **litres)
    place = key.split(":", 1)[1]
    return say(
        "taught_drain_at", "Drain {place} gives {next_l} ({low_l} to {high_l}) from the full loop.", place=place, **litres
    )
