"""May this be reported of a filling, or of the meters, now?"""

from __future__ import annotations

from temper_core.basis.errors import Conflict, CoreError
from temper_core.job.entry_kind import Attempt
from temper_core.job.identify.facts import Metered, ReportedContents


def contents_reported(a: Attempt, facts: ReportedContents) -> None:
    """Before it was opened only; raises Conflict."""
    poured = a.state.poured
    if a.state.drained_l is not None or poured.product_l + poured.water_l > 0:
        raise Conflict("job", "The loop was drained already. Current coolant is entered before the drain.", "drained")


def metered(a: Attempt, facts: Metered) -> None:
    """No meter goes backwards unless it was replaced; raises CoreError."""
    before = a.state.inspection.metered
    if before is None or facts.replaced:
        return
    for name, unit in (("distance_km", "km"), ("hours", "h")):
        was, now = getattr(before, name), getattr(facts, name)
        if was is not None and now is not None and now < was:
            raise CoreError(
                name,
                f"{now:g} {unit} is less than the {was:g} {unit} recorded before. Check the figure; "
                "if the meter was replaced, tick that.",
                "meter_backwards",
            )
