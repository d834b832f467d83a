"""Tokens for programs: what they open, what they never do, how they end."""

import uuid
from datetime import timedelta

import pytest
from django.test import Client
from django.utils import timezone

from people.models import ApiToken, Person, PersonChange
from tests.server.conftest import loop_of
from tests.server.test_access import MATRIX


def token(api, reads_only=False, **more):
    """Made over the API; its text."""
    given = {"name": "Bay meter", "reads_only": reads_only, "days": 30, "password": "snow-and-cable"} | more
    answer = api.post("/api/profile/tokens", given)
    assert answer.status_code == 201, answer.content
    return answer.json()["token"]


class Program:
    """A program with a token: no cookies, no CSRF."""

    def __init__(self, text):
        self.client, self.text = Client(enforce_csrf_checks=True), text

    def __call__(self, method, path, body=None):
        more = {"content_type": "application/json"} if body is not None else {}
        return getattr(self.client, method)(path, body, headers={"Authorization": f"Bearer {self.text}"}, **more)


def reading(**more):
    return {"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": 31.5}} | more


def test_a_program_reads_and_records_in_its_owners_name(ines):
    program, loop = Program(token(ines)), loop_of("V-31")
    assert program("get", "/api/board").status_code == 200
    assert program("get", "/api/schema").status_code == 200
    answer = program("post", f"/api/loops/{loop.id}/entries", {"entries": [reading()]})
    assert answer.status_code == 201
    assert loop.entries.order_by("-seq").first().person.username == "ines"


@pytest.mark.parametrize(
    ("kind", "facts"),
    [
        ("gate_observed", {"warmth": "hand", "held": True, "pressure": "hose", "soft": True, "ready": []}),
        ("signed_off", {"proof": "unread", "reason": "no time"}),
        ("drained", {"drained_l": 3.0, "measured": "weighed", "by_vessel": {}}),
    ],
)
def test_a_program_feels_no_hose_and_signs_nothing_off(ines, kind, facts):
    program, loop = Program(token(ines)), loop_of("V-31")
    answer = program("post", f"/api/loops/{loop.id}/entries", {"entries": [reading(kind=kind, facts=facts)]})
    assert answer.status_code == 403
    assert f"A program may not record {kind}" in answer.json()["message"]


def test_one_that_only_reads_writes_nowhere(maud):
    """Every address that takes a write, with a lead's token."""
    program, refused = Program(token(maud, reads_only=True)), 0
    for method, path, _, _ in MATRIX:
        if method == "get" or path.startswith(("/api/session", "/api/compute")):  # computing stores nothing
            continue
        for word in ("GROOMER", "SLED", "PRODUCT", "AGENT", "WATER", "GLASS", "INES", "MACHINE", "CAN"):
            path = path.replace(f"/{word}", "/1")
        for word in ("JOB", "OWNER"):
            path = path.replace(f"/{word}", f"/{uuid.uuid4()}")
        path = path.replace("HANDOVER", str(uuid.uuid4())).replace("RUN", str(uuid.uuid4()))
        answer = program(method, path.replace("IMPORT", str(uuid.uuid4())).replace("DRAIN", str(uuid.uuid4())), {})
        assert answer.status_code == 403, (method, path, answer.status_code)
        refused += 1
    assert refused > 30


@pytest.mark.parametrize(
    ("method", "path"),
    [
        ("get", "/api/people"),
        ("get", "/api/profile"),
        ("post", "/api/profile/tokens"),
        ("post", "/api/profile/password"),
        ("get", "/api/wall-links"),
        ("get", "/api/archive"),
        ("get", "/api/reference"),
    ],
)
def test_accounts_tokens_and_the_archive_are_for_people(maud, method, path):
    answer = Program(token(maud))(method, path, {} if method == "post" else None)
    assert answer.status_code == 403
    assert "a person has to sign in" in answer.json()["message"]


def test_revoked_run_out_or_disabled_it_opens_nothing(ines, maud):
    text = token(ines)
    program, row = Program(text), ApiToken.objects.get()
    ApiToken.objects.update(expiry=timezone.now() - timedelta(minutes=1))
    assert program("get", "/api/board").status_code == 401
    assert ines.get("/api/profile").json()["tokens"][0]["expired"] is True
    ApiToken.objects.update(expiry=timezone.now() + timedelta(days=1))
    assert program("get", "/api/board").status_code == 200
    Person.objects.filter(username="ines").update(is_active=False)
    assert program("get", "/api/board").status_code == 401
    Person.objects.filter(username="ines").update(is_active=True)
    people = maud.send("delete", f"/api/people/{row.user_id}/tokens/{row.token_key}")
    assert people.status_code == 200
    answer = program("get", "/api/board")
    assert (answer.status_code, answer.json()["code"]) == (401, "token")
    changes = PersonChange.objects.filter(person__username="ines").values_list("what", "by__username", "detail")
    assert list(changes[:2]) == [("token_revoked", "maud", "Bay meter"), ("token_made", "ines", "Bay meter")]


@pytest.mark.parametrize("text", ["", "temper-", "temper-" + "0" * 64, "\xff\xfe", "a b", "x" * 5000])
def test_what_is_no_token_is_told_so(db, text):
    client = Client()
    answer = client.get("/api/board", headers={"Authorization": f"Bearer {text}"})
    assert (answer.status_code, answer.json()["code"]) == (401, "token")


def test_only_its_hash_is_kept_and_the_password_is_asked(ines):
    text = token(ines)
    row = ApiToken.objects.get()
    assert text not in row.digest
    assert ines.get("/api/profile").json()["tokens"][0]["key"] == text[: len(row.token_key)]
    wrong = {"name": "Bay meter", "reads_only": True, "days": 30, "password": "guess"}
    assert ines.post("/api/profile/tokens", wrong).json()["field"] == "password"
    for days in (0, 731, -5):
        answer = ines.post("/api/profile/tokens", wrong | {"days": days, "password": "snow-and-cable"})
        assert (answer.status_code, answer.json()["field"]) == (400, "days")


def test_when_it_was_used_last_is_known(ines):
    program = Program(token(ines))
    assert ApiToken.objects.get().used_at is None
    program("get", "/api/board")
    assert timezone.now() - ApiToken.objects.get().used_at < timedelta(minutes=1)
