"""What may be recorded at know and test: told, meters, decisions, overrides seen, checks signed off."""

from datetime import UTC, date, datetime, timedelta

import pytest

from temper_core.basis.errors import CoreError
from temper_core.job.entries import Acknowledged, JobOpened, PhotoAdded, Voided
from temper_core.job.fold import fold
from temper_core.job.identify.facts import Metered, ReportedContents, ToppedUp
from temper_core.job.inspect.decision import JobTypeChosen, Skipped
from temper_core.job.inspect.facts import Check, Look, Sampled, Spot
from temper_core.job.job_types import JobType, Stage
from temper_core.job.validate import Conflict
from temper_core.job.verify.facts import SignedOff
from temper_core.products.chemistry import Base, Family, Fluid, Requirement
from tests.core.test_ledger import NEW, Book, a_loop, at_mix, planned, pour

NOW = datetime(2026, 11, 25, 12, tzinfo=UTC)


def test_a_check_walks_know_and_test_and_is_signed_off():
    book, seen = Book(), []
    for facts in (
        JobOpened(JobType.CHECK),
        ReportedContents(Base.ETHYLENE, Family.OAT, ToppedUp.SAME, date(2025, 6, 1)),
        Sampled(Spot.NECK, (Look.CLEAN_BRIGHT,)),
        Skipped((Check.HOSES, Check.CAP), "no time"),
        JobTypeChosen(JobType.CHECK, JobType.CHECK),
        SignedOff("checked"),
    ):
        seen.append(book.add(facts).stage)
    assert seen == [Stage.IDENTIFY, Stage.INSPECT, Stage.INSPECT, Stage.INSPECT, Stage.INSPECT, None]
    assert book.state.inspection.skipped[0].reason == "no time"


def test_a_check_may_not_end_otherwise_nor_undecided():
    book = Book()
    book.add(JobOpened(JobType.CHECK), ReportedContents())
    with pytest.raises(Conflict, match="Choose first"):
        book.add(SignedOff("checked"))
    book.add(JobTypeChosen(JobType.CHECK, JobType.CHANGE_TYPE, "looked at again on Monday"))
    with pytest.raises(Conflict, match="signed off as checked"):
        book.add(SignedOff("proven"))


def test_what_is_told_replaces_what_was_believed_and_never_after_the_drain():
    book = Book(a_loop(believed=Fluid(Base.ETHYLENE, Family.IAT, 40.0)))
    state = book.add(JobOpened(JobType.REFILL), ReportedContents(Base.PROPYLENE, Family.OAT, ToppedUp.NOTHING))
    assert (state.found.base, state.found.family) == (Base.PROPYLENE, Family.OAT)
    assert state.found.strength_percent == 40.0
    with pytest.raises(Conflict, match="before the drain"):
        at_mix().add(ReportedContents(Base.ETHYLENE))


@pytest.mark.parametrize("topped", [ToppedUp.WATER, ToppedUp.OTHER, ToppedUp.UNKNOWN])
def test_a_believed_strength_does_not_outlive_a_top_up_of_something_else(topped):
    book = Book(a_loop(believed=Fluid(Base.ETHYLENE, Family.IAT, 40.0)))
    state = book.add(JobOpened(JobType.REFILL), ReportedContents(Base.ETHYLENE, Family.IAT, topped))
    assert state.found.strength_percent is None


def test_another_kind_on_top_makes_the_family_unknown():
    state = Book().add(JobOpened(JobType.REFILL), ReportedContents(Base.ETHYLENE, Family.IAT, ToppedUp.OTHER))
    assert state.found.family is None
    assert state.advice.job_type is JobType.CHANGE_TYPE


def test_meters_that_went_backwards_are_questioned_even_from_an_earlier_job():
    book = Book()
    book.add(
        JobOpened(JobType.CHECK),
        Metered(120_000, 4_000),
        ReportedContents(),
        JobTypeChosen(JobType.CHECK, JobType.CHANGE_TYPE, "x"),
    )
    book.add(SignedOff("checked"))
    book.job = "job 2"
    book.add(JobOpened(JobType.CHECK))
    with pytest.raises(CoreError) as refused:
        book.add(Metered(119_000))
    assert refused.value.field == "distance_km"
    assert "if the meter was replaced, tick that" in refused.value.message
    with pytest.raises(CoreError) as refused:
        book.add(Metered(121_000, 3_999))
    assert refused.value.field == "hours"
    book.add(Metered(12.0, replaced=True))
    assert book.add(Metered(300.0)).inspection.metered.distance_km == 300.0


def test_a_meter_needs_a_figure():
    with pytest.raises(CoreError, match="distance, the hours, or both"):
        Metered()


def test_a_decision_names_the_advice_that_was_seen():
    book = Book()
    book.add(JobOpened(JobType.REFILL), planned())  # another family is inside: change out is advised
    with pytest.raises(Conflict, match="advice is now “change type”"):
        book.add(JobTypeChosen(JobType.REFILL, JobType.REFILL))
    with pytest.raises(CoreError, match="Against the advice"):
        JobTypeChosen(JobType.REFILL, JobType.CHANGE_TYPE)
    state = book.add(JobTypeChosen(JobType.REFILL, JobType.CHANGE_TYPE, "takes the crew down at noon"))
    assert state.job_type is JobType.REFILL
    assert state.stage is Stage.OPEN
    assert not state.overrides[0].acknowledged


def test_a_drained_loop_cannot_go_a_way_without_a_drain():
    book = at_mix()
    advised = book.state.advice.job_type
    with pytest.raises(Conflict, match="this job has no drain"):
        book.add(JobTypeChosen(JobType.TOP_UP, advised, "why not"))
    book.add(planned(-45.0, concentrate_l=18.1, water_l=6.7), pour(NEW, 5, 0))
    with pytest.raises(Conflict, match="Undo the pours first"):
        book.add(JobTypeChosen(JobType.REFILL, advised, "why not"))


def test_an_override_is_seen_once_also_after_the_job():
    book = Book()
    book.add(
        JobOpened(JobType.CHECK),
        ReportedContents(),
        JobTypeChosen(JobType.CHECK, JobType.CHANGE_TYPE, "later"),
        SignedOff("checked"),
    )
    override = book.state.overrides[0].entry_id
    assert book.add(Acknowledged(override)).overrides[0].acknowledged
    with pytest.raises(Conflict, match="seen it already"):
        book.add(Acknowledged(override))
    with pytest.raises(Conflict, match="not in this record"):
        book.add(Acknowledged("nowhere"))


def test_a_photo_belongs_to_an_entry_that_stands():
    book = Book()
    book.add(JobOpened(JobType.CHECK), Sampled(Spot.NECK, (Look.GEL,)))
    book.add(PhotoAdded("e1", "0" * 64))
    book.add(Voided("e2"), Voided("e1"))
    with pytest.raises(Conflict, match="not in this record"):
        book.add(PhotoAdded("e1", "0" * 64))


def test_a_top_up_is_not_a_filling():
    book = Book(a_loop(believed=Fluid(Base.ETHYLENE, Family.OAT)))
    book.add(JobOpened(JobType.TOP_UP), planned(), JobTypeChosen(JobType.TOP_UP, JobType.TOP_UP))
    assert book.state.stage is Stage.OPEN
    with pytest.raises(CoreError, match="is no top-up"):
        book.add(pour(NEW, 40.0, 0.0))
    state = book.add(pour(NEW, 1.0, 1.0, at_mark=True))
    assert state.stage is Stage.VERIFY
    assert state.inside.litres == pytest.approx(32.0, abs=0.1)


def signed(loop, job_type, inside_family, rinses=2):
    """A finished job; returns its book."""
    book = Book(loop)
    book.add(JobOpened(job_type), ReportedContents(Base.ETHYLENE, inside_family, ToppedUp.NOTHING), planned())
    book.add(Metered(50_000.0))
    book.add(JobTypeChosen(job_type, book.state.advice.job_type, "for the test"))
    book.drain_and_rinse(24.5, rinses)
    book.add(planned(-45.0, concentrate_l=18.1, water_l=6.7))
    book.add(pour(NEW, 18.2, 6.6, at_mark=True))
    from tests.core.test_ledger import read

    state = book.add(read(-46.6))
    book.add(SignedOff(state.proof.verdict.value, "for the test"))
    return book


def test_what_was_renewed_is_due_by_its_own_life_and_a_mixture_by_the_shortest():
    clean = signed(a_loop(), JobType.CHANGE_TYPE, Family.IAT)
    due = fold(clean.loop, clean.entries, now=NOW).due
    assert due.life.months == 60
    assert due.on == date(2031, 11, 24)
    mixed = signed(a_loop(), JobType.REFILL, Family.IAT, rinses=0)  # 23 % of the old stayed
    due = fold(mixed.loop, mixed.entries, now=NOW).due
    assert due.life.months == 24
    assert "shorter life" in due.life.by.sentence


def test_the_due_day_is_the_depots_calendar_day():
    book = signed(a_loop(), JobType.CHANGE_TYPE, Family.IAT)
    late = NOW.replace(year=2031, month=11, day=24, hour=23)
    assert not fold(book.loop, book.entries, now=late).due.overdue
    assert fold(book.loop, book.entries, now=late + timedelta(hours=2)).due.overdue


def test_without_a_clock_nothing_is_due():
    assert signed(a_loop(), JobType.CHANGE_TYPE, Family.IAT).state.due is None


def test_cleans_are_counted_from_the_ledger():
    loop = a_loop(need=Requirement())
    book = signed(loop, JobType.CLEAN, Family.OAT)
    book.job = "job 2"
    state = book.add(JobOpened(JobType.REFILL), planned(), Sampled(Spot.NECK, (Look.ORANGE_RUST,)))
    assert state.advice.job_type is JobType.CLEAN
    assert "repeat once" in " ".join(reason.said.sentence for reason in state.advice.reasons)
