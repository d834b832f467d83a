"""Types of job, and their names."""

from __future__ import annotations

from enum import StrEnum


class Route(StrEnum):
    """What a loop's job is for; decides its stages."""

    CHECK = "check"
    TOP_UP = "top_up"
    CORRECT = "correct"
    RENEW = "renew"
    CHANGE_OUT = "change_out"
    CLEAN = "clean"


ROUTE_NAMES = {
    Route.CHECK: "check only",
    Route.TOP_UP: "top up",
    Route.CORRECT: "correct",
    Route.RENEW: "renew",
    Route.CHANGE_OUT: "change out",
    Route.CLEAN: "clean",
}
ROUTE_SAYS = {
    Route.CHECK: "look and measure; nothing is opened",
    Route.TOP_UP: "the level is low, the rest is right",
    Route.CORRECT: "right coolant, wrong strength",
    Route.RENEW: "same chemistry goes in; rinsing is a choice",
    Route.CHANGE_OUT: "the old must come out to its limit",
    Route.CLEAN: "rust, scale or sludge comes out first",
}


class Stage(StrEnum):
    """The stages of a job, in the order of the work."""

    KNOW = "know"
    TEST = "test"
    OPEN = "open"
    DRAIN = "drain"
    FLUSH = "flush"
    MIX = "mix"
    FILL = "fill"
    PROVE = "prove"


STAGE_NAMES = {
    Stage.KNOW: "know",
    Stage.TEST: "test",
    Stage.OPEN: "open",
    Stage.DRAIN: "drain",
    Stage.FLUSH: "flush",
    Stage.MIX: "mix",
    Stage.FILL: "fill",
    Stage.PROVE: "prove",
}


class Status(StrEnum):
    """Where a stage stands. choice: not asked for on this route, open to whoever wants it."""

    DONE = "done"
    NOW = "now"
    AHEAD = "ahead"
    CHOICE = "choice"
