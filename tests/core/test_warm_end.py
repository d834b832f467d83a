"""The warm end of what is inside, held against a cold night; the reference is CoolProp's INCOMP::MEG (freezing, by mass)."""

import CoolProp.CoolProp as CP  # noqa: N817
import pytest
from scipy.optimize import brentq

from temper_core.basis.policy import Policy
from temper_core.job.entries import JobOpened
from temper_core.job.inside.judgement import judgement_of, likely_of
from temper_core.job.inside.warm_end import warm_end_c
from temper_core.job.job_types import JobType
from temper_core.job.ledger import walk
from temper_core.job.read.facts import Place, Read
from temper_core.science import Glycol, mass_fraction_of, strength_of
from tests.core.test_ledger import HOT, Book, at_mix, filled, read

Z95 = 1.96


def freezes(w):
    """Freeze point [degC] of a mass fraction by the reference."""
    return CP.PropsSI("T_freeze", "T", 293.15, "P", 1e5, f"INCOMP::MEG[{w}]") - 273.15


def reference(freeze_c, sd_percent):
    """Warm end of a freeze point whose strength is known to so many percent by volume, by the reference."""
    w = brentq(lambda x: freezes(x) - freeze_c, 0.001, 0.59)
    strength = strength_of(Glycol.ETHYLENE, w)
    sd_w = w - mass_fraction_of(Glycol.ETHYLENE, max(0.0, strength - sd_percent))
    return freezes(max(1e-4, w - Z95 * sd_w))


def of(book):
    """Claim and warm end of a record as it is now."""
    t = walk(book.loop, book.entries, Policy())
    judged = judgement_of(t)
    return t, judged, warm_end_c(t, judged)


def as_found(reading):
    book = Book()
    book.add(JobOpened(JobType.REFILL), reading)
    return book


def test_what_was_reported_is_as_unsure_as_the_rules_say():
    _, judged, warm = of(as_found(Read(-19.0, Place.AS_FOUND)))
    assert warm == pytest.approx(reference(judged.claim.freeze_c, 15.0), abs=0.8)  # the curves differ there


def test_what_was_read_is_much_surer():
    _, judged, warm = of(as_found(read(-19.0, place=Place.AS_FOUND, after_hot_run=False)))
    assert judged.claim.why == "as_found"
    assert warm == pytest.approx(reference(judged.claim.freeze_c, 1.5), abs=0.8)  # the curves differ there


def test_rinse_water_is_as_unsure_as_the_coolant_left_in_it_and_never_surer_than_a_reading():
    """One rinse after a reported strength: a fifth of it is still inside, with a fifth of its doubt."""
    book = at_mix(rinses=1)
    t, judged, warm = of(book)
    left = t.contents.total.old_l / t.contents.total_l
    assert 15.0 * left > 1.5  # more than a reading leaves open
    assert warm == pytest.approx(reference(judged.claim.freeze_c, 15.0 * left), abs=0.5)
    assert warm > reference(judged.claim.freeze_c, 1.5)
    t, judged, warm = of(at_mix(rinses=3))
    assert 15.0 * t.contents.total.old_l / t.contents.total_l < 1.5
    assert warm == pytest.approx(reference(judged.claim.freeze_c, 1.5), abs=0.5)


def test_what_freezes_first_has_the_doubt_of_the_litres_too():
    """Not run hot yet: the weakest vessel is warmer than the mixture, and as unsure."""
    t, judged, warm = of(filled())
    assert judged.claim.why == "weakest_vessel"
    mixture = likely_of(t, judged.prediction, with_curve=True)
    assert warm > judged.claim.freeze_c + 0.5
    assert warm > mixture.high


def test_once_it_ran_hot_it_is_the_mixture():
    book = filled()
    book.add(HOT)
    t, judged, warm = of(book)
    assert judged.claim.why == "by_litres"
    assert warm == pytest.approx(likely_of(t, judged.prediction, with_curve=True).high, abs=0.1)
