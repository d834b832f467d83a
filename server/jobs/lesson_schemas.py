"""What the API says of what a machine's jobs taught."""

from __future__ import annotations

from datetime import datetime
from typing import Annotated

from pydantic import Field

from config.shapes import Answer, Body, Number
from temper_core.basis.message import Message
from temper_core.basis.uncertainty import Interval


class LessonRow(Answer):
    """One figure that measured jobs taught. key: drain, drain:A, round, fill or cooling; value: a share, or minutes.

    likely: of the next job. jobs: it is of so many; own: of this machine; sisters: machines beside it. taken: whether a lead
    took it over (true), refused it (false) or did not decide on these jobs (null); taken_value, by, at: of that decision.
    """

    key: str
    value: float
    likely: Interval
    jobs: int
    own: int
    sisters: int
    said: Message
    taken: bool | None
    taken_value: float | None
    by: str
    at: datetime | None


class Lessons(Answer):
    """What this loop's jobs and those of its sisters taught."""

    rows: list[LessonRow]


class LessonIn(Body):
    """A lead's decision on one figure. value: as shown; refused where it has moved since."""

    key: Annotated[str, Field(max_length=20)]
    take: bool
    value: Number
