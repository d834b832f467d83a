"""The first days after a fill: what goes in then is air coming out, as much as was still inside; more is a loss.

Source: common practice, no source, for the days; the litres of air are the fill's own account.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import timedelta

from temper_core.basis.message import Message, say
from temper_core.basis.policy import Policy
from temper_core.basis.uncertainty import Z95
from temper_core.job.life.account.movement import Movement, looks


@dataclass(frozen=True, slots=True)
class Settling:
    """What went missing since the fill while it settles [l] with its half-width, the air that explains it, and what is over.

    more_than_air: it is more than the air inside and chance explain.
    """

    gone_l: float
    trapped_l: float
    over_l: float
    half_l: float
    more_than_air: bool
    said: Message


def settling_of(movements: Sequence[Movement], policy: Policy) -> Settling | None:
    """The first days of a fill; None before its first look, and where nobody can tell what air was inside.

    movements: since the last fill, which is the first of them.
    """
    every = looks(movements)
    if not every or every[0].trapped_l is None:
        return None
    settled = every[0].at + timedelta(days=policy["settle_days"])
    after = next((n for n, row in enumerate(every) if n and row.missing_l is not None and row.at >= settled), len(every) - 1)
    rows = every[: after + 1]
    last = next((n for n in range(len(rows) - 1, -1, -1) if rows[n].missing_l is not None), None)
    if last is None or (last == 0 and every[0].in_l + every[0].out_l == 0):
        return None
    rows, seen = rows[: last + 1], rows[last]  # the fill is the first: what followed it within half a day stands with it
    gone = sum(row.in_l - row.out_l for row in rows) + (seen.missing_l or 0.0)
    sd = math.sqrt(sum(row.variance for row in rows) + seen.sd_l**2 + every[0].sd_l ** 2 + every[0].trapped_sd_l ** 2)
    trapped = every[0].trapped_l
    over = gone - trapped
    more = over > policy["loss_sds"] * sd and over > policy["loss_week_l"]
    shown = {"gone_l": max(0.0, gone), "trapped_l": trapped, "over_l": over, "half_l": Z95 * sd}
    if more:
        words = (
            "Leak suspected: {gone_l} went in since the fill, {trapped_l} of air was inside. {over_l} ±{half_l} more than "
            "air explains."
        )
        said = say("losing", words, **shown)
    else:
        words = "Settling: {gone_l} went in since the fill, {trapped_l} ±{half_l} of air was inside."
        said = say("settling", words, **{key: value for key, value in shown.items() if key != "over_l"})
    return Settling(gone, trapped, over, Z95 * sd, more, said)
