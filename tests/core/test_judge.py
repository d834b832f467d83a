"""Verdicts: every family against every kind of loop, and the proof of a strength."""

from dataclasses import replace

import pytest

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.instruments import ReadingQuestion, Scale, repeats
from temper_core.job.inside.verdict import Prediction, Proof, Together, judge_proof, safe_to
from temper_core.products.chemistry import Base, Family, Fluid, Form, Material, Product, Requirement
from temper_core.products.compatibility import Verdict, judge_product
from temper_core.science import Glycol, mass_fraction_at_freeze

FITS, AFTER, EMERGENCY, NO = Verdict.FITS, Verdict.FITS_AFTER_CHANGE_OUT, Verdict.EMERGENCY_ONLY, Verdict.NO


def product(family, base=Base.ETHYLENE, form=Form.CONCENTRATE, standards=()):
    """A product of a family."""
    if family is Family.GLYCOL_FREE:
        return Product("x", "x", Base.NONE, family, Form.READY_MIX, 0.0)
    if family is Family.LOW_CONDUCTIVITY:  # sold ready-mixed, and poured as it is
        return Product("x", "x", base, family, Form.READY_MIX, 50.0, standards)
    return Product("x", "x", base, family, form, 95.0, standards)


LOOPS = {
    "plain aluminium": Requirement(materials=(Material.ALUMINIUM,)),
    "old copper-brass": Requirement(materials=(Material.COPPER_BRASS_SOLDER, Material.OLD_SEALS)),
    "wet liners": Requirement(materials=(Material.WET_LINERS, Material.CAST_IRON)),
    "maker asks OAT": Requirement(families=(Family.OAT,), stated_in="book, page 88"),
    "power electronics": Requirement(low_conductivity=True),
    "race": Requirement(glycol_forbidden=True),
}
# Each family in a loop that already holds it (so that only the loop decides). Source: common practice, no source.
TABLE = {
    Family.IAT: dict(zip(LOOPS, (FITS, FITS, NO, NO, NO, NO), strict=True)),
    Family.OAT: dict(zip(LOOPS, (FITS, NO, NO, FITS, NO, NO), strict=True)),
    Family.SI_HOAT: dict(zip(LOOPS, (FITS, FITS, NO, EMERGENCY, NO, NO), strict=True)),
    Family.P_HOAT: dict(zip(LOOPS, (FITS, NO, NO, EMERGENCY, NO, NO), strict=True)),
    Family.NOAT: dict(zip(LOOPS, (FITS, FITS, FITS, NO, NO, NO), strict=True)),
    Family.GLYCOL_FREE: dict(zip(LOOPS, (NO, NO, NO, NO, NO, FITS), strict=True)),
    Family.LOW_CONDUCTIVITY: dict(zip(LOOPS, (NO, NO, NO, NO, FITS, NO), strict=True)),
}


def test_the_table_covers_every_family():
    assert set(TABLE) == set(Family)


@pytest.mark.parametrize("loop", LOOPS)
@pytest.mark.parametrize("family", Family)
def test_every_family_in_every_kind_of_loop(family, loop):
    inside = Fluid(product(family).base, family)
    judged = judge_product(product(family), LOOPS[loop], inside)
    assert judged.verdict is TABLE[family][loop], [reason.sentence for reason in judged.reasons]
    assert judged.reasons[0].sentence.endswith(".")


NOTHING, SAME_GROUP, OTHER_GROUP = Fluid(), Fluid(Base.ETHYLENE, Family.SI_HOAT), Fluid(Base.ETHYLENE, Family.IAT)
OTHER_BASE = Fluid(Base.PROPYLENE, Family.OAT)
# An organic-acid product into a plain loop, by what is inside: filled again, and only topped up.
# Source: common practice, no source.
ON_TOP = [
    ("unknown", NOTHING, AFTER, NO),
    ("same family", Fluid(Base.ETHYLENE, Family.OAT), FITS, FITS),
    ("same group", SAME_GROUP, AFTER, EMERGENCY),
    ("other group", OTHER_GROUP, AFTER, NO),
    ("other base", OTHER_BASE, AFTER, NO),
    ("base known, family not", Fluid(Base.ETHYLENE, None), AFTER, NO),
]


@pytest.mark.parametrize(("name", "inside", "filled", "topped"), ON_TOP, ids=[row[0] for row in ON_TOP])
def test_filling_anew_and_topping_up_are_judged_apart(name, inside, filled, topped):
    new, need = product(Family.OAT), Requirement()
    assert judge_product(new, need, inside).verdict is filled
    judged = judge_product(new, need, inside, topping_up=True)
    assert judged.verdict is topped
    assert judged.old_limit_percent is None


@pytest.mark.parametrize("family", Family)
def test_the_makers_statement_outranks_every_rule_of_material(family):
    """Source: common practice, no source."""
    everything = (Material.COPPER_BRASS_SOLDER, Material.OLD_SEALS, Material.WET_LINERS)
    race = family is Family.GLYCOL_FREE
    need = Requirement(
        families=(family,), materials=everything, glycol_forbidden=race, low_conductivity=family is Family.LOW_CONDUCTIVITY
    )
    inside = Fluid(product(family).base, family)
    assert judge_product(product(family), need, inside).verdict is FITS


@pytest.mark.parametrize(
    ("inside", "verdict", "code", "limit"),
    [
        (Fluid(Base.ETHYLENE, Family.OAT), FITS, "same_chemistry", None),
        (Fluid(Base.ETHYLENE, Family.SI_HOAT), AFTER, "other_family", 10),  # within the organic group
        (Fluid(Base.ETHYLENE, Family.IAT), AFTER, "other_family", 5),
        (Fluid(Base.PROPYLENE, Family.OAT), AFTER, "other_base", 5),
        (Fluid(Base.NONE, Family.GLYCOL_FREE), AFTER, "other_base", 5),
        (Fluid(None, None), AFTER, "inside_unknown", 5),  # unknown is treated as the worst
        (Fluid(Base.ETHYLENE, None), AFTER, "inside_unknown", 5),
    ],
)
def test_what_is_inside_decides_whether_the_old_comes_out(inside, verdict, code, limit):
    judged = judge_product(product(Family.OAT), Requirement(), inside)
    assert judged.verdict is verdict
    assert judged.old_limit_percent == limit
    assert code in {reason.code for reason in judged.reasons}


def test_the_makers_statement_outranks_the_material_rules():
    need = Requirement(families=(Family.OAT,), materials=(Material.COPPER_BRASS_SOLDER,), stated_in="bulletin 4")
    judged = judge_product(product(Family.OAT), need, Fluid(Base.ETHYLENE, Family.OAT))
    assert judged.verdict is FITS
    assert any("bulletin 4" in reason.sentence for reason in judged.reasons)


def test_a_named_standard_matches_whatever_the_family():
    need = Requirement(standards=("ASTM D3306",), stated_in="sticker")
    inside = Fluid(Base.ETHYLENE, Family.SI_HOAT)
    assert judge_product(product(Family.SI_HOAT, standards=("ASTM D3306",)), need, inside).verdict is FITS
    assert judge_product(product(Family.SI_HOAT, standards=("BS 6580",)), need, inside).verdict is NO


def test_the_deciding_reason_comes_first_and_says_the_verdict():
    judged = judge_product(product(Family.OAT), LOOPS["old copper-brass"], Fluid(Base.ETHYLENE, Family.IAT))
    assert judged.reasons[0].weight == max(reason.weight for reason in judged.reasons)
    assert judged.short == "no, attacks the solder"


def test_limits_of_old_coolant_are_policy():
    judged = judge_product(product(Family.OAT), Requirement(), Fluid(), Policy({"old_limit_change_percent": 2}))
    assert judged.old_limit_percent == 2


def test_glycol_free_in_a_race_loop_says_it_freezes():
    judged = judge_product(product(Family.GLYCOL_FREE), LOOPS["race"], Fluid(Base.NONE, Family.GLYCOL_FREE))
    assert "no_frost_protection" in {reason.code for reason in judged.reasons}


@pytest.mark.parametrize(
    ("base", "form", "percent"),
    [
        (Base.NONE, Form.READY_MIX, 30.0),
        (Base.ETHYLENE, Form.CONCENTRATE, 0.95),
        (Base.ETHYLENE, Form.CONCENTRATE, 120.0),
        (Base.PROPYLENE, Form.READY_MIX, 0.5),
    ],
)
def test_a_product_that_cannot_be_is_refused(base, form, percent):
    with pytest.raises(CoreError) as refused:
        Product("x", "x", base, Family.OAT, form, percent)
    assert refused.value.field == "glycol_mass_percent"


# ---- proof --------------------------------------------------------------------------------------------------------


def readings(*values, zero=0.0, resolution=0.5):
    """Readings of one sample on an ethylene scale."""
    scale = Scale.FREEZE_ETHYLENE
    return repeats([ReadingQuestion(Glycol.ETHYLENE, scale, v, zero=zero, resolution=resolution) for v in values])


def litres_say(freeze_c, sd=1.0):
    """A prediction."""
    return Prediction(100 * mass_fraction_at_freeze(Glycol.ETHYLENE, freeze_c), sd)


def verdict(together, target=-37.0, coldest=-32.0, prediction=None):
    """Judge readings of an ethylene loop."""
    return judge_proof(Glycol.ETHYLENE, together, target, coldest, prediction)


@pytest.mark.parametrize(
    ("values", "target", "coldest", "expected"),
    [
        ((-37, -37.5, -36.5), -37, -32, Proof.PROVEN),
        ((-36.2, -36.2, -36.2), -37, -32, Proof.PROVEN),  # within 1 K of the target
        ((-37, -37, -37), -37, -36.5, Proof.TOO_WEAK),  # on target, but not for sure as cold as it may get
        ((-34, -34, -34), -37, -30, Proof.PROTECTED),  # off target, and safe
        ((-31, -31, -31), -37, -32, Proof.TOO_WEAK),
        ((-41, -41, -41), -37, -32, Proof.PROTECTED),
        ((-49.9, -49.9, -49.9), -45, -38, Proof.PROTECTED),
    ],
)
def test_verdicts_on_readings(values, target, coldest, expected):
    said = verdict(readings(*values), target, coldest)
    assert said.verdict is expected, said.said.sentence


def test_the_warm_end_exactly_at_the_coldest_is_enough_and_a_hair_warmer_is_not():
    together = readings(-37, -37, -37)
    warm_end = safe_to(Glycol.ETHYLENE, together.glycol_mass_percent, together.sd_mass_percent)
    assert verdict(together, coldest=warm_end).verdict is Proof.PROVEN
    assert verdict(together, coldest=warm_end + 1e-9).verdict is Proof.PROVEN
    assert verdict(together, coldest=warm_end - 1e-9).verdict is Proof.TOO_WEAK


def test_another_reading_is_asked_for_only_where_it_can_change_the_verdict():
    read_ = readings(-37, -37, -37)
    w, sd = read_.glycol_mass_percent, read_.sd_mass_percent
    warm_end, once_more = safe_to(Glycol.ETHYLENE, w, sd), safe_to(Glycol.ETHYLENE, w, 0.7 * sd)
    between = (warm_end + once_more) / 2

    def said(then_sd):
        both = Together(w, sd, then_sd, "zero")
        return judge_proof(Glycol.ETHYLENE, read_, -37.0, between, together=both)

    assert said(0.7 * sd).verdict is Proof.READ_AGAIN
    assert said(0.95 * sd).verdict is Proof.TOO_WEAK
    assert "set the zero" in said(0.95 * sd).said.sentence  # which doubt stands in the way, and what to do


def test_past_the_strongest_useful_mix_is_its_own_verdict():
    read_ = readings(-49.9)
    strong = Together(61.5, 0.3, 0.3)
    assert judge_proof(Glycol.ETHYLENE, read_, -45.0, -38.0, together=strong).verdict is Proof.PROTECTED
    over = replace(read_, glycol_mass_percent=61.5)
    assert judge_proof(Glycol.ETHYLENE, over, -45.0, -38.0, together=strong).verdict is Proof.TOO_STRONG


def test_litres_and_reading_together_decide_where_each_alone_could_not():
    read_ = readings(-34.0, resolution=2.0)
    alone = verdict(read_, target=-35, coldest=-32)
    w = 100 * mass_fraction_at_freeze(Glycol.ETHYLENE, -35.0)
    both = judge_proof(Glycol.ETHYLENE, read_, -35.0, -32.0, together=Together(w, 0.3, 0.3))
    assert (alone.verdict, both.verdict) == (Proof.TOO_WEAK, Proof.PROVEN)
    assert both.safe_to_c >= both.freeze_c  # never colder than it reads


def test_a_single_coarse_reading_is_allowed_its_instruments_doubt():
    assert verdict(readings(-35.5, resolution=2.0), target=-37, coldest=-20).verdict is Proof.PROVEN


def test_readings_and_litres_that_disagree_are_not_proven():
    said = verdict(readings(-37, -37, -37), prediction=litres_say(-28))
    assert said.verdict is Proof.DOES_NOT_AGREE
    assert "stronger than the litres predict" in said.said.sentence
    assert "Check the zero first" in said.said.sentence


def test_readings_and_litres_that_agree_prove_each_other():
    assert verdict(readings(-37, -37, -37), prediction=litres_say(-37.5)).verdict is Proof.PROVEN


def test_a_vague_prediction_contradicts_nothing():
    assert verdict(readings(-37, -37, -37), prediction=litres_say(-31, sd=4)).verdict is Proof.PROVEN


def test_the_sentence_says_reading_distance_and_safe_to():
    said = verdict(readings(-36.6, -36.6, -36.6))
    assert said.said.sentence.startswith("Reads −36.6 °C, 0.4 °C warmer than the target −37 °C.")
    assert said.safe_to_c > -36.6
    assert said.off_target_k == pytest.approx(0.4, abs=0.01)


def test_safe_to_has_the_other_handbook_in_it():
    together = readings(-37, -37, -37)
    assert safe_to(Glycol.ETHYLENE, together.glycol_mass_percent, together.sd_mass_percent) > together.likely.high
