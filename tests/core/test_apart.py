"""What was recorded without a network meets what others recorded meanwhile."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.job.apart.facts import SetAside
from temper_core.job.apart.meeting import meet
from temper_core.job.entries import Entry, JobOpened, Voided
from temper_core.job.fold import fold
from temper_core.job.job_types import JobType
from temper_core.job.kinds import REGISTRY
from temper_core.job.open.facts import EngineRun, Ran
from temper_core.job.read.facts import Place, Read
from temper_core.job.waiting.facts import Paused, TemperatureLogged
from tests.core.test_ledger import FELT, START, a_loop, filled, planned, weighed

LOOP, POLICY = a_loop(), Policy()


def at(minutes, facts, who="Ines", person="1", name="", between=False):
    """An entry so many minutes into the job."""
    when = START + timedelta(minutes=minutes)
    job = None if between else "job 1"
    return Entry(name or f"{who}{minutes}", job, when, when, who, facts, person)


OPENED = [
    at(0, JobOpened(JobType.CHANGE_TYPE)),
    at(1, Read(-19.0, Place.AS_FOUND)),
    at(2, planned()),
]


def met(theirs, mine):
    """Mine among theirs; all of OPENED was known to both."""
    theirs = [replace(entry, seq=n + 1) for n, entry in enumerate([*OPENED, *theirs])]
    mine = [replace(entry, seq=len(theirs) + n + 1) for n, entry in enumerate(mine)]
    return meet(LOOP, theirs, mine, len(OPENED), POLICY, UTC)


def test_a_temperature_joins_whatever_others_did():
    (one,) = met([at(10, FELT, "Tomo", "2"), at(11, weighed(8.0), "Tomo", "2")], [at(12, TemperatureLogged(41.0))])
    assert (one.asks, one.can_follow, one.why) == (False, True, None)


def test_two_drains_of_the_same_loop_ask_and_may_both_be_kept():
    theirs = [at(10, FELT, "Tomo", "2"), at(11, weighed(8.0), "Tomo", "2", "theirs")]
    gate, drained = met(theirs, [at(12, FELT), at(13, weighed(6.0))])
    assert not gate.asks
    assert (drained.asks, drained.can_follow, drained.against) == (True, True, ("theirs",))
    assert drained.why.sentence == "Tomo recorded litres out meanwhile" or "Tomo" in drained.why.sentence


def test_nobody_recorded_meanwhile_and_nothing_asks():
    assert [one.asks for one in met([], [at(10, FELT), at(11, weighed(6.0))])] == [False, False]


@pytest.mark.parametrize(("ran_at", "can"), [(9, True), (11, False), (14, True)])
def test_somebody_elses_engine_run_shuts_the_gate_for_what_followed_it(ran_at, can):
    """Felt at 10, drained at 13: a run before the check or after the drain is no matter, one between them is."""
    run = at(ran_at, EngineRun(Ran.ENGINE, 12.0), "Tomo", "2", "run")
    _, drained = met([run], [at(10, FELT), at(13, weighed(6.0))])
    assert drained.can_follow is can
    assert drained.asks is not can
    if not can:
        assert drained.against == ("run",)
        assert drained.why.sentence


def test_a_job_signed_meanwhile_takes_nothing_more_of_the_job():
    book = filled()
    theirs = [replace(entry, seq=n + 1) for n, entry in enumerate(book.entries)]
    last = theirs[-1].happened_at
    paused = Entry("p", "job 1", last + timedelta(minutes=1), last, "Tomo", Paused("lunch"), "2", len(theirs) + 1)
    mine = Entry("m", "job 1", last + timedelta(minutes=2), last, "Ines", weighed(2.0), "1", len(theirs) + 2)
    (one,) = meet(book.loop, [*theirs, paused], [mine], len(theirs), POLICY, UTC)
    assert (one.asks, one.can_follow) == (True, False)
    assert "paused the job" in one.why.sentence


def test_undoing_what_is_gone_asks():
    (one,) = met([at(10, TemperatureLogged(50.0), "Tomo", "2")], [at(11, Voided("not there"))])
    assert (one.asks, one.can_follow) == (True, False)


def test_what_is_set_aside_changes_nothing_and_says_so():
    aside = SetAside("drained", "6.0 L out, weighed", "{}", START + timedelta(minutes=11), "Tomo had drained it")
    before = fold(LOOP, OPENED)
    after = fold(LOOP, [*OPENED, at(12, aside)])
    assert after.inside == before.inside
    assert after.stage == before.stage
    said = REGISTRY.sentence(aside).sentence
    assert said == "Set aside, does not count: 6.0 L out, weighed (Tomo had drained it)"


@pytest.mark.parametrize(("name", "many"), [("said", 0), ("said", 501), ("figures", 4001), ("reason", 301)])
def test_what_is_set_aside_keeps_within_its_bounds(name, many):
    facts = {"was": "drained", "said": "so", "figures": "{}", "at": START, "reason": ""} | {name: "x" * many}
    with pytest.raises(CoreError) as refused:
        SetAside(**facts)
    assert refused.value.field == name


JOINING = st.sampled_from([TemperatureLogged(41.0), TemperatureLogged(60.0), EngineRun(Ran.ENGINE, 3.0), FELT])


@settings(max_examples=60, deadline=None)
@given(st.lists(st.tuples(st.integers(10, 60), JOINING), max_size=6, unique_by=lambda one: one[0]), st.randoms())
def test_in_whatever_order_two_tablets_are_sent_the_state_is_the_same(facts, rng):
    """The fold goes by when things happened: which tablet found a network first does not matter.

    But for the safe-to-open check: a run that becomes known after it shuts it, whatever its clock says, so an order may
    ask for a check more. None holds one open that a run followed.
    """
    entries = [at(minute, fact, "Ines" if minute % 2 else "Tomo", str(minute % 2)) for minute, fact in facts]
    runs = [entry.happened_at for entry in entries if isinstance(entry.facts, EngineRun)]
    states = []
    for _ in range(3):
        rng.shuffle(entries)
        sent = [replace(entry, seq=n + 1) for n, entry in enumerate([*OPENED, *entries])]
        state = fold(LOOP, sent, POLICY, datetime(2026, 11, 24, 10, tzinfo=UTC))
        if state.gate.open:
            assert state.gate.observed_at > max(runs, default=START)
        states.append(replace(state, last_entry_id=None, gate=None, timers=()))
    assert states[0] == states[1] == states[2]
