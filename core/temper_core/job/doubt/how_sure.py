"""How sure a figure is, said: its interval, where the doubt comes from (largest first), and what measuring would gain."""

from __future__ import annotations

from collections.abc import Callable

from temper_core.basis.message import say
from temper_core.basis.quantity import MassFraction
from temper_core.basis.uncertainty import Z95, Interval
from temper_core.job.doubt.inputs import SOURCE_NAMES, Source
from temper_core.job.doubt.known import expected, finished_ids, freeze_sure, known
from temper_core.job.doubt.quantities import inside_l, mixed_w, old_finished
from temper_core.job.doubt.solve import Quantity, Solved, Sure
from temper_core.job.doubt.state import Gain, HowSure, SureOf, SurePart
from temper_core.job.fold_state import LedgerFold
from temper_core.products.chemistry import Base
from temper_core.science import freeze_point

LEAST_SHARE = 3.0  # % of the variance: less is not worth a line
LEAST_GAIN = 0.9  # of the width: less is not worth the work


_DO = {
    Source.CAPACITY: ("measure_capacity", "Measure the capacity"),
    Source.DRAINED: ("weigh", "Weigh what came out"),
    Source.FOUND: ("read_found", "Read it before draining"),
    Source.LEVEL: ("see_level", "Look at the level before draining"),
    Source.ZERO: ("set_zero", "Set the zero with demineralised water"),
    Source.LINE: ("finer", "Read with a finer instrument"),
}
_BEFORE_DRAINING = frozenset({Source.FOUND, Source.LEVEL})


def how_sure(t: LedgerFold) -> tuple[HowSure, ...]:
    """Of the figures that the job stands on now; empty between jobs."""
    if t.job.id is None or t.job.signed_at is not None or t.base is Base.NONE:
        return ()
    rows = []
    if not t.job.pours:
        rows.append(_told(t, SureOf.INSIDE, expected(t), inside_l, lambda sure: sure.interval, lambda v: v))
        if t.job.drained is not None:
            rows.append(_told(t, SureOf.OLD, expected(t), old_finished, lambda sure: sure.interval, lambda v: v))
        return tuple(row for row in rows if row is not None)

    def freeze_c(w: float) -> float:
        return freeze_point(t.glycol, MassFraction(min(1.0, max(0.0, w)))).at_most_c

    asked, solved = (SureOf.READ, known(t)) if finished_ids(t) else (SureOf.PREDICTED, expected(t))
    told = _told(t, asked, solved, mixed_w, lambda sure: freeze_sure(t, sure), freeze_c)
    return (told,) if told is not None else ()


def _told(
    t: LedgerFold,
    asked: SureOf,
    solved: Solved,
    of: Quantity,
    interval: Callable[[Sure], Interval],
    shown: Callable[[float], float],
) -> HowSure | None:
    """One figure; shown: the quantity in the unit that is shown. None where it is certain."""
    sure = solved.sure(of)
    if sure.sd <= 0:
        return None
    likely, middle = interval(sure), shown(sure.value)
    per = (likely.high - likely.low) / (2 * Z95 * sure.sd)
    parts = tuple(
        SurePart(part.source, SOURCE_NAMES[part.source], part.share_percent, Z95 * part.sd * per)
        for part in sure.parts
        if part.share_percent >= LEAST_SHARE
    )
    return HowSure(asked, middle, likely, parts, tuple(_gains(t, solved, of, sure, likely, middle)))


def _gains(t: LedgerFold, solved: Solved, of: Quantity, sure: Sure, likely: Interval, middle: float) -> list[Gain]:
    """What can still be measured better, the most useful first."""
    found = []
    for part in sure.parts:
        if part.source not in _DO or (part.source in _BEFORE_DRAINING and t.job.drained is not None):
            continue
        then = solved.sd_if(of, part.source)
        if then is None or then > LEAST_GAIN * sure.sd:
            continue
        left = then / sure.sd
        ends = Interval(middle - (middle - likely.low) * left, middle + (likely.high - middle) * left)
        code, words = _DO[part.source]
        found.append((then, Gain(part.source, say(code, words), ends)))
    return [gain for _, gain in sorted(found, key=lambda row: row[0])]
