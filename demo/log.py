"""Readings of the season so far, taken over from a list as a depot would that kept one before Temper."""

from __future__ import annotations

import io
import random
from datetime import timedelta

from django.utils import timezone

from depots.models import Depot
from instruments.importing import Given, import_readings
from people.models import Person
from temper_core.instruments import Scale, eyepiece
from temper_core.science import Glycol, mass_fraction_at_freeze, refractive_index_20c

# machine, freeze point then, how it moves in a month: samples that were read on both glasses
LISTED = (("T-21", -33.0, 0.0), ("G-07", -31.0, 0.2), ("B-14", -28.0, 0.0), ("T-22", -36.0, 0.1))
DAYS = (52, 37, 19)
BRIX_BIAS = -1.2  # the Brix glass reads low, whatever its zero says


def load_log(depot: Depot, rng: random.Random) -> int:
    """Take them over; how many there were."""
    lines = ["taken_at [ISO 8601],machine,place,instrument,value [scale],zero [scale],sample [degC],person"]
    for fleet_number, freeze_c, moves in LISTED:
        for days in DAYS:
            at = timezone.now() - timedelta(days=days, hours=rng.uniform(0, 5))
            now_c = freeze_c + moves * (DAYS[0] - days) / 30
            brix = brix_at(now_c) + BRIX_BIAS + rng.gauss(0, 0.15)
            for instrument, value, zero, later in (
                ("Glass 3", round(now_c + rng.gauss(0, 0.3)), "0", 0),
                ("Brix glass", round(brix * 5) / 5, "0", 6),
            ):
                when = (at + timedelta(minutes=later)).isoformat(timespec="minutes")
                sample = rng.randint(16, 21)
                lines.append(f"{when},{fleet_number},as_found,{instrument},{value:g},{zero},{sample},tomo")
    file = io.BytesIO("\n".join(lines).encode())
    report = import_readings(
        Given(file, "csv", name="readings.csv"), actor=Person.objects.get(username="maud"), dry_run=False
    )
    assert report.error_count == 0, report.errors
    return report.imported


def brix_at(freeze_c: float) -> float:
    """What a Brix scale shows for an ethylene glycol mix of this freeze point."""
    index = refractive_index_20c(Glycol.ETHYLENE, mass_fraction_at_freeze(Glycol.ETHYLENE, freeze_c))
    marks = eyepiece(Scale.BRIX)
    above = next(i for i, mark in enumerate(marks) if mark.index > index)
    low, high = marks[above - 1], marks[above]
    return low.value + (index - low.index) / (high.index - low.index) * (high.value - low.value)
