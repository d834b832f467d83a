"""What a reading of the rinse says of the old coolant in it.

Prediction and reading are two measurements of one share; what they make together follows from the whole ledger. A reading
below the detection limit is no measurement but a bound: the prediction stands, or is brought down to the bound, and is never
replaced by zero.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from enum import StrEnum

from temper_core.basis.errors import check_between


class Source(StrEnum):
    """What an estimate rests on."""

    PREDICTED = "predicted"
    CORRECTED = "corrected"
    BOUNDED = "bounded"


@dataclass(frozen=True, slots=True)
class Share:
    """A share of old coolant [%] with its standard deviation."""

    percent: float
    sd_percent: float

    def __post_init__(self) -> None:
        check_between("percent", self.percent, 0, 1000, "%")
        check_between("sd_percent", self.sd_percent, 0, 1000, "%")


@dataclass(frozen=True, slots=True)
class Estimate:
    """The share after the reading, and what it rests on. apart: reading and prediction are further apart than chance."""

    share: Share
    source: Source
    apart: bool


def corrected(predicted: Share, read: Share, both: Share, agreement_sds: float) -> Estimate:
    """Prediction and a reading above the detection limit; both: what the whole ledger makes of the two together.

    >>> e = corrected(Share(5.5, 0.5), Share(6.5, 0.5), Share(6.0, 0.35), 2.0)
    >>> e.share.percent, e.apart
    (6.0, False)
    """
    apart = abs(predicted.percent - read.percent) > agreement_sds * math.hypot(predicted.sd_percent, read.sd_percent)
    return Estimate(both, Source.CORRECTED, apart)


def bounded(predicted: Share, both: Share, bound_percent: float, agreement_sds: float) -> Estimate:
    """A reading that only says "below"; the share is never less than predicted for it.

    >>> bounded(Share(1.3, 0.2), Share(1.29, 0.2), 2.0, 2.0).share.percent
    1.3
    """
    if predicted.percent <= bound_percent:
        return Estimate(predicted, Source.BOUNDED, False)
    apart = predicted.percent - bound_percent > agreement_sds * predicted.sd_percent
    return Estimate(Share(bound_percent, both.sd_percent), Source.BOUNDED, apart)
