"""Who isolated high voltage: one of those who may, by number; the name is joined when it is read."""

import json
import uuid
from datetime import timedelta

import pytest
from django.utils import timezone

from fleet.models import Loop
from jobs.models import Entry
from people.models import Person, PersonChange
from tests.server.test_kit import Tablet

pytestmark = pytest.mark.django_db

SIGNS = {"warmth": "hand", "held": True, "pressure": "hose", "soft": True}


@pytest.fixture
def electric(depot):
    """A loop with high voltage that nobody works on."""
    return Loop.objects.get(high_voltage=True)


def felt(api, loop, **more):
    """A safe-to-open check of it between services, as a page sends it."""
    gate = api.get(f"/api/loops/{loop.id}").json()["state"]["gate"]
    facts = SIGNS | {"ready": [row["ready"] for row in gate["asked"]]} | more
    entry = {"id": str(uuid.uuid4()), "kind": "gate_observed", "facts": facts}
    return api.post(f"/api/loops/{loop.id}/entries", {"entries": [entry], "between": True})


def test_the_page_names_those_who_may_today_and_nobody_where_there_is_no_high_voltage(ines, electric, depot):
    Person.objects.filter(username="maud").update(may_isolate_until=timezone.now().date() - timedelta(days=2))
    assert [row["username"] for row in ines.get(f"/api/loops/{electric.id}").json()["isolators"]] == ["tomo"]
    plain = Loop.objects.filter(high_voltage=False).first()
    assert ines.get(f"/api/loops/{plain.id}").json()["isolators"] == []


def test_somebody_is_chosen_never_typed(ines, electric):
    refused = felt(ines, electric)
    assert (refused.status_code, refused.json()["field"]) == (400, "facts.isolated_by_id")
    assert felt(ines, electric, isolated_by="Nils").status_code == 400


def test_their_number_is_stored_and_their_name_as_it_is_now_is_shown(ines, maud, electric):
    tomo = Person.objects.get(username="tomo")
    assert felt(ines, electric, isolated_by_id=tomo.pk).status_code == 201
    stored = Entry.objects.filter(loop=electric, kind="gate_observed").latest("recorded_at")
    assert (stored.facts["isolated_by_id"], stored.facts["isolated_by"]) == (tomo.pk, "")
    body = {"name": "Tomo Varg", "role": "technician", "active": True}
    assert maud.send("put", f"/api/people/{tomo.pk}", body).status_code == 200
    said = json.dumps(ines.get(f"/api/loops/{electric.id}/ledger").json(), ensure_ascii=False)
    assert "isolated by Tomo Varg" in said
    assert "isolated by Tomo Reik" not in said
    assert stored.core.facts.isolated_by == "Tomo Varg"


@pytest.mark.parametrize("until", [None, -1])
def test_who_may_not_or_no_more_is_refused_with_what_to_do(ines, electric, until):
    day = None if until is None else timezone.now().date() + timedelta(days=until)
    Person.objects.filter(username="tomo").update(may_isolate_until=day)
    refused = felt(ines, electric, isolated_by_id=Person.objects.get(username="tomo").pk)
    assert (refused.status_code, refused.json()["code"]) == (409, "may_not_isolate")
    assert "Tomo Reik may not isolate high voltage" in refused.json()["message"]
    assert not Entry.objects.filter(loop=electric, kind="gate_observed", facts__isolated_by_id__isnull=False).exists()


def test_somebody_disabled_or_of_anelsewhere_is_nobody_here(ines, electric, elsewhere):
    stranger = Person.objects.create(username="far", depot=elsewhere.machine.depot, may_isolate_until=timezone.now().date())
    assert felt(ines, electric, isolated_by_id=stranger.pk).json()["code"] == "required"
    Person.objects.filter(username="tomo").update(is_active=False)
    assert felt(ines, electric, isolated_by_id=Person.objects.get(username="tomo").pk).json()["code"] == "may_not_isolate"


def test_a_lead_says_until_when_and_it_is_written_down(maud, ines, depot):
    tomo = Person.objects.get(username="tomo")
    body = {"name": tomo.name, "role": "technician", "active": True}
    today = timezone.now().date()
    for wrong in (today - timedelta(days=3), today + timedelta(days=4000)):
        refused = maud.send("put", f"/api/people/{tomo.pk}", body | {"may_isolate_until": wrong.isoformat()})
        assert (refused.status_code, refused.json()["field"]) == (400, "may_isolate_until")
    end = (today + timedelta(days=30)).isoformat()
    assert maud.send("put", f"/api/people/{tomo.pk}", body | {"may_isolate_until": end}).status_code == 200
    assert maud.send("put", f"/api/people/{tomo.pk}", body).status_code == 200  # left out: as it is
    tomo.refresh_from_db()
    assert tomo.may_isolate_until.isoformat() == end
    assert PersonChange.objects.filter(person=tomo, what="isolates", by__username="maud").count() == 1
    assert ines.send("put", f"/api/people/{tomo.pk}", body | {"may_isolate_until": end}).status_code == 403
    assert maud.send("put", f"/api/people/{tomo.pk}", body | {"may_isolate_until": None}).status_code == 200
    tomo.refresh_from_db()
    assert tomo.may_isolate_until is None


def test_a_tablet_without_a_network_asks_the_same(ines, electric, depot):
    tablet = Tablet(ines, depot, machines=electric.machine_id)
    gate = ines.get(f"/api/loops/{electric.id}").json()["state"]["gate"]

    def tried(**more):
        facts = SIGNS | {"ready": [row["ready"] for row in gate["asked"]]} | more
        return tablet.record(electric, "gate_observed", facts, between=True)

    assert tried()[0] == 400
    assert tried(isolated_by_id=Person.objects.get(username="ines").pk)[0] == 409
    status, page = tried(isolated_by_id=Person.objects.get(username="tomo").pk)
    assert status == 201
    assert page["state"]["gate"]["open"]
    tablet.send(ines)
    assert "isolated by Tomo Reik" in ines.get(f"/api/loops/{electric.id}/ledger").content.decode()
