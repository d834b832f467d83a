"""The practice bench: mass is conserved, hands find what is so, the same seed is the same world, bad lessons are refused."""

import statistics
from dataclasses import replace

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.job.inspect.facts import Look
from temper_core.job.open.facts import EngineRun
from temper_core.job.read.facts import Place, Read
from temper_core.machine.layouts import BY_KEY
from temper_core.practice.acts import MINUTES, Act, Do
from temper_core.practice.free import free
from temper_core.practice.habits import habits_of
from temper_core.practice.lesson import SHIPPED, lesson_of, shipped
from temper_core.practice.seeing import CLEAR_PERCENT
from temper_core.practice.shelf import CLEANER, DEMINERALISED, GLASSES, PRODUCTS, TAP
from temper_core.practice.world import replayed, world
from temper_core.science import density_20c
from tests.core.playing import BY_KEY as LESSONS
from tests.core.playing import NEW, READY_MIX, Player, by_eye
from tests.core.test_lessons import RIGHT

VAN = LESSONS["first-level-check"]
COLD_VAN = replace(VAN, ran_min=0.0)
TEXT = (SHIPPED / "01-first-level-check.toml").read_text()
POURED = [one.name for one in PRODUCTS] + [DEMINERALISED, TAP]


def kg_of(what, litres):
    """Kilograms of what is poured, by the density table."""
    product = next((one for one in PRODUCTS if one.name == what), None)
    if product is None:
        return litres * 998.2 / 1000
    return litres * density_20c(product.base.glycol, product.glycol_mass_percent / 100) / 1000


# ---- conservation ---------------------------------------------------------------------------------------------------


@settings(max_examples=60, deadline=None)
@given(st.sampled_from(list(BY_KEY)), st.integers(1, 10_000), st.lists(st.sampled_from([*POURED, "A", "B"]), max_size=6))
def test_kilograms_are_conserved_by_every_act(layout, seed, acts):
    """What is inside is what was, and what went in, less what stands in the containers; by the scale, without its error."""
    lesson = replace(free(layout, 12.0, seed), ran_min=0.0, scale_off_percent=0.0)
    lesson = replace(lesson, loops=(replace(lesson.loops[0], leak_l_day=0.0),))
    w = world(lesson, seed)
    loop = w.loops[0]
    w.do(Act(Do.OPEN_CAP))
    for one in acts:
        before, had = loop.machine.contents.total.kg, dict(loop.poured)
        try:
            if one in POURED:
                w.do(Act(Do.POUR, what=one, litres=0.8))
                went_in = kg_of(one, loop.poured[one] - had.get(one, 0.0))
                assert loop.machine.contents.total.kg == pytest.approx(before + went_in, rel=1e-6)
            else:
                said = w.do(Act(Do.DRAIN, where=one)).said.values
                out = float(said["gross"]) - float(said["tare"])
                assert loop.machine.contents.total.kg == pytest.approx(before - out, abs=0.051)  # the scale's division
                w.do(Act(Do.SHUT_DRAINS))
        except CoreError:  # a drain that this layout has not
            assert loop.machine.contents.total.kg == before


def test_a_leak_takes_its_litres_a_day():
    lesson = LESSONS["a-leak-made-good"]
    w = world(lesson, 4)
    before = w.loops[0].machine.inside_l
    w.wait(10 * 1440)
    assert before - w.loops[0].machine.inside_l == pytest.approx(10 * lesson.loops[0].leak_l_day, rel=0.02)
    assert w.loops[0].leaked_l == pytest.approx(before - w.loops[0].machine.inside_l, rel=1e-6)


def test_weeks_may_pass_between_two_acts():
    w = world(LESSONS["a-leak-made-good"], 4)
    for _ in range(5):
        w.wait(13 * 1440)
    w.do(Act(Do.LEVEL), at_min=80 * 1440)
    assert w.at_min == pytest.approx(80 * 1440 + MINUTES[Do.LEVEL])
    assert w.loops[0].leaked_l == pytest.approx(80 * 0.07, rel=0.02)
    with pytest.raises(CoreError):
        w.wait(15 * 1440)


def test_the_same_seed_and_the_same_acts_are_the_same_world():
    acts = [(0.0, Act(Do.FEEL)), (200.0, Act(Do.OPEN_CAP)), (201.0, Act(Do.DRAIN, where="A")), (215.0, Act(Do.SHUT_DRAINS))]
    acts += [(220.0, Act(Do.POUR, what=NEW.name, litres=2.0)), (230.0, Act(Do.SAMPLE)), (240.0, Act(Do.LOOK_SAMPLE))]
    one, two, other = replayed(VAN, 5, acts), replayed(VAN, 5, acts), replayed(VAN, 6, acts)
    assert [row.found for row in one.done] == [row.found for row in two.done]
    assert one.loops[0].machine.contents == two.loops[0].machine.contents
    assert one.loops[0].machine.inside_l != other.loops[0].machine.inside_l
    assert one.at_min == pytest.approx(240 + MINUTES[Do.LOOK_SAMPLE])


@pytest.mark.parametrize("layout", list(BY_KEY))
def test_free_practice_is_drawn_from_its_seed(layout):
    assert free(layout, 12.0, 3) == free(layout, 12.0, 3)
    assert len({free(layout, 12.0, seed) for seed in range(1, 30)}) > 20
    world(free(layout, 12.0, 3), 3)


# ---- what hands and eyes find ---------------------------------------------------------------------------------------


def test_hot_it_is_hard_and_cold_it_gives():
    w = world(VAN, 1)
    hot = w.do(Act(Do.FEEL)).said.values
    assert (hot["upper"], hot["gives"]) == ("too hot to hold", "hard when squeezed")
    w.wait(240)
    cold = w.do(Act(Do.FEEL)).said.values
    assert (cold["upper"], cold["gives"]) == ("cold", "gives when squeezed")
    assert cold["surface_c"] < 25


@pytest.mark.parametrize(
    ("acts", "code"),
    [
        ([Act(Do.OPEN_CAP)], "scalded"),
        ([Act(Do.DRAIN, where="A")], "hot_drain"),
        ([Act(Do.BLEED, where="1")], "hot_bleeder"),
    ],
)
def test_what_is_unsafe_is_done_and_said(acts, code):
    w = world(VAN, 1)
    for act in acts:
        w.do(act)
    assert [said.code for _, said in w.unsafe] == [code]


def test_an_engine_without_coolant_and_cold_coolant_on_a_hot_block():
    w = world(VAN, 1)
    w.do(Act(Do.OPEN_CAP))
    for where in ("A", "B"):
        w.do(Act(Do.DRAIN, where=where))
    w.do(Act(Do.SHUT_DRAINS))
    w.do(Act(Do.POUR, what=DEMINERALISED, litres=0.5))
    w.do(Act(Do.ENGINE_ON))
    assert {"cold_on_hot", "ran_dry"} <= {said.code for _, said in w.unsafe}


@pytest.mark.parametrize(
    ("act", "code"),
    [
        (Act(Do.POUR, what=NEW.name, litres=1.0), "shut"),
        (Act(Do.POUR, what="Lemonade", litres=1.0), "not_there"),
        (Act(Do.POUR, what=NEW.name), "one_of_them"),
        (Act(Do.SAMPLE), "shut"),
        (Act(Do.LOOK_SAMPLE), "no_sample"),
        (Act(Do.PEN), "no_sample"),
        (Act(Do.SET_ZERO), "no_water"),
        (Act(Do.LOOK_WATER, glass="Hubble"), "not_there"),
        (Act(Do.DRAIN, where="Z"), "not_there"),
        (Act(Do.SHUT_DRAINS), "shut"),
        (Act(Do.CLOSE_CAP), "shut"),
        (Act(Do.ENGINE_OFF), "stands"),
        (Act(Do.BLEED, where="9"), "not_there"),
        (Act(Do.FEEL, loop=1), "not_there"),
    ],
)
def test_what_cannot_be_done_is_refused_and_changes_nothing(act, code):
    w = world(COLD_VAN, 1)
    before = (w.loops[0].machine.contents, w.at_min, len(w.done))
    with pytest.raises(CoreError) as refused:
        w.do(act)
    assert refused.value.code == code
    assert (w.loops[0].machine.contents, w.at_min, len(w.done)) == before


@pytest.mark.parametrize(("nitrite", "ph"), [(800.0, 8.0), (0.0, 9.0), (1200.0, 10.0)])
def test_strips_are_matched_to_the_card_and_thin_out(nitrite, ph):
    lesson = replace(COLD_VAN, loops=(replace(COLD_VAN.loops[0], nitrite_mg_l=nitrite, ph=ph),))
    w = world(lesson, 3)
    w.do(Act(Do.OPEN_CAP))
    w.do(Act(Do.SAMPLE))
    seen = w.do(Act(Do.STRIPS)).said.values
    assert (float(seen["nitrite"]), float(seen["ph"])) == (nitrite, ph)
    for where in ("A", "B"):
        w.do(Act(Do.DRAIN, where=where))
    w.do(Act(Do.SHUT_DRAINS))
    w.do(Act(Do.POUR, what=DEMINERALISED, to_mark=True))
    w.do(Act(Do.SAMPLE))
    assert float(w.do(Act(Do.STRIPS)).said.values["nitrite"]) <= nitrite


def test_with_the_cap_on_it_stops_early():
    litres = {}
    for cap in (False, True):
        w = world(COLD_VAN, 1)
        if cap:
            w.do(Act(Do.OPEN_CAP))
        w.do(Act(Do.DRAIN, where="A"))
        litres[cap] = w.loops[0].drained_l
    assert litres[False] < 0.5 * litres[True]


@pytest.mark.parametrize("percent", [10, 25, 40, 55])
def test_a_glass_is_read_by_eye_to_its_division(percent):
    """Against the freeze point that the truth has, thirty looks of people who read to a tenth of a division or so."""
    lesson = replace(COLD_VAN, loops=(replace(COLD_VAN.loops[0], found_percent=float(percent)),))
    errors = []
    for seed in range(30):
        w = world(lesson, seed)
        w.do(Act(Do.OPEN_CAP))
        w.do(Act(Do.SAMPLE))
        seen = w.do(Act(Do.LOOK_SAMPLE)).glass
        read = by_eye(seen, GLASSES[0], w.bench.rng)
        errors.append(read - w.loops[0].machine.freeze_c)
    assert abs(statistics.mean(errors)) < 0.8
    assert max(abs(one) for one in errors) < 2.5


def test_a_glass_that_is_off_shows_it_in_water_until_it_is_set():
    w = world(LESSONS["zero-the-refractometer"], 2)
    off = by_eye(w.do(Act(Do.LOOK_WATER)).glass, GLASSES[0], w.bench.rng)
    assert off == pytest.approx(-3, abs=1)
    w.do(Act(Do.SET_ZERO))
    assert by_eye(w.do(Act(Do.LOOK_WATER)).glass, GLASSES[0], w.bench.rng) == pytest.approx(0, abs=1)


def test_a_hot_sample_has_a_soft_line_that_drifts_and_cools_in_the_jar():
    w = world(replace(VAN, ran_min=30.0), 1)
    w.do(Act(Do.OPEN_CAP))
    w.do(Act(Do.SAMPLE))
    hot = w.do(Act(Do.LOOK_SAMPLE)).glass
    w.wait(40)
    cool = w.do(Act(Do.LOOK_SAMPLE)).glass
    assert hot.blur > cool.blur
    assert hot.boundary < cool.boundary - 0.01


def test_thinned_far_enough_old_coolant_looks_clear():
    p = Player("clear-is-not-clean", 2)
    p.begin()
    p.decide()
    p.plan()
    p.drain()
    for _ in range(8):
        p.rinse()
        if p.jar.looks == (Look.CRYSTAL_CLEAR.value,):
            break
    assert 1 < p.world.loops[0].old_percent < CLEAR_PERCENT


def test_a_cleaner_counts_while_it_works_and_not_once_it_is_thinned():
    w = world(COLD_VAN, 1)
    w.do(Act(Do.OPEN_CAP))
    w.do(Act(Do.DRAIN, where="A"))
    w.do(Act(Do.SHUT_DRAINS))
    w.do(Act(Do.POUR, what=CLEANER.name, litres=CLEANER.container_ml / 1000 * 9 / CLEANER.treats_l))
    w.do(Act(Do.POUR, what=DEMINERALISED, to_mark=True))
    w.wait(60)
    assert w.loops[0].cleaner_min == pytest.approx(60, abs=20)
    worked = w.loops[0].cleaner_min
    for _ in range(4):
        w.do(Act(Do.DRAIN, where="A"))
        w.do(Act(Do.DRAIN, where="B"))
        w.do(Act(Do.SHUT_DRAINS))
        w.do(Act(Do.POUR, what=DEMINERALISED, to_mark=True))
    after = w.loops[0].cleaner_min
    w.wait(300)
    assert w.loops[0].cleaner_min == after
    assert after >= worked


def test_a_thermostat_that_sticks_never_warms_the_radiator():
    stuck = replace(COLD_VAN, loops=(replace(COLD_VAN.loops[0], thermostat=type(COLD_VAN.loops[0].thermostat)("shut")),))
    w = world(stuck, 1)
    w.do(Act(Do.ENGINE_ON, heater_full=True))
    w.wait(40)
    found = w.do(Act(Do.ENGINE_OFF)).said.values
    assert found["upper"] == "too hot to hold"
    assert found["lower"] != "too hot to hold"
    p = Player("first-level-check", 1, lesson=stuck)
    p.record_run_as_if_hot()
    assert "not_mixed" in {one.said.code for one in p.back().deviations}


def test_a_reading_that_nobody_took_is_found_out():
    p = Player("zero-the-refractometer", 1)
    p.begin()
    p.record(Read(-30.0, Place.AS_FOUND, GLASSES[0], 0.0))
    assert "not_looked" in {one.said.code for one in p.back().deviations}


def test_litres_that_were_recorded_otherwise_are_found_out():
    p = Player("first-level-check", 1)
    p.begin()
    p.read(Place.AS_FOUND)
    p.decide()
    p.plan()
    p.do(Do.POUR, what=NEW.name, litres=0.7)
    p.record_poured(NEW, 0.1)
    said = [one for one in p.back().deviations if one.said.code == "product_off"]
    assert said[0].said.sentence.startswith("Recorded 0.1 L of coolant, 0.7 L went in")


def test_the_habit_of_ready_mix_ends_where_ready_mix_ends():
    """By the product of the shelf at the bench itself; a full loop of it freezes as half glycol does, -35.9 °C."""
    lesson = replace(COLD_VAN, loops=(replace(COLD_VAN.loops[0], air_share=0.0, missing_l=0.0),))
    w = world(lesson, 4)
    w.do(Act(Do.OPEN_CAP))
    for where in ("A", "B"):
        w.do(Act(Do.DRAIN, where=where))
    w.do(Act(Do.SHUT_DRAINS))
    w.do(Act(Do.POUR, what=READY_MIX.name, to_mark=True))
    habit = habits_of(lesson, 4, 0, Policy())[0]
    assert habit.freeze_c == pytest.approx(w.loops[0].machine.freeze_c, abs=0.4)
    assert habit.old_percent == pytest.approx(w.loops[0].old_percent, abs=3)


# ---- how sure, over the worlds of lessons ----------------------------------------------------------------------------

HONEST = ("the-full-block", "ready-mix-on-water", "clear-is-not-clean", "the-cleaner", "no-tank")  # nothing is hidden there


def test_what_was_believed_holds_in_the_worlds_of_lessons():
    """Last claims of a job, played right: 95 % intervals hold the truth; by hand 90 of 100 with so few worlds."""
    held, claims = 0, 0
    for key in HONEST:
        for seed in range(11, 19):
            p = Player(key, seed)
            RIGHT[key](p)
            steps = p.back().steps
            for name in ("inside_l", "old_percent", "freeze_c"):
                for step in steps[-2:]:
                    one = getattr(step, name)
                    if one is not None:
                        claims, held = claims + 1, held + one.within
    assert claims > 150
    assert held / claims > 0.90, (held, claims)


def test_runs_are_told_apart_from_those_that_were_hot():
    p = Player("first-level-check", 1, lesson=COLD_VAN)
    p.begin()
    assert p.run(35)
    assert not [one for one in p.back().deviations if one.said.code == "not_mixed"]
    p.record(EngineRun(minutes=5.0, opened=True, heater_full=True))
    assert [one for one in p.back().deviations if one.said.code == "not_mixed"]


# ---- lessons as data -------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("change", "field", "code"),
    [
        (("order = 1", 'order = "one"'), "lesson.order", "wrong_kind"),
        (("order = 1", "order = true"), "lesson.order", "wrong_kind"),
        (('key = "first-level-check"', 'key = "First Level"'), "lesson.key", "key"),
        (('key = "first-level-check"', f'key = "{"a" * 61}"'), "lesson.key", "key"),
        (("capacity_l = 9.0", "capacity_l = nan"), "lesson.loops.0.capacity_l", "not_finite"),
        (("high = -30", "high = nan"), "lesson.aims.2.high", "not_finite"),
        (("high = -30", "high = inf"), "lesson.aims.2.high", "not_finite"),
        (("learn = [", "learn = 3\nlearned = ["), "lesson.learned", "unknown_field"),
        (('layout = "degas_tank"', 'layout = "bathtub"'), "lesson.loops.0.layout", "unknown_layout"),
        (("capacity_l = 9.0", ""), "lesson.loops.0.capacity_l", "required"),
        (("missing_l = 0.7", "missing_l = 7"), "lesson.loops.0.missing_l", "out_of_range"),
        (("missing_l = 0.7", "missing = 0.7"), "lesson.loops.0.missing", "unknown_field"),
        (('goal = "level_l"', 'goal = "fun"'), "lesson.aims.1.goal", "unknown_word"),
        (("low = -0.3", "low = 3"), "lesson.aims.1.low", "not_rising"),
        (("ran_min = 14", "ran_min = 1400"), "lesson.ran_min", "out_of_range"),
        (('job_type = "top_up"', 'job_type = "guess"'), "lesson.job_type", "unknown_word"),
        (('machine = "Van"', 'machine = ""'), "lesson.machine", "length"),
    ],
)
def test_a_lesson_that_cannot_be_says_which_value(change, field, code):
    assert change[0] in TEXT
    with pytest.raises(CoreError) as refused:
        lesson_of(TEXT.replace(*change))
    assert (refused.value.field, refused.value.code) == (field, code)


def test_what_is_no_toml_is_refused():
    with pytest.raises(CoreError, match="not TOML"):
        lesson_of("[")


def test_lessons_say_what_they_are_for():
    for lesson in shipped():
        assert lesson.learn
        assert all(aim.instead.endswith(".") for aim in lesson.aims)
        assert any(aim.goal.value == "unsafe" for aim in lesson.aims)
        assert not any(unit in aim.text for aim in lesson.aims for unit in ("°C", " L ", "litre"))  # units are the reader's
