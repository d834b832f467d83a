"""Types of job, and their names."""

from __future__ import annotations

from enum import StrEnum


class JobType(StrEnum):
    """What a loop's job is for; decides its stages."""

    CHECK = "check"
    DOSE = "dose"
    TOP_UP = "top_up"
    ADJUST_STRENGTH = "adjust_strength"
    REFILL = "refill"
    CHANGE_TYPE = "change_type"
    CLEAN = "clean"


JOB_TYPE_NAMES = {
    JobType.CHECK: "check",
    JobType.DOSE: "dose additive",
    JobType.TOP_UP: "top up",
    JobType.ADJUST_STRENGTH: "adjust strength",
    JobType.REFILL: "refill, same type",
    JobType.CHANGE_TYPE: "change type",
    JobType.CLEAN: "clean",
}
JOB_TYPE_MEANS = {
    JobType.CHECK: "inspect and measure; nothing is drained",
    JobType.DOSE: "the inhibitor is low, everything else is fine",
    JobType.TOP_UP: "the level is low, everything else is fine",
    JobType.ADJUST_STRENGTH: "right coolant, wrong strength",
    JobType.REFILL: "same coolant type; rinsing is optional",
    JobType.CHANGE_TYPE: "old coolant must be flushed out",
    JobType.CLEAN: "remove rust, scale or sludge first",
}


CLOSED_TYPES = frozenset({JobType.CHECK, JobType.DOSE})  # inspected and signed: nothing is drained, no coolant poured


class Stage(StrEnum):
    """The stages of a job, in the order of the work."""

    IDENTIFY = "identify"
    INSPECT = "inspect"
    OPEN = "open"
    DRAIN = "drain"
    FLUSH = "flush"
    MIX = "mix"
    FILL = "fill"
    VERIFY = "verify"


STAGE_NAMES = {
    Stage.IDENTIFY: "identify",
    Stage.INSPECT: "inspect",
    Stage.OPEN: "open",
    Stage.DRAIN: "drain",
    Stage.FLUSH: "flush",
    Stage.MIX: "mix",
    Stage.FILL: "fill",
    Stage.VERIFY: "verify",
}


class Status(StrEnum):
    """Where a stage stands. choice: not asked for on this job, open to whoever wants it."""

    DONE = "done"
    NOW = "now"
    AHEAD = "ahead"
    CHOICE = "choice"
