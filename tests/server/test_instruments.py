"""Instruments over the API: zero checks are kept, sent twice stored once; what a bad zero puts in doubt is counted."""

import uuid
from datetime import timedelta

import pytest
from django.utils import timezone

from instruments.models import Instrument, Reading, ZeroCheck


@pytest.fixture
def glass_3(depot):
    """The refractometer with an ethylene scale."""
    return depot.instruments.get(name="Glass 3")


def shown(api, name="Glass 3"):
    """One instrument of the list."""
    return next(row for row in api.get("/api/instruments").json()["instruments"] if row["name"] == name)


def test_the_list_says_how_each_zero_stands(ines):
    """Seeded: Glass 3 set 62 days ago and drifting since, Glass 5 checked nine days ago."""
    good, due = shown(ines), shown(ines, "Glass 5")
    assert good["state"]["good"]
    assert not good["state"]["overdue"]
    assert good["state"]["drift_k_month"] < 0
    assert len(good["state"]["points"]) == 6
    assert due["state"]["overdue"]


def test_a_zero_check_is_kept_by_its_person_and_sent_twice_noted_once(ines, glass_3):
    body = {"id": str(uuid.uuid4()), "zero": -0.2, "water_c": 18.0}
    before = ZeroCheck.objects.filter(instrument=glass_3).count()
    for _ in range(2):
        answer = ines.post(f"/api/instruments/{glass_3.id}/zero", body)
        assert answer.status_code == 200
    assert ZeroCheck.objects.filter(instrument=glass_3).count() == before + 1
    assert ZeroCheck.objects.latest("at").person.username == "ines"
    assert Instrument.objects.get(pk=glass_3.pk).zero == -0.2


def test_a_zero_out_of_tolerance_puts_in_doubt_what_was_read_since_the_last_good_one_for_good(ines, glass_3):
    """Setting it mends what comes, never what was read."""
    before = next(row for row in ines.get("/api/instruments").json()["instruments"] if row["id"] == glass_3.id)["in_doubt"]
    since = ZeroCheck.objects.filter(instrument=glass_3).latest("at").at
    told = Reading.objects.filter(instrument=glass_3, voided=False, taken_at__gt=since).count()
    off = ines.post(f"/api/instruments/{glass_3.id}/zero", {"zero": -2.5}).json()
    assert not off["state"]["good"]
    assert off["in_doubt"] == before + told > before
    assert "Clean the prism" in off["state"]["said"]["sentence"]
    again = ines.post(f"/api/instruments/{glass_3.id}/zero", {"zero": -2.4, "adjusted": True}).json()
    assert again["state"]["good"]
    assert again["zero"] == 0.0
    assert again["in_doubt"] == before + told


@pytest.mark.parametrize(
    ("body", "field"),
    [({"zero": 40}, "zero"), ({"zero": "x"}, "zero"), ({"zero": 0, "water_c": 90}, "water_c"), ({}, "zero")],
)
def test_a_zero_that_cannot_be_is_refused_by_name(ines, glass_3, body, field):
    answer = ines.post(f"/api/instruments/{glass_3.id}/zero", body)
    assert (answer.status_code, answer.json()["field"]) == (400, field)


def test_a_blurred_line_is_kept_and_proves_nothing(ines, depot):
    from tests.server.conftest import loop_of

    loop = loop_of("D-17")
    before = ines.get(f"/api/loops/{loop.id}").json()["state"]["repeats"]
    facts = {"value": -40, "place": "finished", "instrument_id": depot.instruments.get(name="Glass 3").id}
    state = ines.record(loop, "read", facts | {"after_hot_run": True, "edge": "soft"}).json()["state"]
    assert state["repeats"] == before
    assert state["readings"][-1]["answer"]["flags"][0]["code"] == "blurred"


def test_the_zero_that_an_instrument_had_before_checks_were_kept_is_its_first_check(depot):
    import importlib

    from django.apps import apps

    row = Instrument.objects.create(
        depot=depot, name="Old", scale="freeze_ethylene", zero=-0.6, zeroed_at=timezone.now() - timedelta(days=3)
    )
    importlib.import_module("instruments.migrations.0005_zero_checks").from_the_last_zero(apps, None)
    assert [check.value for check in row.zeros.all()] == [-0.6]
