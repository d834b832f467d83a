"""What is left to do for a proof: the correction in litres, the final check before a name goes under it."""

from __future__ import annotations

from temper_core.basis.errors import CoreError
from temper_core.basis.message import say
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import MassFraction, VolumePercent
from temper_core.calculate.mix import CorrectionQuestion, Now, correct
from temper_core.calculate.vacuum import vacuum_tight
from temper_core.instruments import Repeats
from temper_core.job.doubt.known import known
from temper_core.job.doubt.quantities import capacity_l
from temper_core.job.fold_state import LedgerFold
from temper_core.job.inside.balance import best_w
from temper_core.job.inside.verdict import Proof, ProofVerdict
from temper_core.job.verify.facts import FINISH_NAMES, FinishPoint, LeakMethod, LeakProof, Level
from temper_core.job.verify.state import CorrectionState, FinishRow, FinishState
from temper_core.machine.equipment import level_words
from temper_core.science import strength_of

CORRECTED_BY_LITRES = frozenset({Proof.PROTECTED, Proof.TOO_WEAK, Proof.TOO_STRONG, Proof.DOES_NOT_AGREE})


def correction_of(t: LedgerFold, readings: Repeats | None, proof: ProofVerdict | None) -> CorrectionState | None:
    """Swap some of the mixed loop for product or water: litres to the target from what was read; None on target."""
    plan = t.job.mix.planned
    if readings is None or proof is None or proof.verdict not in CORRECTED_BY_LITRES or plan is None:
        return None
    if plan.target_freeze_c is None or plan.product.base.glycol is not t.glycol:
        return None
    agree = proof.verdict is not Proof.DOES_NOT_AGREE
    strength = strength_of(t.glycol, MassFraction(best_w(t, readings, agree)))
    capacity = known(t).value(capacity_l) if agree else t.loop.capacity_l  # as large as readings and litres have it
    now = Now(strength_percent=VolumePercent(min(100.0, strength)))
    product_w = MassFraction(plan.product.glycol_mass_percent / 100)
    try:
        a = correct(CorrectionQuestion(t.glycol, capacity, now, plan.target_freeze_c, product_w))
    except CoreError:  # a ready-mix is no concentrate to correct with
        return None
    if not a.feasible:
        said = a.reason.said if a.reason else None
        said = said or say("correct_not", "This product does not reach the target.")
        return CorrectionState(False, a.swap_out_l, 0.0, 0.0, a.final.freeze_c, said)
    stronger = a.add == "concentrate"
    words = "Drain {out_l}, pour {in_l} {what}: {target_c:0} after a hot run."
    what = plan.product.name if stronger else "demineralised water"
    said = say("correct", words, out_l=a.swap_out_l, in_l=a.add_l, what=what, target_c=plan.target_freeze_c)
    product_l, water_l = (a.add_l, 0.0) if stronger else (0.0, a.add_l)
    return CorrectionState(True, a.swap_out_l, product_l, water_l, a.final.freeze_c, said)


def leak_ok(proof: LeakProof, policy: Policy) -> bool:
    """Held long enough, and what it lost is within the gauge's own.

    >>> held = [LeakProof(LeakMethod.PRESSURE, 100, drop, 10) for drop in (1.0, 6.0)]
    >>> leak_ok(held[0], Policy()), leak_ok(held[1], Policy())
    (True, False)
    """
    if proof.method is LeakMethod.VACUUM:
        return vacuum_tight(proof.minutes, proof.drop_kpa, policy) is True
    return proof.minutes >= policy["pressure_hold_min"] and proof.drop_kpa <= policy["pressure_drop_kpa"]


def finish_of(t: LedgerFold) -> FinishState | None:
    """The final check; None until the loop is filled."""
    if t.job.id is None or not t.job.pours:
        return None
    checked = t.job.fill.finish[1] if t.job.fill.finish else None
    tight = leak_ok(checked.leak, t.policy) if checked is not None and checked.leak is not None else None
    points = tuple(FinishRow(point, FINISH_NAMES[point]) for point in FinishPoint)
    if checked is None:
        return FinishState(level_words(t.loop.equipment), points, None, None, ("level, leak test, covers and spill",))
    missing = [row.name.lower() for row in points if row.point not in checked.done]
    if checked.level is not Level.AT_MARK:
        missing.insert(0, "the level is low" if checked.level is Level.LOW else "the level is over the cold mark")
    if checked.level_c > t.policy["gate_probe_c"]:
        missing.insert(0, "the level was read warm")
    if tight is False:
        missing.insert(0, "it leaks: find the leak")
    return FinishState(level_words(t.loop.equipment), points, checked, tight, tuple(missing))
