"""A depot that worked with 0.6.0 is served by this version: migrated, judged again, every page open, nothing altered."""

import json
import lzma
import os
import sqlite3
import subprocess
import sys
from datetime import datetime
from pathlib import Path

import pytest
from pydantic import TypeAdapter

ROOT = Path(__file__).resolve().parents[2]
OLD = ROOT / "tests" / "old"
ASK = """
import json, sys
import django
django.setup()
from django.test import Client
from fleet.models import Loop
from jobs.models import JobLoop, Rejudged
from people.models import Person, Role
lead = Person.objects.filter(role=Role.LEAD).first()
client = Client()
client.force_login(lead, backend="django.contrib.auth.backends.ModelBackend")
paths = ["/api/board", "/api/machines", "/api/season", "/api/calendar.ics"]
paths += ["/api/readings", "/api/readings/watch", "/api/policy", "/api/instruments", "/api/catalogue"]
for loop in Loop.objects.all():
    paths += [f"/api/loops/{loop.id}{page}" for page in ("", "/ledger", "/history", "/label", "/sheet", "/sheet.pdf")]
found = {path: client.get(path).status_code for path in paths}
board = client.get("/api/board").json()
row = board["rejudged"][0]["id"]
answered = client.post(f"/api/rejudged/{row}/answer", {"answer": "Called back in."}, content_type="application/json")
print(json.dumps({
    "bad": {path: code for path, code in found.items() if code != 200},
    "asked": len(found),
    "broken": board["broken"],
    "rejudged": sorted((r["machine"]["fleet_number"], r["code"]) for r in board["rejudged"]),
    "answered": answered.status_code,
    "left": len(client.get("/api/board").json()["rejudged"]),
    "proofs": sorted(p.result["state"]["proof"]["verdict"] for p in JobLoop.objects.exclude(result=None)
                     if p.result.get("state", {}).get("proof")),
}))
"""


def manage(data, *words):
    """A command of the server on the old depot's data."""
    env = {**os.environ, "TEMPER_DATA": str(data), "PYTHONPATH": f"{ROOT / 'core'}:{ROOT / 'server'}:{ROOT}"}
    env["DJANGO_SETTINGS_MODULE"] = "config.settings"
    done = subprocess.run([sys.executable, *words], cwd=ROOT, env=env, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr[-3000:]
    return done.stdout


@pytest.fixture(scope="module")
def old_depot(tmp_path_factory):
    """The data folder of a depot that 0.6.0 left, migrated and judged again."""
    data = tmp_path_factory.mktemp("old")
    connection = sqlite3.connect(data / "temper.sqlite3")
    connection.executescript(lzma.decompress((OLD / "0.6.0.sql.xz").read_bytes()).decode())
    connection.commit()
    connection.close()
    manage(data, "server/manage.py", "migrate", "-v", "0")
    manage(data, "server/manage.py", "rejudge")
    return data


def test_every_page_of_an_old_depot_opens_and_what_is_worse_waits_for_a_lead(old_depot):
    found = json.loads(manage(old_depot, "-c", ASK).splitlines()[-1])
    assert found["bad"] == {}
    assert found["asked"] > 50
    assert found["broken"] == []
    codes = {tuple(row) for row in found["rejudged"]}
    assert ("X-31", "mixed_bases") in codes
    assert ("X-12", "water_in") in codes or any(number == "X-12" for number, _ in codes)
    assert any(number == "X-45" and code.startswith("due") for number, code in codes)
    assert found["answered"] in (200, 204)
    assert found["left"] == len(found["rejudged"]) - 1
    assert "mixed_bases" not in found["proofs"]  # what was signed stays as it was signed


def test_judging_again_twice_lists_nothing_twice(old_depot):
    first = manage(old_depot, "server/manage.py", "rejudge")
    assert manage(old_depot, "server/manage.py", "rejudge") == first


def entries_and_loops():
    """Each ledger that 0.6.0 kept, as the core knows it, with the state it came to then."""
    from jobs.models import FACTS
    from temper_core.job.entries import Entry
    from temper_core.job.loop import Loop

    kept = json.loads(lzma.decompress((OLD / "0.6.0-ledgers.json.xz").read_bytes()))
    loops = TypeAdapter(Loop)
    now = datetime.fromisoformat(kept["now"])
    for row in kept["loops"]:
        entries = [
            Entry(
                one["id"],
                one["job_id"],
                datetime.fromisoformat(one["happened_at"]),
                datetime.fromisoformat(one["recorded_at"]),
                one["person"],
                FACTS[one["kind"]].validate_python(one["facts"]),
                one["person_id"],
                n + 1,
            )
            for n, one in enumerate(row["entries"])
        ]
        yield row["machine"], loops.validate_python(row["loop"]), entries, row["state"], now


def test_old_ledgers_come_to_the_same_litres_by_todays_rules():
    """The arithmetic of 0.6.0 held against references: judgement may be stricter, litres may not move."""
    from temper_core.job.fold import fold

    folded = 0
    for machine, loop, entries, then, now in entries_and_loops():
        state = fold(loop, entries, None, now)
        folded += 1
        assert state.inside.litres == pytest.approx(then["inside"]["litres"], abs=1e-6), machine
        assert state.poured.product_l == pytest.approx(then["poured"]["product_l"], abs=1e-6), machine
        assert [row.stage.value for row in state.stages] == [row["stage"] for row in then["stages"]], machine
        if then["predicted_freeze_c"] is not None and state.predicted_freeze_c is not None:
            assert state.predicted_freeze_c == pytest.approx(then["predicted_freeze_c"], abs=1e-6), machine
        if then["claim"]["safe_to_c"] is not None and state.claim.safe_to_c is not None:
            assert state.claim.safe_to_c >= then["claim"]["safe_to_c"] - 0.05, machine  # never surer than before
    assert folded >= 15
