"""What a tablet answers without a network is what the server answers: the same core under the browser's own Python.

Both are asked the same: the pages of every loop of the demo, every calculator's worked request, and thousands made up from
the API's own document, refusals included.
"""

import json
import math
import subprocess
import tempfile
import uuid
from datetime import UTC
from pathlib import Path

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from schemathesis import GenerationMode

from fleet.models import Loop, Machine
from jobs.models import JobLoop
from tests.server.test_access import QUESTIONS

ROOT = Path(__file__).resolve().parents[2]
SCHEMA = schemathesis.openapi.from_path(str(ROOT / "server" / "openapi.yml"))
MADE_UP = 2_000
DIGITS = 1e-7  # of a figure: two libraries round a logarithm's last digit their own way, and a slope magnifies it


@pytest.fixture
def now(monkeypatch):
    """The time stands still between the server's answer and the tablet's."""
    from django.utils import timezone

    now = timezone.now()
    monkeypatch.setattr("django.utils.timezone.now", lambda: now)
    return now


@pytest.fixture
def kit(ines, depot, now):
    """A kit with every machine of the depot, as text."""
    machines = ",".join(str(pk) for pk in Machine.objects.filter(depot=depot).values_list("pk", flat=True))
    answer = ines.get(f"/api/kit?machines={machines}")
    assert answer.status_code == 200, answer.content
    return answer.content.decode()


def on_tablet(kit, asks, depot):
    """The answers of a tablet with this kit, one by one."""
    at = depot.now.isoformat()
    given = {"kit": kit, "asks": [{"now": at, **ask} for ask in asks]}
    with tempfile.TemporaryDirectory() as folder:
        asked, answered = Path(folder) / "asked.json", Path(folder) / "answered.json"
        asked.write_text(json.dumps(given))
        command = ["node", str(ROOT / "web" / "scripts" / "bay-run.mjs"), str(asked), str(answered)]
        done = subprocess.run(command, capture_output=True, text=True, check=False)
        assert done.returncode == 0, done.stderr[-3000:]
        answers = json.loads(answered.read_text())
    assert len(answers) == len(asks)
    return answers


def differs(a, b, path=""):
    """Where two answers differ, as a path; "" where they do not. Figures may differ in their last digits."""
    if isinstance(a, bool) or isinstance(b, bool) or not isinstance(a, (int, float, dict, list)):
        return "" if a == b else f"{path}: {a!r} is not {b!r}"
    if isinstance(a, (int, float)):
        same = isinstance(b, (int, float)) and math.isclose(a, b, rel_tol=DIGITS, abs_tol=1e-9)
        return "" if same else f"{path}: {a!r} is not {b!r}"
    if isinstance(a, dict):
        if not isinstance(b, dict) or a.keys() != b.keys():
            return f"{path}: {a} has other names than {b}"
        return next((said for key in a if (said := differs(a[key], b[key], f"{path}.{key}"))), "")
    if not isinstance(b, list) or len(a) != len(b):
        return f"{path}: another length"
    return next((said for n, (x, y) in enumerate(zip(a, b, strict=True)) if (said := differs(x, y, f"{path}.{n}"))), "")


def asked_of(ines, ask):
    """The server's answer to the same."""
    answer = ines.get(ask["path"]) if ask["method"] == "GET" else ines.post(ask["path"], ask["body"])
    said = answer.json()
    if ask["path"].endswith("/ledger"):
        said["signed"] = []  # signed jobs stay at the depot
    return answer.status_code, said


def test_a_tablet_answers_and_refuses_as_the_server_does(ines, depot, kit, now):
    """Every page of every loop, the board, the lists, every calculator, entries right and wrong: one runtime for all."""
    asks = [*pages(depot), *previews(now), *worked(), *made_up(MADE_UP)]
    wrong = []
    for ask, there in zip(asks, on_tablet(kit, asks, depot), strict=True):
        status, here = asked_of(ines, ask)
        if there["status"] != status:
            wrong.append((ask, there["text"][:300], status, here))
        elif said := differs(here, json.loads(there["text"])):
            wrong.append((ask, said))
    assert not wrong, (len(wrong), wrong[:3])


def pages(depot):
    """The pages of every loop, the board and the lists."""
    loops = list(Loop.objects.filter(machine__depot=depot).values_list("pk", flat=True))
    assert len(loops) >= 17
    lists = ("board", "catalogue", "instruments", "policy", "machines")
    paths = [f"/api/loops/{pk}{page}" for pk in loops for page in ("", "/history", "/ledger")]
    return [{"method": "GET", "path": path} for path in (*paths, *(f"/api/{name}" for name in lists))]


def worked():
    """Each calculator's worked request."""
    return [{"method": "POST", "path": f"/api/compute/{name}", "body": body} for name, body in QUESTIONS.items()]


def made_up(wanted):
    """Requests made up from the API's own document: some fit it, some just miss it."""
    per = math.ceil(wanted / len(QUESTIONS) / 2)
    asks = [
        {"method": "POST", "path": f"/api/compute/{name}", "body": body}
        for name in QUESTIONS
        for mode in (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)
        for body in bodies(SCHEMA[f"/api/compute/{name}"]["POST"], mode, per)
    ]
    assert len(asks) >= wanted * 0.8
    return asks


def bodies(operation, mode, wanted):
    """JSON objects as request bodies; what is none never leaves a screen."""
    found = []

    @settings(max_examples=wanted, deadline=None, derandomize=True, database=None, suppress_health_check=list(HealthCheck))
    @given(case=operation.as_strategy(generation_mode=mode))
    def gather(case):
        if isinstance(case.body, dict):
            try:
                body = json.loads(json.dumps(case.body, allow_nan=False))
            except (TypeError, ValueError):
                return
            if within_a_browser(body):
                found.append(body)

    gather()
    return found


def within_a_browser(value):
    """Whether a browser can send it: above 2^53 its numbers hold no whole number."""
    if isinstance(value, dict):
        return all(map(within_a_browser, value.values()))
    if isinstance(value, list):
        return all(map(within_a_browser, value))
    return not isinstance(value, int) or abs(value) < 2**53


def previews(now):
    """Kinds of entry on every loop in work, right and wrong."""
    at = now.astimezone(UTC).isoformat()
    facts = [
        ("drained", {"drained_l": 4.0, "measured": "weighed"}),
        ("drained", {}),
        ("temperature_logged", {"c": 41.0}),
        ("engine_run", {"by": "engine"}),
        ("read", {"instrument_id": 10_000, "value": -20.0, "sample_c": 20.0}),
        ("read", {"instrument_id": 1, "value": -20.0, "sample_c": 20.0, "place": "loop"}),
        ("poured", {"product_l": 1.0, "water_l": 1.0}),
        ("signed_off", {"proof": "proven"}),
        ("paused", {"reason": ""}),
        ("voided", {"entry_id": str(uuid.uuid4())}),
        ("unheard_of", {}),
    ]
    loops = list(JobLoop.objects.filter(signed_at__isnull=True).order_by("loop_id").values_list("loop_id", flat=True))
    return [
        {"method": "POST", "path": f"/api/loops/{pk}/preview", "body": {"entries": [entry(kind, given, at)]}}
        for pk in loops
        for kind, given in facts
    ]


def entry(kind, facts, at):
    """One entry as a screen sends it."""
    return {"id": str(uuid.uuid4()), "kind": kind, "facts": facts, "happened_at": at}


def test_the_cores_own_tests_hold_in_the_browsers_python():
    """The docstrings' examples, and the half of the core's tests that needs nothing compiled for another machine."""
    command = ["node", str(ROOT / "web" / "scripts" / "bay-tests.mjs"), str(Path(pytest.__file__).parents[1])]
    done = subprocess.run(command, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr[-3000:]
    found = json.loads(done.stdout)
    assert found["failed"] == 0, found["said"]
    assert found["modules"] > 150
    assert found["tried"] > 80
    assert found["wrong"] == 0, found["said"]
    assert found["passed"] > 900
