"""May recovered coolant go back into this loop? Into its own, or one of the same chemistry; source: practice."""

from __future__ import annotations

from collections.abc import Iterable

from temper_core.basis.errors import CoreError
from temper_core.job.fold_state import LedgerFold
from temper_core.products.chemistry import FAMILY_NAMES
from temper_core.products.compatibility import unfit
from temper_core.products.shelf import CanKind, Taken


def check_reused(t: LedgerFold, taken: Iterable[Taken]) -> None:
    """Of the chemistry that the loop takes and is filled with, of known age in another loop; raises CoreError."""
    for n, row in enumerate(taken):
        product = row.can.product
        if row.can.kind is not CanKind.RECOVERED or product is None:
            continue
        field, number = f"taken.{n}.can", row.can.number
        reason = unfit(product, t.loop.need)
        if reason is not None:
            raise CoreError(field, f"{number} may not go into this loop. {reason.sentence}", "reuse_unfit")
        planned = t.job.mix.planned.product if t.job.mix.planned is not None and t.job.id is not None else None
        base, family = (planned.base, planned.family) if planned is not None else (t.found.base, t.found.family)
        if (product.base, product.family) != (base, family):
            holds = FAMILY_NAMES[product.family]
            now = FAMILY_NAMES[family] if family is not None else "not known"
            words = f"{number} holds {holds}, this loop is {now}. Recovered coolant goes only into the same chemistry."
            raise CoreError(field, words, "reuse_chemistry")
        if row.can.loop_id == t.loop.id:
            continue
        if row.can.since is None:
            words = f"The age of {number} is not known. It may go back only into the loop it came from."
            raise CoreError(field, words, "reuse_age")
