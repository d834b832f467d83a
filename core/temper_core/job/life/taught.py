"""What a machine's jobs taught and a lead took over, in words, at the stage where it helps."""

from __future__ import annotations

from temper_core.basis.message import Message, join, say
from temper_core.basis.uncertainty import Z95, Interval
from temper_core.job.job_types import Stage
from temper_core.job.life.lesson import said_of
from temper_core.job.loop import COOLING, DRAIN, FILL, ROUND, Loop

_AT = {DRAIN: Stage.DRAIN, ROUND: Stage.FLUSH, FILL: Stage.FILL, COOLING: Stage.OPEN}


def taught_words(loop: Loop) -> dict[Stage, tuple[Message, ...]]:
    """By stage, what is to be expected of this loop there; nothing where no lead took anything over."""
    found: dict[Stage, tuple[Message, ...]] = {}
    for key, row in loop.taught.items():
        stage, half = _AT[key.split(":")[0]], Z95 * row.sd
        most = max(row.value, row.value + half if key == COOLING else min(1.0, row.value + half))
        said = said_of(loop, key, row.value, Interval(max(0.0, row.value - half), most))
        jobs = say("taught_by", "Learned from {jobs} jobs.", jobs=str(row.jobs))
        found[stage] = (*found.get(stage, ()), join("taught", [said, jobs], " "))
    return found
