"""The guided inspection: what may be recorded, what is refused, which checks a loop is asked."""

import pytest

from temper_core.basis.errors import CoreError
from temper_core.job.inspect.facts import CHECK_ROWS, CHECKS, LOOKS, Check, Look, Sampled, Sign, Spot, asked_for, opens
from temper_core.job.inspect.facts import Tested as Checked
from temper_core.machine.equipment import Equipment, TankKind
from temper_core.products.chemistry import Material, Requirement


def test_every_word_and_every_check_has_its_row():
    assert {row.look for row in LOOKS} == set(Look)
    assert {row.check for row in CHECKS} == set(Check)
    for row in CHECKS:
        assert bool(row.outcomes) != bool(row.figures) or row.check is Check.LEVEL, row.check  # how much low, besides
        assert row.how.endswith((".", "?"))
    for row in LOOKS:
        assert row.says
        assert row.name[0].isupper()


def test_colour_is_never_a_word_of_the_inspection():
    """Dye colour identifies nothing; orange is said of rust only. Source: common practice, no source."""
    words = " ".join(row.name.lower() for row in LOOKS)
    assert not {"green", "red", "blue", "pink", "violet", "yellow"} & set(words.split())
    assert [row.look for row in LOOKS if "orange" in row.name.lower()] == [Look.ORANGE_RUST]


@pytest.mark.parametrize(
    ("make", "field", "says"),
    [
        (lambda: Sampled(Spot.NECK), "looks", "at least one"),
        (lambda: Sampled(Spot.NECK, (Look.FROTH, Look.FROTH)), "looks", "twice"),
        (lambda: Sampled(Spot.NECK, sediment_mm=-1), "sediment_mm", "0 to 200 mm"),
        (lambda: Sampled(Spot.NECK, sediment_mm=float("nan")), "sediment_mm", "not possible"),
        (lambda: Checked(Check.HOSES, "broken"), "outcome", "sound, soft, cracked are"),
        (lambda: Checked(Check.HOSES), "outcome", "not a result"),
        (lambda: Checked(Check.RADIATOR, "fine"), "outcome", "recorded as figures"),
        (lambda: Checked(Check.RADIATOR, None, {"in_c": 88}), "figures.out_c", "outlet side is missing"),
        (lambda: Checked(Check.RADIATOR, None, {"in_c": 88, "out_c": 400}), "figures.out_c", "-20 to 150"),
        (lambda: Checked(Check.RADIATOR, None, {"in": 88}), "figures.in", "in_c, out_c"),
        (lambda: Checked(Check.INHIBITOR), "figures", "at least one"),
        (
            lambda: Checked(Check.PRESSURE, None, {"start_kpa": 80, "end_kpa": 95, "minutes": 5}),
            "figures.end_kpa",
            "warming up",
        ),
    ],
)
def test_what_cannot_be_is_refused_with_its_field(make, field, says):
    with pytest.raises(CoreError) as refused:
        make()
    assert refused.value.field == field
    assert says in refused.value.message


def test_a_zero_is_a_figure_and_not_a_gap():
    assert Sampled(Spot.DRAIN, sediment_mm=0).sediment_mm == 0
    assert Checked(Check.INHIBITOR, None, {"nitrite_mg_l": 0}).sign() is None
    assert Checked(Check.LEVEL, "keeps_falling").sign() is Sign.CAUSE


def test_which_checks_a_loop_is_asked():
    plain = asked_for(Requirement())
    assert Check.CONDUCTIVITY not in plain
    assert Check.COMBUSTION_GAS not in plain  # only when something asks for it
    liners = asked_for(Requirement(materials=(Material.WET_LINERS,)))
    opening = [check for check in liners if opens(CHECK_ROWS[check].opens, Equipment())]
    assert opening[0] is Check.INHIBITOR  # the first of what opens the loop
    assert liners[: len(liners) - len(opening)] == tuple(check for check in liners if check not in opening)
    assert [CHECK_ROWS[check].hot for check in liners[:3]] == [True] * 3  # from outside, hot, before anything else
    assert Check.CATCH_TANK in asked_for(Requirement(), Equipment(tank=TankKind.CATCH))
    electronics = asked_for(Requirement(low_conductivity=True))
    assert Check.CONDUCTIVITY in electronics
    assert Check.RADIATOR not in electronics
    assert set(plain) < set(CHECK_ROWS)
