"""From findings and history to a route: check, top up, correct, renew, change out, clean; with further tests and reasons.

It advises, the person decides. One symptom from one place is a hint; two signs decide. Rules: common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass, field
from enum import IntEnum

from temper_core.basis.message import Saying, capitalised, say
from temper_core.basis.policy import Policy
from temper_core.job.due import Due
from temper_core.job.inspect.facts import CHECK_ROWS, LOOK_ROWS, Check, Sampled, Sign, Tested
from temper_core.job.job_types import Route
from temper_core.products.chemistry import Requirement
from temper_core.products.compatibility import Judged, Verdict
from temper_core.products.compatibility import Reason as ChemistryReason
from temper_core.products.conductivity import at_reference, limit_for

Found = tuple[str, Sampled] | tuple[str, Tested]


class Force(IntEnum):
    """How much one piece of advice weighs."""

    FOR = 0  # speaks for leaving it
    HINT = 1
    DECIDES = 2
    STOPS = 3  # find the cause first: nothing goes in before


@dataclass(frozen=True, slots=True)
class AdviceReason:
    """One reason: what it pulls towards, how hard, and the entry it points to (None: history or the ledger)."""

    code: str
    route: Route
    force: Force
    said: Saying
    entry_id: str | None = None


@dataclass(frozen=True, slots=True)
class FurtherTest:
    """A check worth making before deciding, and why."""

    check: Check
    name: str
    why: Saying


@dataclass(frozen=True, slots=True)
class Advice:
    """The route Temper advises, its reasons with the deciding ones first, and the tests that would sharpen it.

    stop: find the cause first; nothing goes in before.
    """

    route: Route
    stop: bool
    said: Saying
    reasons: tuple[AdviceReason, ...]
    tests: tuple[FurtherTest, ...]


@dataclass(frozen=True, slots=True)
class Strength:
    """Protection as found [degC]; safe_c: its warm end. read: with an instrument."""

    freeze_c: float | None
    safe_c: float | None
    coldest_c: float
    margin_k: float
    entry_id: str | None = None
    past_useful: bool = False


@dataclass(frozen=True, slots=True)
class Case:
    """All that a judgement of one loop looks at."""

    asked: Route
    samples: Sequence[tuple[str, Sampled]] = ()
    tests: Sequence[tuple[str, Tested]] = ()
    need: Requirement = Requirement()
    wrong: ChemistryReason | None = None  # why the filling does not belong here
    known: bool = True  # somebody knows what is inside
    mixed: bool = False
    watered: bool = False
    chosen: Judged | None = None
    strength: Strength | None = None
    due: Due | None = None
    cleans: int = 0  # times it was cleaned lately
    cap_gauge_kpa: float | None = None
    conductivity_limit_us_cm: float | None = None
    falling: Saying | None = None  # what the history of its readings says of a leak
    policy: Policy = field(default_factory=Policy)

    def last(self, check: Check) -> tuple[str, Tested] | None:
        """The newest result of a check."""
        return next(((i, t) for i, t in reversed(self.tests) if t.check is check), None)

    def signs(self, sign: Sign) -> list[tuple[str, str, str]]:
        """What speaks for something: entry, where, what; one line per place and word."""
        found = []
        for entry_id, sample in self.samples:
            for look in sample.looks:
                if LOOK_ROWS[look].sign is sign:
                    found.append((entry_id, _PLACE[sample.spot.value], LOOK_ROWS[look].name.lower()))
        for entry_id, tested in self._newest():
            if tested.sign() is sign:
                row = CHECK_ROWS[tested.check]
                said = next(o.says for o in row.outcomes if o.key == tested.outcome)
                found.append((entry_id, row.name.lower(), said))
        return found

    def _newest(self) -> list[tuple[str, Tested]]:
        newest = {tested.check: (entry_id, tested) for entry_id, tested in self.tests}
        return [newest[check] for check in Check if check in newest]


_PLACE = {"neck": "at the neck", "bottle": "in the bottle", "radiator": "in the radiator", "drain": "at the drain"}
Rule = Callable[[Case], Iterator[AdviceReason]]
R, F = Route, Force


def _gas(case: Case) -> Iterator[AdviceReason]:
    found = case.last(Check.COMBUSTION_GAS)
    if found and found[1].outcome == "positive":
        words = "Combustion gas in the coolant: head gasket or head. Repair first, coolant after."
        yield AdviceReason("combustion_gas", R.CHECK, F.STOPS, say("combustion_gas", words), found[0])


def _cause(case: Case) -> Iterator[AdviceReason]:
    """Oil, endless bubbles, constant loss, drips: find the cause first. Oil or froth seen once is a hint."""
    signs = [row for row in case.signs(Sign.CAUSE) if row[1] != "combustion gas"]
    if not signs:
        return
    certain = [row for row in signs if row[2] not in ("oily film", "froth")]
    force = F.STOPS if certain or len({row[1] for row in signs}) > 1 else F.HINT
    for entry_id, where, what in signs:
        words = "{what}, {where}: find the cause first." if force is F.STOPS else "{what}, {where}: once is a hint."
        yield AdviceReason("cause", R.CHECK, force, say("cause", words, what=capitalised(what), where=where), entry_id)


def _pressure(case: Case) -> Iterator[AdviceReason]:
    found = case.last(Check.PRESSURE)
    if not found:
        return
    figures, policy = found[1].figures, case.policy
    drop, minutes = figures["start_kpa"] - figures["end_kpa"], figures["minutes"]
    values: dict[str, float | str] = {"drop_kpa": drop, "minutes": f"{minutes:g}"}
    if drop > policy["pressure_drop_kpa"]:
        words = "Lost {drop_kpa} in {minutes} min: find the leak first, then clean or fill."
        yield AdviceReason("pressure_lost", R.CHECK, F.STOPS, say("pressure_lost", words, **values), found[0])
    elif minutes < policy["pressure_hold_min"]:
        words = "Held {minutes} min only: too short to rule a slow leak out."
        yield AdviceReason("held_short", R.CHECK, F.HINT, say("held_short", words, **values), found[0])
    elif case.cap_gauge_kpa and figures["start_kpa"] < 0.9 * case.cap_gauge_kpa:
        words = "Held at {start_kpa:0}, the cap is {cap_kpa:0}: it was not asked what it has to hold."
        said = say("held_low", words, start_kpa=figures["start_kpa"], cap_kpa=case.cap_gauge_kpa)
        yield AdviceReason("held_low", R.CHECK, F.HINT, said, found[0])
    else:
        yield AdviceReason("tight", R.CHECK, F.FOR, say("tight", "Held {minutes} min: tight.", **values), found[0])


def _dirt(case: Case) -> Iterator[AdviceReason]:
    """Rust or scale: clean; back at once: repeat once; back again: combustion gas, stop cleaning."""
    signs = case.signs(Sign.DIRT)
    for entry_id, sample in case.samples:
        if sample.sediment_mm is not None and sample.sediment_mm >= case.policy["sediment_mm"]:
            signs.append((entry_id, _PLACE[sample.spot.value], f"{sample.sediment_mm:g} mm of sediment"))
    if not signs:
        return
    if case.cleans >= 2:
        yield from _back_again(case, signs)
        return
    force = F.DECIDES if len(signs) > 1 or case.cleans else F.HINT
    if force is F.DECIDES and not case.cleans:
        words = "Rust or scale, by {count} signs: clean, then flush."
        yield AdviceReason("rust", R.CLEAN, force, say("rust", words, count=str(len(signs))))
    if case.cleans == 1:
        yield AdviceReason(
            "rust_back", R.CLEAN, F.DECIDES, say("rust_back", "It came back after one clean: repeat once, no more.")
        )
    for entry_id, where, what in signs:
        words = "{what}, {where}." if force is F.DECIDES else "{what}, {where} only: a hint, look elsewhere."
        yield AdviceReason("dirt", R.CLEAN, force, say("dirt", words, what=capitalised(what), where=where), entry_id)


def _back_again(case: Case, signs: list[tuple[str, str, str]]) -> Iterator[AdviceReason]:
    gas, (entry_id, where, what) = case.last(Check.COMBUSTION_GAS), signs[0]
    values = {"what": capitalised(what), "where": where, "times": str(case.cleans)}
    if gas is None:
        words = "{what}, {where}, after {times} cleans: stop cleaning, test for combustion gas."
        yield AdviceReason("stop_cleaning", R.CHECK, F.STOPS, say("stop_cleaning", words, **values), entry_id)
    elif gas[1].outcome == "negative":
        words = "{what}, {where}, after {times} cleans, and no combustion gas: part by part, then change out."
        yield AdviceReason("part_by_part", R.CHANGE_OUT, F.DECIDES, say("part_by_part", words, **values), entry_id)


def _chemistry(case: Case) -> Iterator[AdviceReason]:
    if case.wrong:
        yield AdviceReason("wrong_inside", R.CHANGE_OUT, F.DECIDES, say(case.wrong.code, "{why}", why=case.wrong.sentence))
    if case.mixed:
        words = "Topped up with another coolant: a mixture of unknown kinds comes out."
        yield AdviceReason("mixed", R.CHANGE_OUT, F.DECIDES, say("mixed", words))
    elif not case.known:
        words = "Nobody knows what is inside: treated as the worst, it comes out."
        yield AdviceReason("inside_unknown", R.CHANGE_OUT, F.DECIDES, say("inside_unknown", words))
    if case.chosen and case.chosen.verdict is Verdict.FITS_AFTER_CHANGE_OUT and not case.mixed and case.known:
        why = case.chosen.reasons[0].sentence
        yield AdviceReason("chosen_other", R.CHANGE_OUT, F.DECIDES, say("chosen_other", "{why}", why=why))


def _mixed_look(case: Case) -> Iterator[AdviceReason]:
    signs = case.signs(Sign.MIXED)
    gel = any(what == "gel" for _, _, what in signs)
    force = F.DECIDES if gel or len(signs) > 1 else F.HINT
    for entry_id, where, what in signs:
        words = "{what}, {where}: two kinds that do not go together."
        if force is F.HINT:
            words = "{what}, {where} only: two kinds, or inhibitor dropping out. A hint."
        said = say("mixed_look", words, what=capitalised(what), where=where)
        yield AdviceReason("mixed_look", R.CHANGE_OUT, force, said, entry_id)


def _tired(case: Case) -> Iterator[AdviceReason]:
    signs, policy = case.signs(Sign.TIRED), case.policy
    for entry_id, where, what in signs:
        force = F.DECIDES if len(signs) > 1 else F.HINT
        said = say("tired", "{what}, {where}: tired.", what=capitalised(what), where=where)
        yield AdviceReason("tired", R.RENEW, force, said, entry_id)
    strip = case.last(Check.INHIBITOR)
    if not strip:
        return
    ph = strip[1].figures.get("ph")
    if ph is not None and ph < policy["strip_ph_low"]:
        said = say("ph_low", "pH {ph}: the inhibitor is spent.", ph=f"{ph:g}")
        yield AdviceReason("ph_low", R.RENEW, F.DECIDES, said, strip[0])
    if ph is not None and ph > policy["strip_ph_high"]:
        said = say("ph_high", "pH {ph}: cleaner left inside, or an overdose. It comes out.", ph=f"{ph:g}")
        yield AdviceReason("ph_high", R.CHANGE_OUT, F.DECIDES, said, strip[0])
    yield from _liner_dose(strip, policy)


def _liner_dose(strip: tuple[str, Tested], policy: Policy) -> Iterator[AdviceReason]:
    nitrite, molybdate = (strip[1].figures.get(key) for key in ("nitrite_mg_l", "molybdate_mg_l"))
    if nitrite is not None and nitrite > policy["nitrite_high_mg_l"]:
        said = say("nitrite_high", "Nitrite {mg} mg/l: overdosed, part of it comes out.", mg=f"{nitrite:g}")
        yield AdviceReason("nitrite_high", R.CORRECT, F.DECIDES, said, strip[0])
    enough = [
        value >= policy[key]
        for value, key in ((nitrite, "nitrite_low_mg_l"), (molybdate, "molybdate_low_mg_l"))
        if value is not None
    ]
    if enough and not any(enough):
        words = "Neither nitrite nor molybdate protects the liners: dose additive by its label and test again, or refill."
        yield AdviceReason("dose_additive", R.RENEW, F.HINT, say("dose_additive", words), strip[0])


def _conductivity(case: Case) -> Iterator[AdviceReason]:
    found = case.last(Check.CONDUCTIVITY)
    if not found:
        return
    facts, limit = found[1], limit_for(case.need.use, case.conductivity_limit_us_cm, case.policy)
    figures = facts.figures
    value = at_reference(figures["us_cm"], figures["sample_c"], bool(facts.compensated), case.policy)
    if limit is None:
        words = "Conducts {value} µS/cm at 25 °C, and neither the maker's limit nor its use is entered: a lead enters them."
        yield AdviceReason("no_limit", R.CHECK, F.HINT, say("no_limit", words, value=f"{value:.3g}"), found[0])
        return
    shown = {"value": f"{value:.3g}", "limit": f"{limit.us_cm:g}", "origin": limit.origin}
    if value > limit.us_cm:
        said = say("conducts", "Conducts {value} µS/cm at 25 °C, over {limit} ({origin}).", **shown)
        yield AdviceReason("conducts", R.RENEW, F.DECIDES, said, found[0])
    else:
        said = say("insulates", "Conducts {value} µS/cm at 25 °C, under {limit} ({origin}).", **shown)
        yield AdviceReason("insulates", R.CHECK, F.FOR, said, found[0])


def _age(case: Case) -> Iterator[AdviceReason]:
    if case.due and case.due.overdue:
        yield AdviceReason("overdue", R.RENEW, F.DECIDES, case.due.said)
    elif case.due and case.due.soon:
        yield AdviceReason("due_soon", R.RENEW, F.HINT, case.due.said)
    elif case.due and case.due.on is None and case.due.said.code == "changed_unknown":
        yield AdviceReason("age_unknown", R.RENEW, F.HINT, case.due.said)
    elif case.due and case.due.on:
        yield AdviceReason("not_due", R.CHECK, F.FOR, case.due.said)


def _strength(case: Case) -> Iterator[AdviceReason]:
    s = case.strength
    if s is None or (s.freeze_c is None and not s.past_useful):
        return
    if s.past_useful:
        words = "Stronger than any table: it cools worse, and past it the freeze point rises again."
        yield AdviceReason("too_strong", R.CORRECT, F.DECIDES, say("too_strong", words), s.entry_id)
        return
    safe = s.safe_c if s.safe_c is not None else s.freeze_c or 0.0
    values = {"safe_c": safe, "coldest_c": s.coldest_c}
    if safe > s.coldest_c:
        words = "Safe to {safe_c:0}, and it gets {coldest_c:0} here: too weak."
        yield AdviceReason("too_weak", R.CORRECT, F.DECIDES, say("too_weak", words, **values), s.entry_id)
    elif safe > s.coldest_c - s.margin_k:
        words = "Safe to {safe_c:0}, coldest here {coldest_c:0}: it protects, with less than the margin."
        yield AdviceReason("thin_margin", R.CORRECT, F.HINT, say("thin_margin", words, **values), s.entry_id)
    else:
        words = "Safe to {safe_c:0}, coldest here {coldest_c:0}: it may stay."
        yield AdviceReason("may_stay", R.CHECK, F.FOR, say("may_stay", words, **values), s.entry_id)


def _level(case: Case) -> Iterator[AdviceReason]:
    for entry_id, _, _ in case.signs(Sign.LOW):
        said = say("level_low", "Low once: top up with the same mix, and look again in a few days.")
        yield AdviceReason("level_low", R.TOP_UP, F.DECIDES, said, entry_id)
    if case.watered:
        words = "Water was topped up: the strength has fallen, and something loses coolant."
        yield AdviceReason("watered", R.CORRECT, F.HINT, say("watered", words))


def _history(case: Case) -> Iterator[AdviceReason]:
    """Readings that fall like a leak's: find it first; once the loop held its pressure, a hint that stays."""
    if case.falling is None:
        return
    found = case.last(Check.PRESSURE)
    held = found is not None and not any(row.force is F.STOPS for row in _pressure(case))
    yield AdviceReason("falling", R.CHECK, F.HINT if held else F.STOPS, case.falling)


def _parts(case: Case) -> Iterator[AdviceReason]:
    for entry_id, _, what in case.signs(Sign.PART):
        yield AdviceReason("part", R.CHECK, F.HINT, say("part", "{what}.", what=capitalised(what)), entry_id)
    found = case.last(Check.RADIATOR)
    if found:
        gap = found[1].figures["in_c"] - found[1].figures["out_c"]
        if gap < case.policy["radiator_spread_k"]:
            words = "Radiator sides {gap_k} apart: restricted, coated, or the thermostat was shut. A hint."
            yield AdviceReason("radiator_flat", R.CLEAN, F.HINT, say("radiator_flat", words, gap_k=gap), found[0])


RULES: tuple[Rule, ...] = (
    *(
        _gas,
        _cause,
        _pressure,
        _dirt,
        _chemistry,
        _mixed_look,
        _tired,
        _conductivity,
        _history,
        _age,
        _strength,
        _level,
        _parts,
    ),
)
SEVERITY = {route: place for place, route in enumerate(Route)}  # check least, clean most


def _further(case: Case, reasons: Sequence[AdviceReason]) -> Iterator[FurtherTest]:
    """Tests that would sharpen the advice and were not made."""
    codes = {reason.code for reason in reasons}
    causes = {row[2] for row in case.signs(Sign.CAUSE)}
    leaking = causes & {"the level keeps falling", "it drips"}
    if leaking or codes & {"watered", "falling", "held_short", "held_low"}:
        yield _test(Check.PRESSURE, "leak first, then cleaner")
    if "tight" in codes and (leaking or "falling" in codes) and case.last(Check.COMBUSTION_GAS):
        yield _test(Check.DYE, "shows where it goes while it runs")
    gassy = causes - leaking - {"combustion gas in the coolant"}
    if gassy or codes & {"stop_cleaning", "rust_back"} or ("tight" in codes and (leaking or "falling" in codes)):
        yield _test(Check.COMBUSTION_GAS, "the head gasket feeds rust, oil and bubbles alike")
    if codes & {"radiator_flat", "part_by_part"}:
        yield _test(Check.FLOW, "tells a restricted radiator from a shut thermostat")
    if codes & {"mixed_look", "tired"}:
        yield _test(Check.INHIBITOR, "pH tells spent inhibitor from a harmless haze")


def _test(check: Check, why: str) -> FurtherTest:
    return FurtherTest(check, CHECK_ROWS[check].name, say("why_test", "{why}", why=why))


_SAID = {
    Route.CHECK: "It may stay: nothing found asks for more.",
    Route.TOP_UP: "Only something is short; the rest is right.",
    Route.CORRECT: "Correct the strength; the filling may stay.",
    Route.RENEW: "Renew it; no rinsing asked.",
    Route.CHANGE_OUT: "Change it out: the old must come out to its limit.",
    Route.CLEAN: "Clean first, then flush.",
}


def judge_route(case: Case) -> Advice:
    """Advice for a loop; never raises. What was asked for stands unless something found weighs more or all speaks for it.

    >>> judge_route(Case(Route.RENEW)).route
    <Route.RENEW: 'renew'>
    """
    reasons = [reason for rule in RULES for reason in rule(case)]
    reasons.sort(key=lambda c: (-c.force, -SEVERITY[c.route]))
    stop = any(reason.force is F.STOPS for reason in reasons)
    tests = tuple(test for test in _further(case, reasons) if case.last(test.check) is None)
    if stop:
        return Advice(Route.CHECK, True, say("stop", "Find the cause first: nothing goes in before."), tuple(reasons), tests)
    decided = [reason.route for reason in reasons if reason.force is F.DECIDES]
    if decided:
        route = max(decided, key=lambda r: SEVERITY[r])
    elif _may_stay(case, reasons):
        route = Route.CHECK
    else:
        route = case.asked
    against = [reason for reason in reasons if reason.force is F.HINT]
    if not decided and route is case.asked and route is not Route.CHECK:
        words = "Keep the planned job: no findings against it."
        said = say("as_asked", "Keep the planned job, with the hints below in mind." if against else words)
    elif not decided and any(reason.code == "dose_additive" for reason in reasons):
        said = say("dose_note", "Sign the check with this note: the liners want additive, or a refill.")
    elif not decided and not _may_stay(case, reasons):
        said = say("too_little", "Too little is known to say that it may stay: read it, and look at a sample.")
    else:
        said = say(f"advise_{route}", _SAID[route])
    return Advice(route, False, said, tuple(reasons), tests)


def _may_stay(case: Case, reasons: Sequence[AdviceReason]) -> bool:
    """Strength read and enough, a sample seen and sound, its age known and not due."""
    codes = {reason.code for reason in reasons}
    sound = any(LOOK_ROWS[look].sign is Sign.SOUND for _, sample in case.samples for look in sample.looks)
    spoken = codes & {"dose_additive", "falling"}
    return "may_stay" in codes and "not_due" in codes and sound and case.known and not spoken
