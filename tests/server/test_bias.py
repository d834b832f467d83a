"""An instrument's bias, learned from samples that two of them read: offered, taken over by a lead, taken back."""

import pytest

from instruments.models import Instrument
from temper_core.instruments.agreement import Pair, agreement


@pytest.fixture
def apart(depot, monkeypatch):
    """The digital one reads 2 % higher than the glass, on four samples of both."""
    glass = depot.instruments.get(name="Glass 3")
    digital = depot.instruments.filter(scale__gt="").exclude(pk=glass.pk).first()
    found = agreement([Pair(46.0 + 0.1 * n, 44.0 + 0.05 * n) for n in range(4)])
    assert found.disagrees
    monkeypatch.setattr("instruments.actions.agreement_of", lambda depot, first, second: found)
    return glass, digital


def test_only_a_lead_takes_it_over_and_it_is_said_against_what(apart, ines, maud):
    glass, digital = apart
    address = f"/api/instruments/{digital.id}/bias"
    assert ines.post(address, {"against_id": glass.id}).status_code == 403
    said = maud.post(address, {"against_id": glass.id})
    assert said.status_code == 200, said.json()
    assert said.json()["bias_percent"] == pytest.approx(2.075)
    assert said.json()["bias_note"].startswith("against Glass 3, 4 samples, Maud")
    core = Instrument.objects.get(pk=digital.pk).core
    assert core.bias_percent == pytest.approx(2.075)
    assert core.bias_sd > 0
    back = maud.post(address, {"against_id": None}).json()
    assert (back["bias_percent"], back["bias_note"]) == (0.0, "")


def test_two_that_agree_or_never_met_teach_nothing(maud, depot):
    first, second = depot.instruments.filter(scale__gt="").order_by("name")[:2]
    answer = maud.post(f"/api/instruments/{first.id}/bias", {"against_id": second.id})
    assert answer.status_code == 409
    assert answer.json()["code"] == "nothing_learned"
