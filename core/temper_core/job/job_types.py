"""Types of job, and their names."""

from __future__ import annotations

from enum import StrEnum


class JobType(StrEnum):
    """What a loop's job is for; decides its stages."""

    CHECK = "check"
    TOP_UP = "top_up"
    ADJUST_STRENGTH = "adjust_strength"
    REFILL = "refill"
    CHANGE_TYPE = "change_type"
    CLEAN = "clean"


JOB_TYPE_NAMES = {
    JobType.CHECK: "check",
    JobType.TOP_UP: "top up",
    JobType.ADJUST_STRENGTH: "adjust strength",
    JobType.REFILL: "refill, same type",
    JobType.CHANGE_TYPE: "change type",
    JobType.CLEAN: "clean",
}
JOB_TYPE_MEANS = {
    JobType.CHECK: "look and measure; nothing is opened",
    JobType.TOP_UP: "the level is low, the rest is right",
    JobType.ADJUST_STRENGTH: "right coolant, wrong strength",
    JobType.REFILL: "same chemistry goes in; rinsing is a choice",
    JobType.CHANGE_TYPE: "the old must come out to its limit",
    JobType.CLEAN: "rust, scale or sludge comes out first",
}


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
