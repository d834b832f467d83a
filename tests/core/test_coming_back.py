"""After it left: rechecks by their days, top-ups as dilutions, corrections beside what was signed, frost ahead."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta, timezone

import pytest
from hypothesis import given
from hypothesis import strategies as st

from temper_core.basis.errors import Conflict, CoreError
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.calculate.mix import TopUpQuestion, top_up
from temper_core.job.between.facts import Amended, LevelSeen
from temper_core.job.between.rules import SeenAgain, rechecks
from temper_core.job.between.season import Season, frost_dates, season_plan
from temper_core.job.between.state import RecheckWhy
from temper_core.job.entries import Entry, JobOpened
from temper_core.job.fold import at_rest, fold
from temper_core.job.job_types import JobType
from temper_core.job.ledger import walk
from temper_core.job.life.snapshot import snapshot_of
from temper_core.job.read.facts import Place, Read
from temper_core.job.validate import check_entry
from temper_core.job.verify.facts import Level, SignedOff
from temper_core.products.chemistry import Family
from temper_core.views.history import history
from tests.core.test_ledger import FELT, GLASS, NEW, OPENING, PG, START, filled, planned, pour, read

LEFT = date(2026, 11, 24)


def seen(days, was_read=False):
    """A look so many days after it left."""
    return SeenAgain(datetime(2026, 11, 24, 12, tzinfo=UTC) + timedelta(days=days), was_read)


# ---- rechecks -----------------------------------------------------------------------------------------------------


def test_the_first_look_is_next_morning_and_the_second_after_days_with_a_reading():
    """After the first drive or next morning, again after 3-4 days with a second reading: common practice, no source."""
    first, second = rechecks(LEFT, None, (), LEFT)
    assert (first.due_on, first.with_reading) == (date(2026, 11, 25), False)
    assert (second.due_on, second.with_reading) == (date(2026, 11, 28), True)


@pytest.mark.parametrize(
    ("looks", "today", "done", "overdue"),
    [
        ((), 1, [False, False], [False, False]),
        ((), 2, [False, False], [True, False]),
        ((seen(0.3),), 2, [True, False], [False, False]),
        ((seen(1), seen(4)), 6, [True, False], [False, True]),
        ((seen(1), seen(4, True)), 6, [True, True], [False, False]),
        ((seen(3, True),), 3, [True, True], [False, False]),
        ((seen(1, True),), 5, [True, False], [False, True]),
    ],
)
def test_a_look_counts_from_the_day_it_opens_and_one_may_do_for_both(looks, today, done, overdue):
    rows = rechecks(LEFT, None, looks, LEFT + timedelta(days=today))
    assert [row.done_at is not None for row in rows] == done
    assert [row.overdue for row in rows] == overdue


def test_without_glycol_there_is_nothing_to_read():
    assert not any(row.with_reading for row in rechecks(LEFT, LEFT, (), LEFT, glycol=False))


@given(st.integers(0, 14), st.integers(1, 30), st.integers(0, 60))
def test_policy_moves_the_days_and_nothing_is_overdue_on_its_own_day(first, second, today):
    policy = Policy({"recheck_first_days": float(first), "recheck_second_days": float(second)})
    for row in rechecks(LEFT, None, (), LEFT + timedelta(days=today), policy=policy):
        assert row.overdue == (LEFT + timedelta(days=today) > row.due_on)
        assert row.opens_on <= row.due_on


# ---- between services ---------------------------------------------------------------------------------------------


class Away:
    """The groomer, signed off; what is done to it afterwards without a job."""

    def __init__(self):
        book = filled()
        book.add(read(-46.6), SignedOff("proven"))
        self.loop, self.entries, self.at = book.loop, book.entries, START + timedelta(days=1)

    def add(self, *facts, days=1.0):
        """Validate each without a job, so many days later."""
        for one in facts:
            self.at += timedelta(days=days)
            if isinstance(one, OPENING) and not self.state.gate.open:
                self.entries.append(Entry(f"g{len(self.entries)}", None, self.at, self.at, "IH", FELT, "7"))
            check_entry(self.loop, self.entries, one, None, self.at, "7", between=True)
            self.entries.append(Entry(f"b{len(self.entries)}", None, self.at, self.at, "IH", one, "7"))
        return self.state

    @property
    def state(self):
        """Now."""
        return fold(self.loop, self.entries, None, self.at)


def test_plain_water_is_a_dilution_with_the_freeze_point_the_calculator_predicts():
    """Against the top-up calculator: g' = (g V0 + f w)/(V0 + w), masses conserved."""
    away = Away()
    before = away.state.inside
    state = away.add(pour(None, 0, 3.0))
    told = top_up(TopUpQuestion(_glycol(away), 29.0, VolumePercent(before.strength_percent), 3.0))
    assert state.inside.strength_percent == pytest.approx(told.final.strength_percent, abs=0.15)
    assert state.claim.why == "diluted"
    assert state.claim.freeze_c == pytest.approx(told.final.freeze_c, abs=0.3)
    assert "3.0 L demineralised water" in state.after.diluted.sentence
    owed = next(row for row in state.after.rechecks if row.why is RecheckWhy.DILUTED)
    assert owed.with_reading
    assert owed.due_on == (away.at + timedelta(days=7)).date()


def _glycol(away):
    return walk(away.loop, away.entries, Policy()).glycol


def test_a_dilution_is_never_surer_than_what_it_thinned():
    """Water makes it weaker and no surer: the warm end rises with every top-up, and stays above the freeze point."""
    away = Away()
    ends = [away.state.claim.safe_to_c]
    for _ in range(3):
        claim = away.add(pour(None, 0, 0.4)).claim
        assert claim.safe_to_c > claim.freeze_c + 1
        ends.append(claim.safe_to_c)
    assert ends == sorted(ends)


def test_another_base_on_top_counts_as_water():
    """Bases are never mixed: a remainder of the other base counts as water and is flagged: common practice, no source."""
    other, water = (Away().add(facts) for facts in (pour(PG, 1.0, 0.5), pour(None, 0, 1.5)))
    assert other.claim.freeze_c == pytest.approx(water.claim.freeze_c)
    assert "another base" in other.after.diluted.sentence


def test_a_top_up_of_the_same_mix_keeps_the_strength():
    """Against the walk of the ledger itself, which conserves masses."""
    away = Away()
    before = away.state
    share = before.top_up_share
    after = away.add(pour(NEW, 2.0 * share, 2.0 * (1 - share)))
    assert after.inside.strength_percent == pytest.approx(before.inside.strength_percent, abs=1e-6)


def test_a_reading_afterwards_settles_it():
    away = Away()
    away.add(pour(None, 0, 3.0))
    state = away.add(Read(-38.0, Place.AS_FOUND, GLASS, zero=0.0), LevelSeen(Level.AT_MARK), days=0.01)
    assert state.claim.why == "read_since"
    assert state.claim.freeze_c == pytest.approx(-38.0, abs=0.3)
    assert state.claim.safe_to_c > state.claim.freeze_c
    assert RecheckWhy.DILUTED not in {row.why for row in state.after.rechecks}


def test_a_low_level_that_nobody_made_good_settles_nothing():
    low, made_good = Away(), Away()
    low.add(LevelSeen(Level.LOW))
    made_good.add(LevelSeen(Level.LOW), pour(NEW, 0.3, 0.2), days=0.01)
    first = [away.state.after.rechecks[0].done_at is not None for away in (low, made_good)]
    assert first == [False, True]


def test_the_next_job_starts_from_what_was_topped_up_whether_its_whole_life_is_walked_or_not():
    away = Away()
    carried = snapshot_of(walk(away.loop, away.entries, Policy()))
    away.add(pour(None, 0, 3.0))
    opened = Entry("next", "job 2", away.at, away.at, "IH", JobOpened(JobType.REFILL), "7")
    whole = fold(away.loop, [*away.entries, opened], None, away.at)
    since = fold(away.loop, [away.entries[-1], opened], None, away.at, carried)
    assert whole.found.strength_percent == pytest.approx(since.found.strength_percent, rel=1e-9)
    assert whole.inside.strength_percent == pytest.approx(since.inside.strength_percent, rel=1e-9)
    assert whole.found.family == since.found.family
    assert whole.found.strength_percent < Away().state.inside.strength_percent


def test_a_top_up_between_services_stands_on_the_line_of_its_life():
    away = Away()
    away.add(pour(None, 0, 3.0))
    assert history(away.loop, away.entries).events[-1].kind == "top_up"


@pytest.mark.parametrize(
    ("facts", "words"),
    [
        (pour(None, 0, 20.0), "is no top-up"),
        (read(-40.0), "only a reading as found"),
        (SignedOff("proven"), "belongs to a job"),
        (Amended("x", "no such entry"), "not in this record"),
    ],
)
def test_what_belongs_to_a_job_is_not_recorded_without_one(facts, words):
    with pytest.raises((Conflict, CoreError), match=words):
        Away().add(facts)


def test_with_a_job_open_it_is_recorded_there():
    away = Away()
    away.entries.append(Entry("next", "job 2", away.at, away.at, "IH", JobOpened(JobType.REFILL), "7"))
    with pytest.raises(Conflict, match="A job is open"):
        away.add(LevelSeen(Level.LOW))
    with pytest.raises(Conflict, match="Record it in the job"):
        check_entry(away.loop, away.entries, LevelSeen(Level.LOW))


def test_a_signed_job_stays_as_it_was_and_a_correction_stands_beside_it():
    away = Away()
    before = away.state.proof
    about = away.entries[-2].id
    state = away.add(Amended("The reading was taken at 12 °C, not 19 °C.", about))
    assert state.proof == before
    assert [(row.about, row.by) for row in state.after.amendments] == [(about, "IH")]
    with pytest.raises(CoreError):
        Amended("  ")


def test_a_checked_job_owes_no_recheck():
    entries = [Entry("a", "job", START, START, "IH", JobOpened(JobType.CHECK))]
    entries.append(Entry("b", "job", START, START + timedelta(minutes=1), "IH", SignedOff("checked")))
    state = fold(Away().loop, entries, None, START + timedelta(days=3))
    assert state.after.rechecks == ()
    assert fold(Away().loop, entries[:1], None, START).after is None


def test_the_days_are_the_depots():
    """Signed off at 23:30 in UTC, which is the next day where the depot stands."""
    east = timezone(timedelta(hours=2))
    at = datetime(2026, 11, 24, 23, 30, tzinfo=UTC)
    entries = [Entry("a", "job", at, at, "IH", JobOpened(JobType.REFILL)), Entry("p", "job", at, at, "IH", planned())]
    entries.append(Entry("s", "job", at, at, "IH", SignedOff("left", "as it was")))
    state = fold(Away().loop, entries, None, at.astimezone(east))
    assert state.after.rechecks[0].opens_on == date(2026, 11, 25)


def test_another_coolant_on_top_keeps_the_shorter_life():
    away = Away()
    other = replace(NEW, id="9", name="Old Guard S", family=Family.IAT)
    away.add(pour(other, 1.0, 0.5))
    assert Family.IAT in walk(away.loop, away.entries, Policy()).life.families


# ---- frost --------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("today", "season"),
    [
        (date(2026, 7, 1), Season.FREE),
        (date(2026, 8, 20), Season.AHEAD),
        (date(2026, 9, 28), Season.FROST),
        (date(2027, 1, 2), Season.FROST),
        (date(2027, 5, 23), Season.FROST),
        (date(2027, 5, 24), Season.FREE),
    ],
)
def test_the_season_by_weeks_of_the_year(today, season):
    """Weeks 40 to 20, six ahead; Monday of a week by ISO 8601 (date.fromisocalendar)."""
    assert frost_dates(today, Policy()).season is season


def test_south_of_the_equator_frost_lies_inside_one_year():
    policy = Policy({"frost_from_week": 22.0, "frost_until_week": 36.0})
    assert frost_dates(date(2026, 7, 1), policy).season is Season.FROST
    assert frost_dates(date(2026, 12, 1), policy).season is Season.FREE
    with pytest.raises(CoreError):
        frost_dates(date(2026, 7, 1), Policy({"frost_from_week": 20.0}))


@pytest.mark.parametrize("today", [date(2026, 8, 25), date(2026, 12, 1)])
def test_what_is_not_protected_gets_a_plan_and_what_is_does_not(today):
    """Glycol-free is right in season, and needs a frost plan for storage: common practice, no source."""
    dates = frost_dates(today, Policy())
    free, mild, unknown = (
        season_plan(c, -38.0, no_glycol, dates) for c, no_glycol in ((0, True), (-20, False), (None, False))
    )
    assert "Drain for storage" in free.act.sentence
    assert mild.act.code == "season_correct"
    assert unknown.act.code == "season_read"
    assert season_plan(-41.0, -38.0, False, dates) is None
    assert {row.loud for row in (free, mild, unknown)} == {dates.season is Season.FROST}
    assert season_plan(0.0, -38.0, True, frost_dates(date(2026, 7, 1), Policy())) is None


def test_at_rest_says_what_the_whole_ledger_says():
    """The lane goes by what the last job handed on; a bench walks the whole life."""
    away = Away()
    carried = snapshot_of(walk(away.loop, away.entries, Policy()))
    start = len(away.entries)
    for step in ((), (LevelSeen(Level.LOW), pour(None, 0, 2.0)), (Read(-40.0, Place.AS_FOUND, GLASS),)):
        state = away.add(*step) if step else away.state
        rest = at_rest(away.loop, away.entries[start:], carried, None, away.at)
        assert rest.after == state.after
        assert rest.due == state.due
        assert rest.base == state.inside.base
        if step:
            assert rest.claim == state.claim
