"""Every lesson is played in the right way, and ends verified, and in its trap's way, and ends as the trap says."""

import pytest

from temper_core.job.between.facts import LevelSeen
from temper_core.job.flush.facts import FlushEnded, Method
from temper_core.job.identify.facts import ReportedContents, ToppedUp
from temper_core.job.read.facts import Place
from temper_core.job.verify.facts import Level
from temper_core.practice.acts import Do
from temper_core.practice.lesson import shipped
from temper_core.products.chemistry import Base, Family
from tests.core.playing import BLED, COLD, NEW, READY_MIX, Player

# ---- the right way -------------------------------------------------------------------------------------------------


def top_up(p):
    """Cold, level, reading, mix to the mark, hot run, again, sign."""
    p.begin()
    p.read(Place.AS_FOUND)
    p.decide()
    p.plan()
    p.top_up()
    p.run()
    p.gate()
    p.open()
    if p.level() is Level.LOW:
        p.top_up()
    p.record(BLED)
    p.finish()


def change(p, flush=True, cleaner=False, marks=False):
    """Drained by weight, rinsed by the counted share, filled by the plan, read."""
    p.begin()
    p.read(Place.AS_FOUND)
    p.decide()
    p.plan()
    p.drain(marks=marks)
    if cleaner:
        p.rinse(Method.CLEANER, 40)
    if flush:
        p.flush(marks)
    p.fill()
    p.finish()


def check(p):
    """Read with its zero, signed as checked."""
    p.begin()
    p.read(Place.AS_FOUND)
    p.decide()
    p.sign()


def by_marks(p):
    """A known weight shows that the scale is off: the containers' marks are used instead."""
    assert float(p.do(Do.KNOWN_WEIGHT).said.values["shown"]) > 10.4
    change(p, marks=True)


def of_two_bases(p):
    """The cans are looked at first."""
    assert p.do(Do.LABEL).said.code == "two_cans"
    told = ReportedContents(Base.PROPYLENE, Family.OAT, ToppedUp.OTHER)
    p.first = told
    change(p)


def both_loops(p):
    """Each loop gets its own."""
    top_up(p)
    p.n = 1
    p.begin()
    p.decide()
    p.plan(COLD)
    p.to_mark(COLD.name, COLD)
    p.run(20)
    p.gate()
    p.open()
    p.do(Do.BLEED, where="1")
    if p.level() is Level.LOW:
        p.to_mark(COLD.name, COLD)
    p.record(BLED)


def look_again(p):
    """Topped up and signed, and looked at again after five days."""
    top_up(p)
    p.world.wait(5 * 1440)
    level = p.level()
    assert level is Level.LOW
    p.record(LevelSeen(level, missing_mm=p.below_mm))


RIGHT = {
    "first-level-check": top_up,
    "zero-the-refractometer": check,
    "the-full-block": lambda p: change(p, flush=False),
    "ready-mix-on-water": lambda p: change(p, flush=False),
    "clear-is-not-clean": change,
    "the-cleaner": lambda p: change(p, cleaner=True),
    "two-loops": both_loops,
    "no-tank": lambda p: change(p, flush=False),
    "the-air-lock": top_up,
    "a-leak-made-good": look_again,
    "mixed-bases": of_two_bases,
    "the-race-sled": by_marks,
}


def test_every_lesson_has_its_right_way_and_its_trap():
    assert [lesson.key for lesson in shipped()] == list(RIGHT) == list(TRAP)
    assert [lesson.order for lesson in shipped()] == list(range(1, 13))


@pytest.mark.parametrize("seed", [1, 2, 3])
@pytest.mark.parametrize("key", RIGHT)
def test_played_right_a_lesson_reaches_its_aims(key, seed):
    p = Player(key, seed)
    RIGHT[key](p)
    back = p.back()
    assert back.unsafe == ()
    assert [(one.aim.text, one.value) for one in back.aims if not one.met] == []
    assert back.reached


# ---- the trap's way ------------------------------------------------------------------------------------------------


def scalded(p):
    """The cap at once."""
    p.do(Do.OPEN_CAP)


def without_zero(p):
    """Read as it lies there."""
    p.begin()
    p.read(Place.AS_FOUND, zero=False)
    p.decide()
    p.sign()


def ready_mix_alone(p, bottle=True):
    """Drained once, ready-mix to the mark."""
    p.begin()
    p.read(Place.AS_FOUND)
    p.decide()
    p.plan(READY_MIX)
    p.drain(bottle=bottle)
    p.do(Do.POUR, what=READY_MIX.name, to_mark=True)
    p.run()


def by_its_look(p):
    """Rinsed until the jar looks clear."""
    p.begin()
    p.decide()
    p.plan()
    p.drain()
    for _ in range(6):
        p.rinse()
        if p.jar.looks == ("crystal_clear",):
            break
    p.record(FlushEnded("it looks clear"))


def over_lunch(p):
    """The cleaner stays in for five hours."""
    p.begin()
    p.decide()
    p.plan()
    p.drain()
    p.do(Do.POUR, what="Rinseflow", litres=0.7)
    p.do(Do.POUR, what="demineralised water", to_mark=True)
    p.run(40)
    p.world.wait(300)


def the_same_can(p):
    """Coolant for engines into the electronics' loop."""
    p.n = 1
    p.gate_free()
    p.do(Do.POUR, what=NEW.name, litres=0.4)


def to_the_brim(p):
    """Full up to the lip, then run."""
    p.open()
    p.do(Do.POUR, what="demineralised water", litres=3.0)
    p.do(Do.CLOSE_CAP)
    p.do(Do.ENGINE_ON)
    p.world.wait(40)
    p.do(Do.ENGINE_OFF)
    p.cool()


def heater_shut(p):
    """Run hot, the heater forgotten."""
    p.begin()
    p.decide()
    p.plan()
    p.run(40, heater=False)


def signed_and_gone(p):
    """It reads right, so it is done."""
    top_up(p)


def one_more_can(p):
    """Topped up with what the papers say, read with the usual glass."""
    p.open()
    p.do(Do.DRAIN, where="A")
    p.do(Do.SHUT_DRAINS)
    p.do(Do.POUR, what=NEW.name, litres=1.0)


TRAP = {
    "first-level-check": (scalded, {"scalded"}, {"unsafe"}),
    "zero-the-refractometer": (without_zero, {"zero_off"}, {"zeroed", "missed_c"}),
    "the-full-block": (lambda p: ready_mix_alone(p, bottle=False), {"bottle_left"}, {"old_percent"}),
    "ready-mix-on-water": (ready_mix_alone, set(), {"freeze_c"}),
    "clear-is-not-clean": (by_its_look, set(), {"old_percent"}),
    "the-cleaner": (over_lunch, {"cleaner_over"}, {"cleaner_percent"}),
    "two-loops": (the_same_can, set(), {"conducts"}),
    "no-tank": (to_the_brim, {"spat"}, {"freeze_c"}),
    "the-air-lock": (heater_shut, {"air_left"}, {"air_l"}),
    "a-leak-made-good": (signed_and_gone, set(), {"found_loss"}),
    "mixed-bases": (one_more_can, {"bases_mixed"}, {"old_percent"}),
    "the-race-sled": (ready_mix_alone, {"scale_off"}, {"freeze_c"}),
}


@pytest.mark.parametrize("seed", [1, 2, 3])
@pytest.mark.parametrize("key", TRAP)
def test_in_the_traps_way_it_ends_as_the_trap_says(key, seed):
    play, deviations, missed = TRAP[key]
    p = Player(key, seed)
    play(p)
    back = p.back()
    assert deviations <= {one.said.code for one in (*back.unsafe, *back.deviations)}
    assert missed <= {one.aim.goal.value for one in back.aims if not one.met} | ({"unsafe"} if back.unsafe else set())
    assert not back.reached
    assert 1 <= len(back.next_time) <= 3
