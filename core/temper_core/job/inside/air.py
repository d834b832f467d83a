"""Air in a filled loop: expected less accepted, and where it likely sits. Common practice, no source."""

from __future__ import annotations

from temper_core.basis.message import say
from temper_core.basis.uncertainty import Z95
from temper_core.job.doubt.known import expected
from temper_core.job.doubt.quantities import room_l
from temper_core.job.doubt.seen import AtMark
from temper_core.job.fill.state import Air
from temper_core.job.fold_state import LedgerFold
from temper_core.machine.air import where_air_sits


def air_of(t: LedgerFold) -> Air | None:
    """Once the level is at the mark; None before, and where nothing was drained.

    Expected is what came out last, whatever the capacity: the loop was full before. Its doubt is that of the litres out, of
    the litres in and of the level it came in with.
    """
    if t.job.drained is None or not t.job.pours or not t.job.pours[-1].at_mark or t.job.fill.corrected is not None:
        return None
    air = t.loop.capacity_l - t.contents.total_l
    due, accepted = t.job.drained.drained_l, t.job.drained.drained_l - air
    half = Z95 * expected(t).sd_without(room_l, AtMark)
    trapped = air > half
    where = where_air_sits(t.loop.layout) if trapped else None
    name = next((node.name.lower() for node in t.loop.layout.nodes if node.id == where), "the loop")
    values = {"air_l": abs(air), "half_l": half}
    if trapped:
        words = "{air_l} ±{half_l} of air is still inside, likely in the {where}."
        said = say("air_trapped", words, where=name, **values)
    elif air < -half:
        words = (
            "{air_l} more was poured than drained: it was low before, some was spilled, or more was drained than recorded."
        )
        said = say("air_less", words, **values)
    else:
        said = say("air_out", "As much was poured as drained (±{half_l}): no air to speak of.", **values)
    return Air(due, accepted, air, half, trapped, where, said)
