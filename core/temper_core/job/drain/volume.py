"""Litres out of a loop: by weight, by marks or as reported, and out of which vessels; impossible sums are questioned."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from temper_core.basis.errors import CoreError, under
from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.calculate.weighing import MeasureQuestion, measure
from temper_core.job.drain.facts import Caught, Drained, Measured
from temper_core.job.drain.state import DrainedVolume
from temper_core.machine.circuit import Layout
from temper_core.machine.contents import Contents
from temper_core.machine.portions import spread_over

SLACK_L = 0.05


@dataclass(frozen=True, slots=True)
class Strength:
    """Strength of what is inside with its standard deviation [% by volume], as a weight needs it for its density."""

    percent: VolumePercent
    sd_percent: float


def litres_out(facts: Drained, contents: Contents, strength: Strength | None, policy: Policy) -> DrainedVolume:
    """The litres of a drain; raises CoreError for weights and marks that cannot be, or a place that is not there.

    strength: of what is inside, for its density; None: nobody read it.
    """
    missing = contents.layout.volume_l - contents.total_l
    if facts.drained_l is not None and facts.measured is not None:
        sd = facts.drained_l * policy[f"drained_sd_{facts.measured.value}"] / 100
        told = {facts.measured.value: facts.drained_l}
        return DrainedVolume(facts.drained_l, sd, facts.by_vessel, missing + facts.drained_l, told)
    held, taken = contents.all_litres(), dict.fromkeys(contents.by_vessel, 0.0)
    total, loose, variance, placed = 0.0, 0.0, 0.0, False
    ways: dict[str, float] = {}
    places: dict[str, float] = {}
    kg = 0.0
    for i, row in enumerate(facts.caught):
        with under(f"caught.{i}"):
            found = measure(_question(row, contents, strength), policy)
            part = _from(row.where, found.litres, contents.layout, {v: held[v] - taken[v] for v in held})
        variance += found.sd_l**2
        total += found.litres
        way = (Measured.MARKS if row.gross_kg is None else Measured.WEIGHED).value
        kg += row.gross_kg - row.tare_kg if row.gross_kg is not None else 0.0
        ways[way] = ways.get(way, 0.0) + found.litres - row.spilled_l
        places[row.where] = places.get(row.where, 0.0) + found.litres
        if part is None:
            loose += found.litres
            continue
        placed = True
        for vessel, litres in part.items():
            taken[vessel] += litres
    if placed and loose:
        reach = contents.layout.reachable_l()
        rest = spread_over(loose, {v: max(0.0, reach[v] - taken[v]) for v in taken}, {v: held[v] - taken[v] for v in taken})
        taken = {vessel: taken[vessel] + rest[vessel] for vessel in taken}
    if facts.corrected_l is not None and total > 0:  # the containers stay as they were reported; their sum is corrected
        times = facts.corrected_l / total
        total, variance = facts.corrected_l, variance * times**2
        taken = {vessel: litres * times for vessel, litres in taken.items()}
        ways = {way: litres * times for way, litres in ways.items()}
        places = {}
    spilled = sum(row.spilled_l for row in facts.caught)
    by_kg = ways.get(Measured.WEIGHED.value, 0.0)
    return DrainedVolume(
        total, math.sqrt(variance), taken if placed else {}, missing + total, ways, by_kg, kg, spilled, places
    )


def _question(row: Caught, contents: Contents, strength: Strength | None) -> MeasureQuestion:
    return MeasureQuestion(
        contents.glycol,
        strength.percent if strength else None,
        row.gross_kg,
        row.tare_kg,
        row.marks_l,
        at_c=row.at_c,
        spilled_l=row.spilled_l,
        strength_sd_percent=strength.sd_percent if strength else 0.0,
    )


def _from(where: str, litres: float, layout: Layout, held: Mapping[str, float]) -> dict[str, float] | None:
    """Litres per vessel of what one container caught; None where it says no place."""
    if not where:
        return None
    drain = next((drain for drain in layout.drains if drain.letter == where), None)
    if drain is None and where not in held:
        known = ", ".join([*(d.letter for d in layout.drains), *held])
        raise CoreError("where", f"No drain or vessel is called '{where}': {known} are.", "unknown_place")
    share = drain.share if drain else {where: 1.0}
    reach = {vessel: part * held[vessel] for vessel, part in share.items()}
    if drain is None and litres > held[where] + SLACK_L:
        raise CoreError("where", _more_than_inside(litres, held[where]))
    return spread_over(litres, reach, held)


def _more_than_inside(out_l: float, inside_l: float) -> Message:
    words = "{out_l} is more than the {inside_l} in it. Check the litres and the vessel."
    return say("more_than_inside", words, out_l=out_l, inside_l=inside_l)


def check_out(out: DrainedVolume, capacity_l: float, contents: Contents) -> None:
    """More out than was in is a question, not a fact: wrong litres, or wrong capacity?; raises CoreError."""
    inside_l, held = contents.total_l, contents.all_litres()
    if out.litres > inside_l + SLACK_L:
        raise CoreError(
            "drained_l",
            say(
                "more_than_inside",
                "{out_l} is more than the {inside_l} inside (capacity {capacity_l}). "
                "Check the litres, or ask a lead to edit the capacity.",
                out_l=out.litres,
                inside_l=inside_l,
                capacity_l=capacity_l,
            ),
        )
    with under("by_vessel"):
        for vessel, litres in out.by_vessel.items():
            if vessel not in held:
                known = ", ".join(sorted(held))
                raise CoreError(vessel, f"No vessel is called '{vessel}': {known} are.", "unknown_vessel")
            if litres > held[vessel] + SLACK_L:
                raise CoreError(vessel, _more_than_inside(litres, held[vessel]))
