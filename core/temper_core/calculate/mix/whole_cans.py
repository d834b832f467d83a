"""Whole cans instead of a little out of one more: where the target ends then, so that nobody opens a can for a decilitre."""

from __future__ import annotations

from dataclasses import dataclass, replace

from temper_core.calculate.mix.batch import BatchQuestion, batch
from temper_core.calculate.mix.containers import Container
from temper_core.calculate.mix.plan import mix
from temper_core.calculate.mix.question import MixQuestion

LEFT_OUT_L = 0.3  # more than this is worth a can; common practice, no source
_STEPS = 40  # halvings: below a thousandth of a degree


@dataclass(frozen=True, slots=True)
class WholeCansQuestion:
    """A mix, and the containers that its product is sold in."""

    mix: MixQuestion
    containers: tuple[Container, ...]


@dataclass(frozen=True, slots=True)
class WholeCansAnswer:
    """The mix with whole cans. left_out_l None: the plan asks for no such can, or a real part of it.

    target_freeze_c: the target that whole cans reach [degC]; warmer_k: by how much it is warmer than the plan's.
    """

    left_out_l: float | None = None
    product_l: float | None = None
    target_freeze_c: float | None = None
    warmer_k: float | None = None


def whole_cans(q: WholeCansQuestion) -> WholeCansAnswer:
    """What leaving out a little of one more can does to the freeze point; see WholeCansAnswer.

    >>> from temper_core.calculate.mix.question import Inside
    >>> from temper_core.science import Glycol
    >>> q = MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5), -45.0)
    >>> a = whole_cans(WholeCansQuestion(q, (Container(6.05),)))
    >>> round(a.product_l, 2), round(a.left_out_l, 2), round(a.target_freeze_c, 1)
    (18.15, 0.12, -44.4)
    """
    if q.mix.be_sure:  # the guarantee counts for more than a can
        return WholeCansAnswer()
    plain = replace(q.mix, spread=None)
    planned = mix(plain)
    if not planned.feasible or planned.water_l <= 0 or not q.containers:
        return WholeCansAnswer()
    cans = batch(BatchQuestion(planned.concentrate_l, planned.water_l, q.containers))
    if cans.part is None or not 0 < cans.part.pour_l <= LEFT_OUT_L or cans.whole_l <= 0:
        return WholeCansAnswer()
    cold, warm = plain.target_freeze_c, 0.0
    for _ in range(_STEPS):
        middle = (cold + warm) / 2
        if mix(replace(plain, target_freeze_c=middle)).concentrate_l > cans.whole_l:
            cold = middle
        else:
            warm = middle
    return WholeCansAnswer(cans.part.pour_l, cans.whole_l, warm, warm - plain.target_freeze_c)
