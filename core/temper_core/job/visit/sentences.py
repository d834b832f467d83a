"""How the record tells that a job was started, a picture added, an override seen, an entry taken back."""

from __future__ import annotations

from temper_core.basis.message import Message, say
from temper_core.job.entries import Acknowledged, Edited, JobOpened, PhotoAdded, Voided
from temper_core.job.job_types import JOB_TYPE_NAMES


def job_opened(facts: JobOpened) -> Message:
    return say("job_opened", "Job started: {job}", job=JOB_TYPE_NAMES[facts.job_type])


def photo_added(facts: PhotoAdded) -> Message:
    return say("photo_added", "Photo added")


def acknowledged(facts: Acknowledged) -> Message:
    if facts.answer:
        return say("acknowledged", "Seen by a lead: {answer}", answer=facts.answer)
    return say("acknowledged", "Override seen by a lead")


def voided(facts: Voided) -> Message:
    return say("voided", "Entry undone")


def edited(facts: Edited) -> Message:
    return say("edited", "Entry edited")
