"""Rounds of a flush as planned: what each leaves in every vessel, and how many reach the limit of the finished loop."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field

from temper_core.basis.errors import CoreError, check_between, under
from temper_core.basis.message import Message, say
from temper_core.calculate.flush.standing import Stand, Standing
from temper_core.calculate.mix import LARGEST_LOOP_L

OLD = "old"
MOST_VESSELS, MOST_ROUNDS = 40, 100
MOST_REPEATS = 200  # past this a flush is no flush


@dataclass(frozen=True, slots=True)
class FlushVessel:
    """A vessel, full to begin with; old_percent: volume share of old coolant in it."""

    name: str
    volume_l: float
    old_percent: float = 100.0

    def __post_init__(self) -> None:
        if not self.name.strip():
            raise CoreError("name", "A vessel has no name. Give it one.", "required")
        check_between("volume_l", self.volume_l, 0.001, LARGEST_LOOP_L, "L")
        check_between("old_percent", self.old_percent, 0, 100, "%", "The share of old coolant in it.")


@dataclass(frozen=True, slots=True)
class Rinse:
    """Water through one vessel while its drain is open."""

    name: str
    through_l: float

    def __post_init__(self) -> None:
        check_between("through_l", self.through_l, 0, 100 * LARGEST_LOOP_L, "L")


@dataclass(frozen=True, slots=True)
class FlushRound:
    """Fill, run, drain; or a rinse alone.

    fill_l None: to the cold mark. mixes None: all vessels become one; else the groups that circulate, by name.
    """

    fill_l: float | None = None
    mixes: Sequence[Sequence[str]] | None = None
    drained_l: Mapping[str, float] = field(default_factory=dict)
    rinse: Rinse | None = None

    def __post_init__(self) -> None:
        if self.fill_l is not None:
            check_between("fill_l", self.fill_l, 0, LARGEST_LOOP_L, "L")
        if self.rinse and (self.drained_l or self.fill_l is not None or self.mixes is not None):
            raise CoreError("rinse", "A rinse is a round of its own. Put the rest in another round.", "not_alone")
        for name, litres in self.drained_l.items():
            check_between(f"drained_l.{name}", litres, 0, LARGEST_LOOP_L, "L", "Litres out cannot be negative.")


@dataclass(frozen=True, slots=True)
class FlushQuestion:
    """All vessels full, a first drain, rounds as planned, and the limit for the finished loop [% old]."""

    vessels: tuple[FlushVessel, ...]
    first_drain_l: Mapping[str, float]
    rounds: tuple[FlushRound, ...]
    limit_percent: float

    def __post_init__(self) -> None:
        if not 1 <= len(self.vessels) <= MOST_VESSELS:
            raise CoreError("vessels", f"{len(self.vessels)} vessels: 1 to {MOST_VESSELS} are allowed.", "out_of_range")
        if len(self.rounds) > MOST_ROUNDS:
            raise CoreError("rounds", f"{len(self.rounds)} rounds: at most {MOST_ROUNDS} are allowed.", "out_of_range")
        names = [vessel.name for vessel in self.vessels]
        for i, name in enumerate(names):
            if name in names[:i]:
                raise CoreError(
                    f"vessels.{i}.name", f"Two vessels are called '{name}': name them differently.", "name_taken"
                )
        check_between("limit_percent", self.limit_percent, 0, 100, "%", "Old coolant allowed after refill.")
        with under("first_drain_l"):
            _check_known(self.first_drain_l, names)
            for name, litres in self.first_drain_l.items():
                check_between(name, litres, 0, LARGEST_LOOP_L, "L", "Litres out cannot be negative.")
        for i, one in enumerate(self.rounds):
            with under(f"rounds.{i}"):
                _check_round(one, names)


def _check_known(given: Mapping[str, float], names: Sequence[str]) -> None:
    for name in given:
        if name not in names:
            raise CoreError(name, f"No vessel is called '{name}': {', '.join(names)} are.", "unknown_vessel")


def _check_round(one: FlushRound, names: Sequence[str]) -> None:
    with under("drained_l"):
        _check_known(one.drained_l, names)
    if one.rinse and one.rinse.name not in names:
        message = f"No vessel is called '{one.rinse.name}': {', '.join(names)} are."
        raise CoreError("rinse.name", message, "unknown_vessel")
    seen: set[str] = set()
    for i, group in enumerate(one.mixes or ()):
        for k, name in enumerate(group):
            if name not in names:
                raise CoreError(f"mixes.{i}.{k}", f"No vessel is called '{name}': {', '.join(names)} are.", "unknown_vessel")
            if name in seen:
                message = f"'{name}' is in two groups. List it once."
                raise CoreError(f"mixes.{i}.{k}", message, "in_two_groups")
            seen.add(name)


@dataclass(frozen=True, slots=True)
class VesselAfter:
    """A vessel after a round: litres left in it, and the share of old coolant while it ran (None: it was empty)."""

    name: str
    inside_l: float
    old_percent: float | None


@dataclass(frozen=True, slots=True)
class AfterDrain:
    """After a drain: its vessels, the share of old coolant in what came out (None: nothing did), and what the finished
    full loop would hold of it."""

    vessels: tuple[VesselAfter, ...]
    drained_old_percent: float | None
    finished_old_percent: float


@dataclass(frozen=True, slots=True)
class FlushAnswer:
    """What follows from the rounds. water_l and waste_l: of the rounds as given, the first drain in the waste.

    rounds_to_limit: rounds until the finished loop would be within the limit, the last one repeated as often as it takes;
    0 where the first drain is enough, None with a reason if never. *_to_limit_l: water and waste up to there.
    """

    after_first_drain: AfterDrain
    rounds: tuple[AfterDrain, ...]
    rounds_to_limit: int | None
    water_l: float
    waste_l: float
    water_to_limit_l: float | None
    waste_to_limit_l: float | None
    reason: Message | None


@dataclass(frozen=True, slots=True)
class Step:
    """One drain or rinse as it acted: the state after it, what it showed, water in and waste out [l]."""

    standing: Standing
    shown: AfterDrain
    water_l: float
    waste_l: float


def start(vessels: Sequence[FlushVessel]) -> Standing:
    """All vessels full."""
    return Standing({v.name: Stand(v.volume_l, v.volume_l, {OLD: v.volume_l * v.old_percent / 100}) for v in vessels})


def drained(ran: Standing, out_l: Mapping[str, float], water_l: float) -> Step:
    """Drain what ran."""
    after = ran.drain(out_l)
    out = ran.litres - after.litres
    return Step(after, _shown(ran, after, out), water_l, out)


def run_round(standing: Standing, one: FlushRound) -> Step:
    """One round on what stands; raises CoreError for litres that cannot be."""
    if one.rinse:
        swept = standing.rinse(one.rinse.name, one.rinse.through_l)
        through = one.rinse.through_l
        gone = standing.total(OLD) - swept.total(OLD)
        share = 100 * gone / through if through > 0 else None
        return Step(swept, _shown(swept, swept, None, share), through, through)
    filled = standing.fill(one.fill_l)
    ran = filled.mix(one.mixes)
    with under("drained_l"):
        return drained(ran, one.drained_l, filled.litres - standing.litres)


def _shown(ran: Standing, after: Standing, out_l: float | None, share: float | None = None) -> AfterDrain:
    vessels = tuple(
        VesselAfter(name, after.vessels[name].litres, 100 * was.share(OLD) if was.litres > 0 else None)
        for name, was in ran.vessels.items()
    )
    if out_l:
        share = 100 * (ran.total(OLD) - after.total(OLD)) / out_l
    return AfterDrain(vessels, share, after.finished_percent(OLD))


def flush(q: FlushQuestion) -> FlushAnswer:
    """Walk the rounds; see FlushAnswer. Raises CoreError with the round's place for litres that cannot be.

    >>> q = FlushQuestion((FlushVessel("loop", 32),), {"loop": 24.5}, (FlushRound(drained_l={"loop": 24.5}),), 5)
    >>> a = flush(q)
    >>> [round(x.finished_old_percent, 1) for x in (a.after_first_drain, *a.rounds)], a.rounds_to_limit
    ([23.4, 5.5], 2)
    """
    standing = start(q.vessels)
    with under("first_drain_l"):
        first = drained(standing, q.first_drain_l, 0.0)
    steps = [first]
    for i, one in enumerate(q.rounds):
        with under(f"rounds.{i}"):
            steps.append(run_round(steps[-1].standing, one))
    planned = len(steps)
    rounds_to_limit, reason = _to_limit(q, steps)
    up_to = steps[: rounds_to_limit + 1] if rounds_to_limit is not None else None
    return FlushAnswer(
        after_first_drain=first.shown,
        rounds=tuple(step.shown for step in steps[1:planned]),
        rounds_to_limit=rounds_to_limit,
        water_l=sum(step.water_l for step in steps[:planned]),
        waste_l=sum(step.waste_l for step in steps[:planned]),
        water_to_limit_l=None if up_to is None else sum(step.water_l for step in up_to),
        waste_to_limit_l=None if up_to is None else sum(step.waste_l for step in up_to),
        reason=reason,
    )


def _to_limit(q: FlushQuestion, steps: list[Step]) -> tuple[int | None, Message | None]:
    """Rounds to the limit; lengthens `steps` by repeats of the last round."""
    for count, step in enumerate(steps):
        if step.shown.finished_old_percent <= q.limit_percent:
            return count, None
    if not q.rounds:
        return None, say("no_round", "The first drain alone does not reach the limit, and no round is planned.")
    for _ in range(MOST_REPEATS):
        before = steps[-1].shown.finished_old_percent
        try:
            steps.append(run_round(steps[-1].standing, q.rounds[-1]))
        except CoreError as error:
            return None, say("cannot_repeat", "The last round cannot be repeated: {why}", why=error.message)
        now = steps[-1].shown.finished_old_percent
        if now <= q.limit_percent:
            return len(steps) - 1, None
        if now >= before * (1 - 1e-6):
            break
    words = "These rounds do not get below {stuck_percent} old coolant: one vessel is not flushed."
    return None, say("never", words, stuck_percent=steps[-1].shown.finished_old_percent)
