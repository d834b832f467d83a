"""What the state says of itself: stage results, next acts, flags; every sentence whole, every figure given."""

import re

import pytest

from temper_core.job.drain.facts import Drained, Measured
from temper_core.job.entries import JobOpened
from temper_core.job.fill.facts import BleedEnded, LookedUnder, Poured
from temper_core.job.flush.facts import FlushEnded
from temper_core.job.fold import fold
from temper_core.job.identify.facts import ReportedContents
from temper_core.job.inspect.decision import JobTypeChosen
from temper_core.job.job_types import JobType, Stage
from temper_core.job.read.facts import Place, Read
from temper_core.job.verify.facts import FinishChecked, FinishPoint, LeakMethod, LeakProof, Level, SignedOff
from temper_core.machine.bleeding import BleedOutcome
from temper_core.products.chemistry import Base, Family, Fluid, Requirement
from tests.core.test_ledger import FELT, HOT, NEW, PG, WATERY, Book, a_loop, at_mix, filled, planned, pour, read


def sayings(state):
    """Every Message a state carries."""
    yield state.claim.said
    yield from state.flags
    yield from (row.result for row in state.stages if row.result)
    if state.next_action:
        yield state.next_action.act
        yield state.next_action.then
    if state.proof:
        yield state.proof.said
    yield from (row.said for row in state.causes)
    yield from (
        part.said for part in (state.correction, state.fill and state.fill.slip, state.fill and state.fill.air) if part
    )
    if state.fill:
        yield from (said for way in state.fill.methods for said in (*way.steps, *way.warnings))
        yield from ([state.fill.top_ups.said] if state.fill.top_ups else [])
        yield from ([state.fill.slip.replan.said] if state.fill.slip and state.fill.slip.replan else [])
    if state.after:
        yield from (row.said for row in state.after.rechecks)


NO_HEAT = BleedEnded(BleedOutcome.NO_HEAT)
LAST_LOOK = FinishChecked(Level.AT_MARK, 18.0, LeakProof(LeakMethod.PRESSURE, 100, 0.5, 10), done=tuple(FinishPoint))


def shut(**litres):
    """The groomer, its mix accepted, everything shut and seated."""
    book = at_mix()
    book.add(planned(-45.0, **({"concentrate_l": 18.1, "water_l": 6.7} | litres)))
    book.shut()
    return book


def journeys():
    """States along several jobs."""
    book = filled()
    yield Book().add(JobOpened(JobType.REFILL))
    yield at_mix(0).state
    yield at_mix(2).state
    yield book.state
    yield filled(22.0, 8.0).state
    yield filled(15.0, 5.0).state
    yield shut().add(pour(None, 0, 6.7))
    yield shut().add(pour(NEW, 10, 8))
    yield shut().add(pour(PG, 10, 3))
    yield book.add(read(-46.6))
    yield filled().add(read(-60.0))
    yield filled().add(read(-30.0))
    yield filled(14.0, 10.8).add(read(-30.0))
    yield book.add(SignedOff("proven"))
    free = Book(a_loop(believed=Fluid(Base.NONE, Family.GLYCOL_FREE), need=Requirement(glycol_forbidden=True)))
    free.add(JobOpened(JobType.REFILL), planned(product=WATERY), Drained(30, Measured.GUESSED))
    yield free.state
    other = Book()
    other.add(JobOpened(JobType.CHANGE_TYPE), Read(-19, Place.AS_FOUND), planned(product=PG), Drained(28, Measured.MARKS))
    yield other.add(FlushEnded("for the test"), pour(PG, 15, 13))


@pytest.mark.parametrize("state", list(journeys()), ids=lambda state: f"{state.claim.why}-{state.stage}")
def test_every_sentence_is_whole_and_says_it_in_trade_words(state):
    for said in sayings(state):
        assert said.code
        assert not re.search(r"[{}]|nan|None|inf\b", said.sentence), said
        assert not re.search(r"!|\bplease\b|cap off", said.sentence, re.I), said
        placeholders = set(re.findall(r"\{(\w+)", said.template))
        assert placeholders <= set(said.values), said


@pytest.mark.parametrize(
    ("build", "code"),
    [
        (lambda: Book().add(JobOpened(JobType.REFILL)), "choose"),
        (lambda: Book().add(JobOpened(JobType.REFILL), planned()), "look"),
        (
            lambda: Book().add(
                JobOpened(JobType.REFILL), planned(), JobTypeChosen(JobType.REFILL, JobType.CHANGE_TYPE, "no time")
            ),
            "feel",
        ),
        (
            lambda: Book().add(
                JobOpened(JobType.REFILL), planned(), JobTypeChosen(JobType.REFILL, JobType.CHANGE_TYPE, "no time"), FELT
            ),
            "drain",
        ),
        (lambda: Book().add(JobOpened(JobType.CHECK)), "know_inside"),
        (
            lambda: Book().add(
                JobOpened(JobType.CHECK), ReportedContents(), JobTypeChosen(JobType.CHECK, JobType.CHANGE_TYPE, "later")
            ),
            "sign_check",
        ),
        (lambda: at_mix().state, "mix"),
        (lambda: at_mix().add(planned(-45.0, concentrate_l=18.1, water_l=6.7)), "shut"),
        (lambda: shut().state, "pour_blend"),
        (lambda: shut(water_l=0.0).state, "pour_product"),
        (lambda: shut().add(pour(NEW, 18.1, 0)), "look_under"),
        (lambda: shut().add(pour(NEW, 18.1, 0), LookedUnder(False, "A")), "drips"),
        (lambda: shut().add(pour(NEW, 18.1, 0), LookedUnder(True)), "pour_water"),
        (lambda: shut().add(pour(NEW, 18.1, 6.7), LookedUnder(True)), "to_mark"),
        (lambda: shut().add(pour(None, 0, 6.7)), "pour_product"),
        (lambda: shut().add(pour(NEW, 10.0, 8.0), LookedUnder(True)), "plan_again"),
        (lambda: shut().bare(pour(NEW, 18.1, 6.7, at_mark=True), LookedUnder(True)), "bleed"),
        (lambda: shut().bare(pour(NEW, 18.1, 6.7, at_mark=True), LookedUnder(True), NO_HEAT), "bleed_again"),
        (lambda: filled().state, "run_and_read"),
        (lambda: filled().add(HOT), "cool_and_read"),
        (lambda: filled().add(read(-46.6)), "last_look"),
        (lambda: filled().add(read(-46.6), LAST_LOOK), "sign"),
        (lambda: filled(14.0, 10.8).add(read(-30.5)), "too_weak"),
        (lambda: filled().add(read(-30.0)), "does_not_agree"),
    ],
)
def test_the_next_act_is_one_obvious_thing(build, code):
    assert build().next_action.act.code == code


def test_pouring_in_turns_counts_down_to_the_plan():
    book = at_mix()
    book.add(planned(-45.0, concentrate_l=18.1, water_l=6.7))
    left = [(book.state.poured.left_product_l, book.state.poured.left_water_l)]
    for one in (pour(NEW, 10.0, 0), pour(NEW, 8.1, 3.0), pour(None, 0, 3.7, at_mark=True)):
        state = book.add(one)
        left.append((round(state.poured.left_product_l, 6), round(state.poured.left_water_l, 6)))
    assert left == [(18.1, 6.7), (8.1, 6.7), (0, 3.7), (0, 0)]
    assert state.stage is Stage.VERIFY
    assert state.poured.room_l == pytest.approx(0, abs=0.3)


def test_a_new_plan_in_the_middle_of_filling_counts_from_there():
    book = at_mix()
    book.add(planned(-45.0, concentrate_l=18.1, water_l=6.7), pour(NEW, 0, 6.7))
    state = book.add(planned(-40.0, concentrate_l=16.0, water_l=1.0))
    assert (state.poured.left_product_l, state.poured.left_water_l) == (16.0, 1.0)
    assert (state.poured.from_cans_l, state.poured.cans_l, state.poured.planned_water_in_l) == (0, 16.0, 0)
    state = book.add(pour(NEW, 4.0, 0), pour(NEW, 0.6, 0.2, bleeding=True))  # a top-up while bleeding is from no can
    assert (state.poured.from_cans_l, state.poured.cans_l) == (4.0, 15.4)
    assert state.poured.planned_water_in_l == pytest.approx(0.2)


def test_a_void_that_leaves_litres_over_is_a_flag_not_a_crash():
    """Two drains; the pour between them is taken back by somebody else's void: the sum no longer closes, and says so."""
    book = at_mix(0)
    book.add(planned(-45.0, concentrate_l=18.1, water_l=6.7), pour(NEW, 18.1, 6.7, at_mark=True))
    book.add(Drained(20.0, Measured.WEIGHED))
    kept = [entry for entry in book.entries if not isinstance(entry.facts, Poured)]
    state = fold(book.loop, kept)
    assert "more_than_inside" in {flag.code for flag in state.flags}
    assert state.inside.litres == pytest.approx(0, abs=1e-6)
    assert state.claim.why == "empty"
