"""From findings and history to a job type, check to clean, with further tests and reasons.

It advises, the person decides. One symptom from one place is a hint; two signs decide. Rules: common practice, no source.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator

from temper_core.basis.message import capitalised, say
from temper_core.job.inspect.case import PLACE, Case
from temper_core.job.inspect.facts import Check, Sampled, Sign, Tested
from temper_core.job.inspect.state import Finding, Weight
from temper_core.job.inspect.strips import conductivity, tired
from temper_core.job.job_types import JobType
from temper_core.products.compatibility import Verdict

Found = tuple[str, Sampled] | tuple[str, Tested]


Rule = Callable[[Case], Iterator[Finding]]


def _gas(case: Case) -> Iterator[Finding]:
    found = case.last(Check.COMBUSTION_GAS)
    if found and found[1].outcome == "positive":
        words = "Combustion gas in the coolant: head gasket or head. Repair first, coolant after."
        yield Finding("combustion_gas", JobType.CHECK, Weight.STOPS, say("combustion_gas", words), found[0])


def _cause(case: Case) -> Iterator[Finding]:
    """Oil, endless bubbles, constant loss, drips: find the cause first. Oil or froth seen once is a hint."""
    signs = [row for row in case.signs(Sign.CAUSE) if row[1] != "combustion gas"]
    if not signs:
        return
    certain = [row for row in signs if row[2] not in ("oily film", "froth")]
    weight = Weight.STOPS if certain or len({row[1] for row in signs}) > 1 else Weight.HINT
    for entry_id, where, what in signs:
        words = "{what}, {where}: find the cause first." if weight is Weight.STOPS else "{what}, {where}: seen once, a hint."
        yield Finding("cause", JobType.CHECK, weight, say("cause", words, what=capitalised(what), where=where), entry_id)


def _pressure(case: Case) -> Iterator[Finding]:
    found = case.last(Check.PRESSURE)
    if not found:
        return
    figures, policy = found[1].figures, case.policy
    drop, minutes = figures["start_kpa"] - figures["end_kpa"], figures["minutes"]
    values: dict[str, float | str] = {"drop_kpa": drop, "minutes": f"{minutes:g}"}
    if drop > policy["pressure_drop_kpa"]:
        words = "Lost {drop_kpa} in {minutes} min: find the leak first, then clean or fill."
        yield Finding("pressure_lost", JobType.CHECK, Weight.STOPS, say("pressure_lost", words, **values), found[0])
    elif minutes < policy["pressure_hold_min"]:
        words = "Held {minutes} min only: too short to rule out a slow leak."
        yield Finding("held_short", JobType.CHECK, Weight.HINT, say("held_short", words, **values), found[0])
    elif case.cap_gauge_kpa and figures["start_kpa"] < 0.9 * case.cap_gauge_kpa:
        words = "Tested at {start_kpa:0}, cap holds {cap_kpa:0}. Test again at {cap_kpa:0}."
        said = say("held_low", words, start_kpa=figures["start_kpa"], cap_kpa=case.cap_gauge_kpa)
        yield Finding("held_low", JobType.CHECK, Weight.HINT, said, found[0])
    else:
        yield Finding("tight", JobType.CHECK, Weight.FOR, say("tight", "Held {minutes} min: tight.", **values), found[0])


def _dirt(case: Case) -> Iterator[Finding]:
    """Rust or scale: clean; back at once: repeat once; back again: combustion gas, stop cleaning."""
    signs = case.signs(Sign.DIRT)
    for entry_id, sample in case.samples:
        if sample.sediment_mm is not None and sample.sediment_mm >= case.policy["sediment_mm"]:
            signs.append((entry_id, PLACE[sample.spot.value], f"{sample.sediment_mm:g} mm of sediment"))
    if not signs:
        return
    if case.cleans >= 2:
        yield from _back_again(case, signs)
        return
    weight = Weight.DECIDES if len(signs) > 1 or case.cleans else Weight.HINT
    if weight is Weight.DECIDES and not case.cleans:
        words = "Rust or scale, by {count} signs: clean, then flush."
        yield Finding("rust", JobType.CLEAN, weight, say("rust", words, count=str(len(signs))))
    if case.cleans == 1:
        yield Finding(
            "rust_back",
            JobType.CLEAN,
            Weight.DECIDES,
            say("rust_back", "It came back after one clean: repeat once only."),
        )
    for entry_id, where, what in signs:
        words = "{what}, {where}." if weight is Weight.DECIDES else "{what}, {where} only: a hint, look elsewhere."
        yield Finding("dirt", JobType.CLEAN, weight, say("dirt", words, what=capitalised(what), where=where), entry_id)


def _back_again(case: Case, signs: list[tuple[str, str, str]]) -> Iterator[Finding]:
    gas, (entry_id, where, what) = case.last(Check.COMBUSTION_GAS), signs[0]
    values = {"what": capitalised(what), "where": where, "times": str(case.cleans)}
    if gas is None:
        words = "{what}, {where}, after {times} cleans: stop cleaning, test for combustion gas."
        yield Finding("stop_cleaning", JobType.CHECK, Weight.STOPS, say("stop_cleaning", words, **values), entry_id)
    elif gas[1].outcome == "negative":
        words = "{what}, {where}, after {times} cleans, and no combustion gas: part by part, then change type."
        yield Finding("part_by_part", JobType.CHANGE_TYPE, Weight.DECIDES, say("part_by_part", words, **values), entry_id)


def _chemistry(case: Case) -> Iterator[Finding]:
    if case.wrong:
        yield Finding(
            "wrong_inside", JobType.CHANGE_TYPE, Weight.DECIDES, say(case.wrong.code, "{why}", why=case.wrong.sentence)
        )
    if case.other_on_top:
        words = "Topped up with another coolant: an unknown mixture must come out."
        yield Finding("mixed", JobType.CHANGE_TYPE, Weight.DECIDES, say("mixed", words))
    elif not case.known:
        words = "Unknown coolant: treated as the worst case, it must come out."
        yield Finding("inside_unknown", JobType.CHANGE_TYPE, Weight.DECIDES, say("inside_unknown", words))
    if case.chosen and case.chosen.verdict is Verdict.FITS_AFTER_CHANGE_OUT and not case.other_on_top and case.known:
        why = case.chosen.reasons[0].sentence
        yield Finding("chosen_other", JobType.CHANGE_TYPE, Weight.DECIDES, say("chosen_other", "{why}", why=why))


def _mixed_look(case: Case) -> Iterator[Finding]:
    signs = case.signs(Sign.MIXED)
    gel = any(what == "gel" for _, _, what in signs)
    weight = Weight.DECIDES if gel or len(signs) > 1 else Weight.HINT
    for entry_id, where, what in signs:
        words = "{what}, {where}: two types that do not mix."
        if weight is Weight.HINT:
            words = "{what}, {where} only: two types, or inhibitor dropping out. A hint."
        said = say("mixed_look", words, what=capitalised(what), where=where)
        yield Finding("mixed_look", JobType.CHANGE_TYPE, weight, said, entry_id)


def _age(case: Case) -> Iterator[Finding]:
    if case.due and case.due.overdue:
        yield Finding("overdue", JobType.REFILL, Weight.DECIDES, case.due.said)
    elif case.due and case.due.soon:
        yield Finding("due_soon", JobType.REFILL, Weight.HINT, case.due.said)
    elif case.due and case.due.on is None and case.due.said.code == "changed_unknown":
        yield Finding("age_unknown", JobType.REFILL, Weight.HINT, case.due.said)
    elif case.due and case.due.on:
        yield Finding("not_due", JobType.CHECK, Weight.FOR, case.due.said)


def _strength(case: Case) -> Iterator[Finding]:
    s = case.strength
    if s is None or (s.freeze_c is None and not s.past_useful):
        return
    if s.past_useful:
        words = "Stronger than tabulated: it cools worse and the freeze point rises again."
        yield Finding("too_strong", JobType.ADJUST_STRENGTH, Weight.DECIDES, say("too_strong", words), s.entry_id)
        return
    safe = s.safe_c if s.safe_c is not None else s.freeze_c or 0.0
    values = {"safe_c": safe, "coldest_c": s.coldest_c}
    if safe > s.coldest_c:
        words = "Protects to {safe_c:0}; coldest here {coldest_c:0}: too weak."
        yield Finding("too_weak", JobType.ADJUST_STRENGTH, Weight.DECIDES, say("too_weak", words, **values), s.entry_id)
    elif safe > s.coldest_c - s.margin_k:
        words = "Protects to {safe_c:0}; coldest here {coldest_c:0}: enough, but less than the margin."
        yield Finding("thin_margin", JobType.ADJUST_STRENGTH, Weight.HINT, say("thin_margin", words, **values), s.entry_id)
    else:
        words = "Protects to {safe_c:0}; coldest here {coldest_c:0}: it may stay."
        yield Finding("may_stay", JobType.CHECK, Weight.FOR, say("may_stay", words, **values), s.entry_id)


def _level(case: Case) -> Iterator[Finding]:
    for entry_id, _, _ in case.signs(Sign.LOW):
        said = say("level_low", "Low once: top up with the same mix, and check again in a few days.")
        yield Finding("level_low", JobType.TOP_UP, Weight.DECIDES, said, entry_id)
    if case.watered:
        words = "Topped up with water: the strength has fallen, and coolant is being lost."
        yield Finding("watered", JobType.ADJUST_STRENGTH, Weight.HINT, say("watered", words))


def _history(case: Case) -> Iterator[Finding]:
    """Readings that fall like a leak's: find it first; once the loop held its pressure, a hint that stays."""
    if case.falling is None:
        return
    found = case.last(Check.PRESSURE)
    held = found is not None and not any(row.weight is Weight.STOPS for row in _pressure(case))
    yield Finding("falling", JobType.CHECK, Weight.HINT if held else Weight.STOPS, case.falling)


def _parts(case: Case) -> Iterator[Finding]:
    for entry_id, _, what in case.signs(Sign.PART):
        yield Finding("part", JobType.CHECK, Weight.HINT, say("part", "{what}.", what=capitalised(what)), entry_id)
    found = case.last(Check.RADIATOR)
    if found:
        gap = found[1].figures["in_c"] - found[1].figures["out_c"]
        if gap < case.policy["radiator_spread_k"]:
            words = "Radiator sides {gap_k} apart: restricted, coated, or the thermostat was shut. A hint."
            yield Finding("radiator_flat", JobType.CLEAN, Weight.HINT, say("radiator_flat", words, gap_k=gap), found[0])


RULES: tuple[Rule, ...] = (
    *(
        _gas,
        _cause,
        _pressure,
        _dirt,
        _chemistry,
        _mixed_look,
        tired,
        conductivity,
        _history,
        _age,
        _strength,
        _level,
        _parts,
    ),
)
