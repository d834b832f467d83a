"""Which type of job the findings speak for."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from temper_core.basis.message import say
from temper_core.job.inspect.case import Case
from temper_core.job.inspect.facts import CHECK_ROWS, LOOK_ROWS, Check, Sign
from temper_core.job.inspect.rules import RULES
from temper_core.job.inspect.state import Advice, Finding, FurtherTest, Weight
from temper_core.job.job_types import JobType

SEVERITY = {job_type: place for place, job_type in enumerate(JobType)}  # check least, clean most


def _further(case: Case, reasons: Sequence[Finding]) -> Iterator[FurtherTest]:
    """Tests that would sharpen the advice and were not made."""
    codes = {reason.code for reason in reasons}
    causes = {row[2] for row in case.signs(Sign.CAUSE)}
    leaking = causes & {"the level keeps falling", "it drips"}
    if leaking or codes & {"watered", "falling", "held_short", "held_low"}:
        yield _test(Check.PRESSURE, "leak first, then cleaner")
    if "tight" in codes and (leaking or "falling" in codes) and case.last(Check.COMBUSTION_GAS):
        yield _test(Check.DYE, "shows the leak while it runs")
    gassy = causes - leaking - {"combustion gas in the coolant"}
    if gassy or codes & {"stop_cleaning", "rust_back"} or ("tight" in codes and (leaking or "falling" in codes)):
        yield _test(Check.COMBUSTION_GAS, "the head gasket feeds rust, oil and bubbles alike")
    if codes & {"radiator_flat", "part_by_part"}:
        yield _test(Check.FLOW, "tells a restricted radiator from a shut thermostat")
    if codes & {"mixed_look", "tired"}:
        yield _test(Check.INHIBITOR, "pH tells spent inhibitor from a harmless haze")


def _test(check: Check, why: str) -> FurtherTest:
    return FurtherTest(check, CHECK_ROWS[check].name, say("why_test", "{why}", why=why))


_SAID = {
    JobType.CHECK: "It may stay: nothing found.",
    JobType.DOSE: "Only the inhibitor is low: dose by the strips.",
    JobType.TOP_UP: "Only the level is low.",
    JobType.ADJUST_STRENGTH: "Adjust the strength; the coolant may stay.",
    JobType.REFILL: "Refill; no rinsing needed.",
    JobType.CHANGE_TYPE: "Change type: flush out the old coolant.",
    JobType.CLEAN: "Clean first, then flush.",
}


def advise_job_type(case: Case) -> Advice:
    """Advice for a loop; never raises. What was asked for stands unless something found weighs more or all speaks for it.

    >>> advise_job_type(Case(JobType.REFILL)).job_type
    <JobType.REFILL: 'refill'>
    """
    reasons = [reason for rule in RULES for reason in rule(case)]
    reasons.sort(key=lambda c: (-c.weight, -SEVERITY[c.job_type]))
    stop = any(reason.weight is Weight.STOPS for reason in reasons)
    tests = tuple(test for test in _further(case, reasons) if case.last(test.check) is None)
    if stop:
        return Advice(JobType.CHECK, True, say("stop", "Find the cause first: pour nothing before."), tuple(reasons), tests)
    decided = [reason.job_type for reason in reasons if reason.weight is Weight.DECIDES]
    if decided:
        job_type = max(decided, key=lambda r: SEVERITY[r])
    elif _may_stay(case, reasons):
        job_type = JobType.CHECK
    else:
        job_type = case.asked
    against = [reason for reason in reasons if reason.weight is Weight.HINT]
    if not decided and job_type is case.asked and job_type is not JobType.CHECK:
        words = "Keep the planned job: no findings against it."
        said = say("as_asked", "Keep the planned job, with the hints below in mind." if against else words)
    elif not decided and not _may_stay(case, reasons):
        said = say("too_little", "Too little is known: take a reading and look at a sample.")
    else:
        said = say(f"advise_{job_type}", _SAID[job_type])
    return Advice(job_type, False, said, tuple(reasons), tests)


def _may_stay(case: Case, reasons: Sequence[Finding]) -> bool:
    """Strength read and enough, a sample seen and sound, its age known and not due."""
    codes = {reason.code for reason in reasons}
    sound = any(LOOK_ROWS[look].sign is Sign.SOUND for _, sample in case.samples for look in sample.looks)
    spoken = codes & {"dose_additive", "falling"}
    return "may_stay" in codes and "not_due" in codes and sound and case.known and not spoken
