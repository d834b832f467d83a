"""What jobs teach of their machine: read off the record, pooled, taken over into the next prediction."""

from dataclasses import replace
from datetime import timedelta

import pytest

from temper_core.basis.policy import Policy
from temper_core.job.drain.facts import Caught, Drained, Measured
from temper_core.job.entries import Entry, JobOpened
from temper_core.job.fill.facts import BleedStarted
from temper_core.job.flush.ahead import ahead_of, least_out
from temper_core.job.inside.questions import time_constant
from temper_core.job.job_types import JobType, Stage
from temper_core.job.ledger import walk
from temper_core.job.life.lesson import lesson_of, offers
from temper_core.job.life.taught import taught_words
from temper_core.job.loop import Taught, drained_usually
from temper_core.job.waiting.facts import TemperatureLogged
from temper_core.machine.bleed_recipes import shipped_recipes
from tests.core.test_ledger import BLED, HOT, LAYOUT, NEW, RINSE, START, Book, a_loop, planned, pour, weighed

RECIPE = next(iter(shipped_recipes(LAYOUT)))


def taught_by(book):
    return lesson_of(walk(book.loop, book.entries, Policy()))


def test_a_drain_that_was_measured_teaches_its_share_and_a_guess_does_not():
    book = Book()
    book.add(JobOpened(JobType.REFILL), planned(), weighed(24.0))
    assert taught_by(book) == {"drain": pytest.approx(24 / 32)}
    book.add(weighed(1.0))  # more of the same drain: another share
    assert taught_by(book) == {"drain": pytest.approx(24 / 32)}
    guessed = Book()
    guessed.add(JobOpened(JobType.REFILL), planned(), Drained(24.0, Measured.GUESSED))
    assert taught_by(guessed) == {}


def test_a_container_under_one_drain_teaches_that_drain():
    book = Book()
    book.add(JobOpened(JobType.REFILL), planned(), Drained(caught=(Caught("A", marks_l=14.0),)))
    assert taught_by(book) == {"drain:A": pytest.approx(14 / 32, rel=0.01)}
    both = Book()
    both.add(
        JobOpened(JobType.REFILL),
        planned(),
        Drained(caught=(Caught("A", marks_l=14.0), Caught("B", marks_l=9.0))),
    )
    assert set(taught_by(both)) == {"drain", "drain:A", "drain:B"}


def test_rounds_teach_what_a_rinse_exchanges():
    book = Book()
    book.add(JobOpened(JobType.CHANGE_TYPE), planned(), weighed(24.0), RINSE, HOT, weighed(20.0), RINSE, HOT, weighed(22.0))
    assert taught_by(book)["round"] == pytest.approx(21 / 32)


def test_the_litres_before_the_bleed_are_a_share_of_all_that_went_in():
    book = Book()
    book.add(JobOpened(JobType.REFILL), planned(), weighed(24.0), planned(-45.0, concentrate_l=18.1, water_l=5.9))
    book.closes = False
    book.shut()
    book.bare(pour(NEW, 16.5, 5.5))
    for facts in (BleedStarted(RECIPE), pour(NEW, 1.5, 0.5, at_mark=True, bleeding=True), BLED):  # its checks: test_bleeding
        at = START + timedelta(minutes=len(book.entries))
        book.entries.append(Entry(f"e{len(book.entries)}", "job 1", at, at, "IH", facts))
    assert taught_by(book)["fill"] == pytest.approx(22 / 24)


def test_offers_are_of_two_jobs_at_least_and_say_whose_they_are():
    loop = a_loop()
    assert offers(loop, [{"drain": 0.7}], []) == []
    (row,) = offers(loop, [{"drain": 0.7}], [[{"drain": 0.8}, {"drain": 0.8}]])
    assert (row.jobs, row.own, row.sisters) == (3, 1, 1)
    assert 0.7 < row.value < 0.8
    assert row.said.values["next_l"] == pytest.approx(row.value * 32)
    keys = [
        row.key for row in offers(loop, [{"cooling": 40.0, "fill": 0.9, "drain:B": 0.3, "drain": 0.7, "round": 0.6}] * 2, [])
    ]
    assert keys == ["drain", "drain:B", "round", "fill", "cooling"]


def test_a_cooling_constant_is_pooled_by_its_factor():
    (row,) = offers(a_loop(), [{"cooling": 30.0}, {"cooling": 120.0}], [])
    assert row.value == pytest.approx(60.0)  # the geometric mean
    assert row.likely.low > 0


def test_what_is_taken_over_is_the_next_prediction():
    plain = a_loop()
    loop = replace(plain, taught={"drain": Taught(0.6, 0.02, 4), "cooling": Taught(55.0, 8.0, 4)})
    assert sum(drained_usually(loop).values()) == pytest.approx(0.6 * 32)
    assert all(
        litres <= node.volume_l + 1e-9 for node, litres in zip(LAYOUT.nodes, drained_usually(loop).values(), strict=True)
    )
    book = Book(loop)
    book.add(JobOpened(JobType.CHANGE_TYPE))
    t = walk(loop, book.entries, Policy())
    assert sum(ahead_of(t).out_l.values()) == pytest.approx(0.6 * 32)
    assert sum(least_out(ahead_of(t)).values()) < 0.6 * 32
    assert time_constant(t) == 55.0
    assert time_constant(walk(plain, book.entries, Policy())) is None
    said = taught_words(loop)[Stage.DRAIN][0].sentence
    assert said == "A drain gives 19.2 L (17.9 L to 20.5 L) from the full loop. Learned from 4 jobs."
    assert "in 55 min" in taught_words(loop)[Stage.OPEN][0].sentence


def test_logged_temperatures_teach_cooling():
    book = Book()
    book.add(JobOpened(JobType.REFILL), planned(), HOT)
    for c in (78.0, 60.0, 47.0):
        book.bare(TemperatureLogged(c))
        book.entries[-1] = replace(
            book.entries[-1], happened_at=book.entries[-2].happened_at + timedelta(minutes=30), seq=len(book.entries)
        )
    at = book.entries[-1].happened_at + timedelta(minutes=10)
    book.entries.append(Entry("out", "job 1", at, at, "IH", weighed(24.0)))
    assert taught_by(book)["cooling"] > 0
