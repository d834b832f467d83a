"""A depot in the database, and people signed in to it."""

import itertools
import uuid
from datetime import timedelta

import pytest
from django.conf import settings
from django.core.management import call_command
from django.db import connection
from django.test import Client
from django.utils import timezone

from depots.models import Depot, NightLow
from fleet.models import Loop, Machine
from jobs.board import ROWS
from jobs.comeback import RESTS
from jobs.loop_list import LINES
from people.models import Person
from tests.midday import where_it_is_midday
from tests.shared_demo import put
from tests.with_django import one_hash_a_password, photos_in_a_folder_of_their_own  # noqa: F401


@pytest.fixture(scope="session")
def django_db_use_migrations():
    """The demo's database comes with its tables, as the migrations make them."""
    return False


@pytest.fixture(scope="session")
def django_db_setup(django_db_setup, django_db_blocker, tmp_path_factory):
    """The demo is loaded once a run, through the actions the API uses; every test's own changes are rolled back."""
    with django_db_blocker.unblock():
        connection.ensure_connection()
        put(tmp_path_factory, connection.connection, settings.DATA / "photos")
        Depot.objects.update(time_zone=where_it_is_midday())
        NightLow.objects.update(night=Depot.objects.get().night)  # a night turns over at noon


@pytest.fixture
def depot(db):
    """The demo depot."""
    return Depot.objects.get()


@pytest.fixture
def nothing_kept(db):
    """A database of a first start: tables, nothing in them."""
    call_command("flush", verbosity=0, interactive=False)


@pytest.fixture
def elsewhere(db):
    """Another depot, with one machine and one person."""
    other = Depot.objects.create(name="Elsewhere", coldest_c=-10)
    Person.objects.create_user("else", password="another-depot", depot=other)
    machine = Machine.objects.create(depot=other, fleet_number="X-1", kind="Loader")
    layout = {
        "nodes": [{"id": "b", "kind": "block", "name": "Block", "volume_l": 5, "bottom_mm": 1, "top_mm": 9, "column": 0}]
    }
    return Loop.objects.create(machine=machine, name="Loop", capacity_l=5, capacity_source="manual", layout=layout)


OPENING = frozenset({"sampled", "tested", "read", "poured", "strength_adjusted", "finish_checked"})


def isolator(loop):
    """Somebody of the loop's depot who may isolate high voltage: whoever may already, or the first of them from now on."""
    people = Person.objects.filter(depot=loop.machine.depot)
    found = people.filter(may_isolate_until__gte=timezone.now().date()).first() or people.order_by("pk").first()
    found.may_isolate_until = timezone.now().date() + timedelta(days=100)
    found.save()
    return found


class Api:
    """A JSON client for one person, with CSRF checks on."""

    def __init__(self, person=None):
        self.client = Client(enforce_csrf_checks=True)
        if person:
            self.client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")
        self.client.get("/api/session")
        self.token = self.client.cookies["csrftoken"].value

    def send(self, method, path, body=None, **headers):
        """Any method; the CSRF token goes with it."""
        call = getattr(self.client, method)
        if body is None:
            return call(path, HTTP_X_CSRFTOKEN=self.token, **headers)
        return call(path, body, content_type="application/json", HTTP_X_CSRFTOKEN=self.token, **headers)

    def get(self, path):
        """GET."""
        return self.send("get", path)

    def post(self, path, body):
        """POST."""
        return self.send("post", path, body)

    def open_up(self, loop):
        """Choose, decide as advised, feel hose and cap, as far as the job still asks for it."""
        page = self.get(f"/api/loops/{loop.id}").json()
        state = page["state"]
        if state["stage"] == "identify":
            chosen = {"product_id": page["choices"][0]["product"]["id"], "coldest_c": -25, "margin_k": 5}
            state = self.record(loop, "planned", chosen).json()["state"]
        if state["stage"] == "inspect":
            job_type = state["advice"]["job_type"]
            state = self.record(loop, "job_type_chosen", {"job_type": job_type, "advised": job_type}).json()["state"]
        if state["stage"] in ("open", "drain", "flush"):
            self.check_safe(loop)

    def check_safe(self, loop, between=False, again=False):
        """The safe-to-open check with all that has to stand ready, where this person has none that stands, or again."""
        page = self.get(f"/api/loops/{loop.id}").json()
        gate, me = page["state"]["gate"], str(self.get("/api/session").json()["person"]["id"])
        if not again and gate["open"] and gate["by_id"] == me and not gate["asked_drain"]:
            return
        signs = {"warmth": "hand", "held": True, "pressure": "hose", "soft": True}
        ready = [row["ready"] for row in gate["asked"]] + ["supported", "tray", "ventilated"]
        if "isolated" in ready:
            signs["isolated_by_id"] = isolator(loop).id
        entry = {"id": str(uuid.uuid4()), "kind": "gate_observed", "facts": signs | {"ready": ready}}
        self.post(f"/api/loops/{loop.id}/entries", {"entries": [entry], "between": between})

    def close_up(self, loop):
        """Confirm what the closing check still asks for."""
        fill = self.get(f"/api/loops/{loop.id}").json()["state"]["fill"]
        points = [row["key"] for row in fill["closing"] if not row["done"]] if fill else []
        if points:
            self.record(loop, "closed", {"points": points})

    def bleed(self, loop):
        """Dry underneath and two signs, if the filling still asks for them."""
        fill = self.get(f"/api/loops/{loop.id}").json()["state"]["fill"]
        if fill and fill["step"] == "under":
            self.record(loop, "looked_under", {"dry": True})
        if fill and fill["step"] in ("under", "bleed"):
            self.record(loop, "bleed_ended", {"outcome": "finished", "signs": ["no_bubbles", "level_steady"]})

    def record(self, loop, kind, facts, *, id_=None, seen=None, **more):
        """One entry on a loop; felt, shut or bled before, where it has to be, unless the test says what it has seen."""
        if kind == "drained" and not seen:
            self.open_up(loop)
        if kind == "drained" and "drained_l" in facts:
            facts = {"measured": "weighed"} | facts
        if kind in ("round_filled", "vessels_rinsed") and "water_id" not in facts:
            facts = {"water": "demineralised"} | facts
        if kind == "poured" and facts.get("water_l"):
            facts = {"water": "demineralised"} | facts
        if kind == "read" and facts.get("instrument_id") is not None:
            facts = {"sample_c": 20.0} | facts
        if kind == "poured" and not seen:
            self.close_up(loop)
        if kind in ("read", "signed_off") and not seen:
            self.bleed(loop)
        if kind in OPENING and not seen and not more.get("hot"):
            self.check_safe(loop, again=bool(facts.get("after_hot_run")))
        entry = {"id": str(id_ or uuid.uuid4()), "kind": kind, "facts": facts} | more
        return self.post(f"/api/loops/{loop.id}/entries", {"entries": [entry]} | ({"seen": seen} if seen else {}))


@pytest.fixture(autouse=True)
def empty_memory():
    """Each test begins with an empty memory: a test's database is rolled back, a process's memory is not."""
    ROWS.forget()
    RESTS.forget()
    LINES.forget()
    LINES.forget()


@pytest.fixture
def ines(depot):
    """A technician."""
    return Api(Person.objects.get(username="ines"))


@pytest.fixture
def tomo(depot):
    """Another technician."""
    return Api(Person.objects.get(username="tomo"))


@pytest.fixture
def maud(depot):
    """A lead."""
    return Api(Person.objects.get(username="maud"))


@pytest.fixture
def nobody(db):
    """Signed in as nobody."""
    return Api()


def loop_of(fleet_number, position=1):
    """A loop by its machine's number."""
    return Loop.objects.select_related("machine__depot").get(machine__fleet_number=fleet_number, position=position)


@pytest.fixture
def groomer(depot):
    """G-07's engine loop: drained, rinsed twice, at the mix."""
    return loop_of("G-07")


@pytest.fixture
def railcar(depot):
    """R-02's engine loop: just opened."""
    return loop_of("R-02")


@pytest.fixture
def sled(depot):
    """RS-1's loop: no job open."""
    return loop_of("RS-1")


@pytest.fixture
def product(depot):
    """Winterline O, the concentrate."""
    return depot.products.get(name="Winterline O")


@pytest.fixture
def numbers():
    """Fresh ids in order."""
    return (uuid.UUID(int=n) for n in itertools.count(1))
