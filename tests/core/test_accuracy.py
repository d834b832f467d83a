"""Every property within its limit of a published reference; docs/sources.md shows the same list."""

import pytest

from temper_core.calculate.boil import BoilQuestion, boil
from temper_core.science import Glycol, boil_c, mass_fraction_of
from tests.accuracy import MEASURES, PRINTED_GAPS, mass_from_volume


@pytest.mark.parametrize("measure", MEASURES, ids=lambda m: f"{m.quantity} {m.range}")
def test_within_the_limit_of_the_reference(measure):
    """Source: named in the measure itself."""
    assert measure.largest() <= measure.within


def test_the_standard_boils_where_it_asks():
    """ASTM D3306, from memory: 50 % boils at 108 (ethylene) and 104 degC (propylene) or above; ours within 1.2 K."""
    assert boil_c(Glycol.ETHYLENE, mass_fraction_of(Glycol.ETHYLENE, 50)) == pytest.approx(108, abs=1.2)
    assert boil_c(Glycol.PROPYLENE, mass_fraction_of(Glycol.PROPYLENE, 50)) >= 104 - 1.2


def test_a_cap_of_15_psi_at_the_sea():
    """Common practice, no source: 50 % with a 15 psi cap boils near 129 degC."""
    answer = boil(BoilQuestion(Glycol.ETHYLENE, 50, 0, 103, operating_c=95))
    assert answer.boil_c == pytest.approx(129, abs=1.2)
    assert answer.margin_c == pytest.approx(answer.boil_c - 95)
    assert answer.absolute_kpa == pytest.approx(101.325 + 103)


def test_a_mountain_takes_from_the_cap():
    sea, pass_ = (boil(BoilQuestion(Glycol.ETHYLENE, 50, height, 103)) for height in (0, 2500))
    assert pass_.boil_c < sea.boil_c - 2
    assert pass_.margin_c is None


def test_the_two_ethylene_tables_are_apart_as_printed():
    """The disagreement is reproduced, not smoothed away: it is the curve's own doubt."""
    from temper_core.science import curve_doubt_k

    for share, gap_k in PRINTED_GAPS:
        assert round(curve_doubt_k(Glycol.ETHYLENE, mass_from_volume(Glycol.ETHYLENE, share)), 1) == gap_k
