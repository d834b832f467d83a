"""Mixing water against its limits, doses against labels, and what a loop is built with."""

import pytest

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.machine.equipment import CoolantFilter, Equipment, LevelRule, TankKind, cautions, level_words
from temper_core.products.agents import Agent, AgentKind, Runs, dose, runs
from temper_core.products.water import Analysis, WaterKind, WaterVerdict, judge_water

GOOD = {"chloride_mg_l": 12, "sulphate_mg_l": 30, "hardness_mg_l": 90, "solids_mg_l": 200, "ph": 7.4}
# Limits: ASTM D3306 annex, from memory.
LIMITS = {"chloride_mg_l": 40, "sulphate_mg_l": 100, "hardness_mg_l": 170, "solids_mg_l": 340}


@pytest.mark.parametrize(("field", "limit"), LIMITS.items())
def test_each_limit_is_allowed_and_just_above_is_not(field, limit):
    at, above = Analysis(**(GOOD | {field: limit})), Analysis(**(GOOD | {field: limit + 0.1}))
    assert judge_water(WaterKind.TAP, at).verdict is WaterVerdict.FIT
    judged = judge_water(WaterKind.TAP, above)
    assert judged.verdict is WaterVerdict.RINSE_ONLY
    assert f"limit {limit} mg/l" in judged.reasons[0].sentence


@pytest.mark.parametrize(("ph", "fit"), [(5.4, False), (5.5, True), (9.0, True), (9.1, False)])
def test_ph_has_two_ends(ph, fit):
    verdict = judge_water(WaterKind.TAP, Analysis(**(GOOD | {"ph": ph}))).verdict
    assert (verdict is WaterVerdict.FIT) == fit


def test_softened_is_not_demineralised_and_unanalysed_is_not_fit():
    """Source: common practice, no source."""
    assert judge_water(WaterKind.SOFTENED, Analysis(**GOOD)).verdict is WaterVerdict.RINSE_ONLY
    assert judge_water(WaterKind.DEMINERALISED, Analysis()).verdict is WaterVerdict.FIT
    judged = judge_water(WaterKind.TAP, Analysis(chloride_mg_l=5))
    assert judged.verdict is WaterVerdict.UNKNOWN
    assert "sulphate, hardness, total solids, pH" in judged.reasons[0].sentence


def test_a_depot_may_be_stricter():
    strict = Policy({"water_hardness_mg_l": 50})
    assert judge_water(WaterKind.TAP, Analysis(**GOOD), strict).verdict is WaterVerdict.RINSE_ONLY


def test_figures_that_cannot_be():
    for bad in ({"ph": 15}, {"chloride_mg_l": -1}, {"solids_mg_l": float("nan")}):
        with pytest.raises(CoreError) as refused:
            Analysis(**bad)
        assert refused.value.field in bad


BOTTLE = Agent("Rinse", AgentKind.CLEANER, 325, 11.4, 10, 180, 240, 1.0)


@pytest.mark.parametrize(("litres", "bottles"), [(11.3, 1), (11.4, 1), (11.5, 2), (22.8, 2), (32, 3), (58, 6)])
def test_bottles_are_rounded_up(litres, bottles):
    """bottles = ceil(volume / treats), one bottle per 11.4 l. Source: common practice, no source."""
    assert dose(BOTTLE, litres).containers == bottles


def test_a_label_that_contradicts_itself_is_refused():
    with pytest.raises(CoreError) as refused:
        Agent("x", AgentKind.CLEANER, 325, 11.4, 10, 300, 240)
    assert refused.value.field == "limit_min"
    with pytest.raises(CoreError):
        Agent("x", AgentKind.CLEANER, 0, 11.4)


@pytest.mark.parametrize(
    ("given", "code"),
    [
        ({"preheater": True}, "preheater"),
        ({"tank": TankKind.CATCH}, "catch_tank"),
        ({"tank": TankKind.DEGAS_AND_CATCH}, "catch_tank"),
        ({"tank": TankKind.NONE}, "no_tank"),
        ({"coolant_filter": CoolantFilter.CHARGED}, "charged_filter"),
        ({}, None),
    ],
)
def test_what_must_be_known_before_anybody_touches_it(given, code):
    assert [said.code for said in cautions(Equipment(**given))] == ([code] if code else [])
    assert cautions(Equipment(), high_voltage=True)[0].code == "high_voltage"


def test_a_preheaters_own_pump_is_said():
    assert "engine off" in cautions(Equipment(preheater=True, preheater_pump=True))[0].sentence


def test_the_level_rule_in_words():
    rule = Equipment(level_rule=LevelRule.BELOW_LIP, level_below_lip_mm=25)
    assert level_words(rule).sentence == "Level: 25 mm below the lip, read cold."
    assert {level_words(Equipment(level_rule=r)).code for r in LevelRule if r is not LevelRule.BELOW_LIP} == {"level"}


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"level_rule": LevelRule.BELOW_LIP}, "level_below_lip_mm"),
        ({"preheater_pump": True}, "preheater_pump"),
        ({"thermostat_opens_c": 20}, "thermostat_opens_c"),
        ({"conductivity_limit_us_cm": 0}, "conductivity_limit_us_cm"),
    ],
)
def test_equipment_that_cannot_be(given, field):
    with pytest.raises(CoreError) as refused:
        Equipment(**given)
    assert refused.value.field == field


def test_run_times_and_limit_are_the_labels_and_policys_only_where_it_is_silent():
    spoken = Agent("x", AgentKind.CLEANER, 325, 11.4, 20, 90, 120)
    silent = Agent("y", AgentKind.CLEANER, 325, 11.4)
    assert runs(spoken, Policy()) == Runs(20, 90, 120)
    assert runs(silent, Policy({"cleaner_limit_min": 200.0})) == Runs(10, 180, 200)
    assert runs(None, Policy()).limit_min == 240
