"""The water of the mix by its analysis: what it leaves behind counts with what the rinse left."""

from dataclasses import replace

import pytest

from temper_core.basis.errors import CoreError
from temper_core.basis.policy import Policy
from temper_core.basis.quantity import VolumePercent
from temper_core.job.fill.facts import Poured, Water
from temper_core.job.inside.effects import poured_into
from temper_core.machine.contents import Contents
from temper_core.science import Glycol
from tests.core.test_ledger import NEW, a_loop, filled

DRY = {"tap_solids_mg_l": 300.0}


def residue(facts):
    """What a pour into an empty loop leaves behind [mg/l of the full loop]."""
    loop = a_loop()
    empty = Contents.full(loop.layout, Glycol.ETHYLENE, VolumePercent(0.0))
    held = {name: empty.litres(name) for name in empty.by_vessel}
    contents = poured_into(empty.drain(empty.total_l, held), facts, Glycol.ETHYLENE, policy=Policy(DRY))
    return contents.total.solids_mg / loop.capacity_l


@pytest.mark.parametrize(
    ("water", "solids", "mg_l"),
    [
        (Water.DEMINERALISED, None, 0.0),
        (Water.TAP, None, 3000 / 32),
        (Water.TAP, 120.0, 1200 / 32),
        (Water.DEMINERALISED, 5.0, 50 / 32),
    ],
)
def test_residue_is_litres_times_what_a_litre_leaves(water, solids, mg_l):
    """Mass balance: 10 L in a loop of 32 L."""
    assert residue(Poured(NEW, 22.0, 10.0, water, solids_mg_l=solids)) == pytest.approx(mg_l, rel=1e-6)


def test_a_mix_that_leaves_too_much_is_said_and_a_sound_one_is_not():
    for solids, said in ((2000.0, True), (100.0, False)):
        book = filled()
        for n, row in enumerate(book.entries):
            if isinstance(row.facts, Poured):
                book.entries[n] = replace(row, facts=replace(row.facts, water=Water.TAP, solids_mg_l=solids))
        assert ("mix_residue" in {flag.code for flag in book.state.flags}) is said


def test_what_no_water_leaves_is_refused():
    with pytest.raises(CoreError, match="mg/l"):
        Poured(NEW, 1.0, 1.0, Water.TAP, solids_mg_l=-1.0)
