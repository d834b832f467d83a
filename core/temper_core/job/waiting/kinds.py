"""The kinds of entry of waiting."""

from __future__ import annotations

from temper_core.job.entry_kind import EntryKind
from temper_core.job.waiting import apply, sentences, validate
from temper_core.job.waiting.facts import ClockStarted, ClockStopped, Paused, Resumed, TemperatureLogged

KINDS = (
    EntryKind(
        "temperature_logged",
        TemperatureLogged,
        apply.temperature_logged,
        sentences.temperature_logged,
        while_paused=True,
        did="logged a temperature",
        quiet=True,
    ),
    EntryKind(
        "clock_started",
        ClockStarted,
        apply.clock_started,
        sentences.clock_started,
        validate.clock_started,
        did="started a clock",
        quiet=True,
    ),
    EntryKind(
        "clock_stopped",
        ClockStopped,
        apply.clock_stopped,
        sentences.clock_stopped,
        validate.clock_stopped,
        while_paused=True,
        did="stopped a clock",
        quiet=True,
    ),
    EntryKind("paused", Paused, apply.paused, sentences.paused, validate.paused, did="paused the job"),
    EntryKind("resumed", Resumed, apply.resumed, sentences.resumed, while_paused=True, did="resumed the job"),
)
