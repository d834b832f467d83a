"""A loop's life on one line: readings, top-ups, services, the target in force, and what a falling strength means."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from temper_core.basis.errors import CoreError
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.instruments import read, repeats
from temper_core.instruments.trend import TrendPoint, trend
from temper_core.job.entries import Entry, standing
from temper_core.job.fill.facts import Poured
from temper_core.job.fold_state import LedgerFold, start
from temper_core.job.inside.questions import finished_questions
from temper_core.job.inspect.advice import due_of
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.job_types import JobType
from temper_core.job.kinds import REGISTRY
from temper_core.job.life.account.balance import LevelPoint, balance
from temper_core.job.life.account.losing import losing
from temper_core.job.life.account.loss import Loss
from temper_core.job.life.account.settling import Settling, settling_of
from temper_core.job.life.age import AgePart
from temper_core.job.life.conducting import Conducting, conducting_of
from temper_core.job.life.reserve import Reserve, reserve_of
from temper_core.job.loop import Loop
from temper_core.job.read.apply import found_strength
from temper_core.job.read.facts import Listed, Place, Read, counted, question_of
from temper_core.job.verify.facts import SignedOff
from temper_core.products.conductivity import limit_for
from temper_core.science import freeze_point, mass_fraction_of, strength_of


class EventKind(StrEnum):
    """What stands on the line."""

    READING = "reading"
    TOP_UP = "top_up"
    SERVICE = "service"
    CHECK = "check"
    OVERRIDE = "override"


@dataclass(frozen=True, slots=True)
class Event:
    """One point of the line. strength_percent, freeze_c: measured, or for a top-up and a service what the litres predict.

    target_c: the target in force then; sd_percent: of a measured strength; litres: what went in.
    """

    entry_id: str
    at: datetime
    kind: EventKind
    said: Message
    strength_percent: float | None = None
    sd_percent: float | None = None
    freeze_c: float | None = None
    target_c: float | None = None
    litres: float | None = None
    predicted_percent: float | None = None


@dataclass(frozen=True, slots=True)
class Slope:
    """How fast the strength moves between services [% by volume a month], with its 95 % half-width, from n readings.

    leaks: it falls, by more than chance and more than the rules allow. lost_l: plain water that would explain it.
    """

    percent_per_month: float
    half_width: float
    count: int
    leaks: bool
    lost_l: float
    said: Message


@dataclass(frozen=True, slots=True)
class AgeMoment:
    """Of which ages the filling was from then on."""

    at: datetime
    parts: tuple[AgePart, ...]


@dataclass(frozen=True, slots=True)
class History:
    """A loop's life, oldest first, and the slope since its last service; None with fewer than two readings since.

    loss: by its level and what went in since; None with fewer than three looks. levels: the looks at it since the last fill.
    ages: of what the filling consisted, whenever that changed. reserve: None where an age is not known. settling: the
    first days of the fill; None where nobody looked.
    conducting: of a low-conductivity loop.
    """

    events: tuple[Event, ...]
    slope: Slope | None
    loss: Loss | None
    levels: tuple[LevelPoint, ...]
    ages: tuple[AgeMoment, ...]
    reserve: Reserve | None
    settling: Settling | None
    conducting: Conducting | None


def history(loop: Loop, entries: Sequence[Entry], policy: Policy | None = None, now: datetime | None = None) -> History:
    """The line of a loop from its ledger; entries in any order. Never raises on a record whose entries were validated.

    now: the depot's clock; without it no reserve is reckoned.
    """
    policy = policy or Policy()
    t, events, target = start(loop, policy), [], None
    ages: list[AgeMoment] = []
    for entry in standing(entries):
        if isinstance(entry.facts, SignedOff):
            events.extend(_left(t, entry))
        REGISTRY.apply(t, entry)
        if t.job.mix.planned and t.job.mix.planned.target_freeze_c is not None:
            target = t.job.mix.planned.target_freeze_c
        parts = tuple(t.life.parts)
        if parts and (not ages or ages[-1].parts != parts):
            ages.append(AgeMoment(entry.happened_at, parts))
        event = _event(t, entry, target)
        if event:
            events.append(event)
    due = due_of(t, now)
    reserve = reserve_of(t.life.parts, due.life.months, now.date()) if due is not None and now is not None else None
    limit = limit_for(loop.need.use, loop.equipment.conductivity_limit_us_cm, policy)
    conducting = conducting_of(t.life.conducted, limit) if loop.need.low_conductivity else None
    settling = settling_of(t.life.movements, policy)
    slope, levels = _slope(loop, events, policy), balance(t.life.movements)
    return History(tuple(events), slope, losing(t), levels, tuple(ages), reserve, settling, conducting)


def _event(t: LedgerFold, entry: Entry, target: float | None) -> Event | None:
    match entry.facts:
        case Read() as facts:
            return _reading(t, facts, entry, target)
        case Listed(facts):
            return _reading(t, facts, entry, target)
        case Poured() as facts if t.job.drained is None or entry.job_id is None:
            litres = facts.product_l + facts.water_l
            strength = t.contents.strength if t.strength_known else None
            said = say("topped_up", "Topped up, {in_l}.", in_l=litres)
            freeze_c = None if strength is None else _freeze(t, strength)
            return Event(
                entry.id, entry.happened_at, EventKind.TOP_UP, said, strength, None, freeze_c, target, litres, strength
            )
        case JobTypeChosen() as facts if facts.overrides:
            words = "Against the advice ({advised}): {job_type}. {reason}"
            names = {"advised": facts.advised.replace("_", " "), "job_type": facts.job_type.replace("_", " ")}
            said = say("overridden", words, reason=facts.reason, **names)
            return Event(entry.id, entry.happened_at, EventKind.OVERRIDE, said)
    return None


def _reading(t: LedgerFold, facts: Read, entry: Entry, target: float | None) -> Event | None:
    if facts.place is Place.FINISHED and not facts.after_hot_run:
        return None  # it read the last pour
    if facts.instrument is not None and not counted(facts):
        return None
    sd = None
    if facts.instrument:
        try:
            answer = read(question_of(t.glycol, facts), t.policy)
        except CoreError:  # from a list, of a time when the loop held another glycol than now
            return None
        strength, sd = answer.strength_percent, answer.spread.strength_percent if answer.spread else None
    else:
        strength = found_strength(t.glycol, facts, t.policy)
    if strength is None:
        return None
    freeze_c = _freeze(t, strength)
    where = "as found" if facts.place is Place.AS_FOUND else "finished"
    said = say(
        "read", "Read {freeze_c}, {where}.", freeze_c=freeze_c if freeze_c is not None else "not tabulated", where=where
    )
    return Event(entry.id, entry.happened_at, EventKind.READING, said, strength, sd, freeze_c, target)


def _left(t: LedgerFold, entry: Entry) -> list[Event]:
    """How a job left the loop: predicted by the litres, measured by the readings."""
    if not t.job.pours:
        said = say("checked", "Checked, nothing poured.")
        return [Event(entry.id, entry.happened_at, EventKind.CHECK, said)]
    if t.job.job_type is JobType.TOP_UP:
        return []  # its pour and its readings stand on the line already; the filling is the old one
    questions = finished_questions(t)
    together = repeats(questions, t.policy) if questions else None
    predicted = strength_of(t.glycol, t.contents.total.glycol_w)
    measured = together.strength_percent if together else None
    target = t.job.mix.planned.target_freeze_c if t.job.mix.planned else None
    if measured is None:
        said = say("left", "After the job, litres predict {predicted_percent}.", predicted_percent=predicted)
    else:
        words = "After the job: litres predicted {predicted_percent}, read {measured_percent}."
        said = say("left_read", words, predicted_percent=predicted, measured_percent=measured)
    shown = measured if measured is not None else predicted
    return [
        Event(
            entry.id, entry.happened_at, EventKind.SERVICE, said, shown, None, _freeze(t, shown), target,
            sum(p.product_l + p.water_l for p in t.job.pours), predicted,
        )
    ]  # fmt: skip


def _freeze(t: LedgerFold, strength: float) -> float | None:
    return freeze_point(t.glycol, mass_fraction_of(t.glycol, VolumePercent(min(100.0, strength)))).freeze_c


def _slope(loop: Loop, events: Sequence[Event], policy: Policy) -> Slope | None:
    """Straight line through the readings since the last service; weights are equal, one depot and one kind of glass.

    Its doubt is never less than what one division of the instrument allows.
    """
    since = max((i for i, event in enumerate(events) if event.kind is EventKind.SERVICE), default=-1)
    own = max([event.sd_percent or 0.0 for event in events[max(since, 0) :]], default=0.0)
    points = [
        TrendPoint(event.at, event.strength_percent, own)
        for i, event in enumerate(events)
        if event.strength_percent is not None and (i == since or (i > since and event.kind is EventKind.READING))
    ]
    line = trend(points)
    if line is None:
        return None
    slope, half = line.slope, line.half
    leaks = line.falls and -slope >= policy["leak_slope_percent_month"]
    first, last = points[0].strength_percent, points[-1].strength_percent
    share = 1 - last / first if first > 0 else 0.0
    lost = max(0.0, share) * loop.capacity_l
    return Slope(slope, half, len(points), leaks, lost, _slope_words(slope, half, leaks, lost))


def _slope_words(slope: float, half: float, leaks: bool, lost_l: float) -> Message:
    values = {"loss_percent": abs(slope), "half_percent": half}
    if leaks:
        words = (
            "Loses {loss_percent} by volume a month ±{half_percent}: "
            "as if {lost_l} leaked and was topped up with water. Look for the leak before topping up again."
        )
        return say("leak", words, lost_l=lost_l, **values)
    if slope + half < 0:
        return say("slow", "Falls by {loss_percent} a month: less than a leak usually does. Watch it.", **values)
    return say("steady", "Strength steady within the accuracy of the readings.", **values)
