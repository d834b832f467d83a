"""What the record of one loop says of its losses."""

from __future__ import annotations

from datetime import datetime

from temper_core.basis.message import Message, join
from temper_core.job.fold_state import LedgerFold
from temper_core.job.life.account.loss import Loss, loss_of
from temper_core.job.life.account.movement import Movement, at_mark
from temper_core.job.life.account.sentences import deciding_test
from temper_core.job.life.account.settling import settling_of


def losing(t: LedgerFold) -> Loss | None:
    """The loss of this loop since its last fill settled; None with too few looks."""
    loop = t.loop
    return loss_of(t.life.movements, t.policy, t.life.meters, loop.cap_gauge_kpa == 0, loop.capacity_l)


def suspected(t: LedgerFold) -> Message | None:
    """That a leak is suspected, and the test that decides; None where none is."""
    said = loss_said(t)
    if said is None:
        return None
    tests = [row.tested for row in t.job.inspect.seen if row.tested is not None]
    return join(said.code, [said, deciding_test(t.life.lost_when, tests)], " ")


def loss_said(t: LedgerFold) -> Message | None:
    """What is lost, where a leak is suspected: by its rate, or while it settles by more than the air that was inside."""
    loss = losing(t)
    if loss is not None:
        return loss.said if loss.leaks else None
    settling = settling_of(t.life.movements, t.policy)
    return settling.said if settling is not None and settling.more_than_air else None


def topped_up(t: LedgerFold, at: datetime, litres: float, to_mark: bool) -> None:
    """A top-up stands on the account; to_mark: it brought the level back to its mark."""
    t.life.movements.append(at_mark(at, t.loop, t.policy, litres) if to_mark else Movement(at, litres))
