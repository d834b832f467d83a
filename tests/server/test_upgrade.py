"""A depot that worked with 0.6.0 is served by this version: migrated, judged again, every page open, nothing altered."""

import importlib
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

from tools.words import phrases_in

ROOT = Path(__file__).resolve().parents[2]
OLD = ROOT / "tests" / "old"
ASK = """
import json, re, sys
import yaml
import django
django.setup()
from django.test import Client
from fleet.models import Loop, Machine
from jobs.models import Entry, JobLoop, Rejudged
from people.models import Person, Role
from shelf.models import Can
lead = Person.objects.filter(role=Role.LEAD).first()
client = Client()
client.force_login(lead, backend="django.contrib.auth.backends.ModelBackend")
document = yaml.safe_load(open(sys.argv[1]).read())
known = {
    "can_id": list(Can.objects.values_list("id", flat=True)),
    "loop_id": list(Loop.objects.values_list("id", flat=True)),
    "uuid": list(Loop.objects.values_list("uuid", flat=True)),
    "machine_id": list(Machine.objects.values_list("id", flat=True)),
    "kind": ["csv", "json"],
    "run_id": [],
    "key": ["first-level-check"],
}
paths = []
for path, operations in document["paths"].items():
    name = re.search(r"{(\\w+)}", path)
    if "get" not in operations or (name and name[1] == "sha256"):  # the pictures themselves are not kept here
        continue
    if re.search("{(entry_id|token|import_id|owner_uuid)}", path):  # below; a link, an import, an owner that nobody made
        continue
    for value in known[name[1]] if name else [""]:
        paths.append(re.sub(r"{\\w+}", str(value), path))
asked = {"/api/products": f"?loop={known['loop_id'][0]}", "/api/layouts": "?capacity_l=20"}
paths = [path + asked.get(path, "") for path in paths]
found = {path: client.get(path).status_code for path in paths}
for entry in Entry.objects.exclude(kind="listed")[:400]:  # an entry's form: there, or refused because its job is signed
    path = f"/api/loops/{entry.loop_id}/entries/{entry.pk}"
    status = client.get(path).status_code
    found[path] = 200 if status == 409 else status
board = client.get("/api/board").json()
rows = [row["id"] for row in board["rejudged"]]
answer = {"answer": "Called back in."}
answered = client.post(f"/api/rejudged/{rows[0]}/answer", answer, content_type="application/json") if rows else None


def sentences(part):  # every sentence in an answer, as its template
    if isinstance(part, dict):
        if "sentence" in part and "template" in part:
            yield part["template"]
        part = list(part.values())
    for row in part if isinstance(part, list) else []:
        yield from sentences(row)


records = [client.get(f"/api/loops/{loop_id}/ledger").json() for loop_id in known["loop_id"]]
signed = [job["state"]["proof"] for record in records for job in record["signed"] if job["state"]["proof"]]
print(json.dumps({
    "signed": list(sentences(signed)),
    "said": [said for record in records for said in sentences([record["entries"], record["state"]])],
    "bad": {path: code for path, code in found.items() if code != 200 and path != "/api/health"},  # no backup yet
    "asked": len(found),
    "broken": board["broken"],
    "rejudged": sorted((r["machine"]["fleet_number"], r["code"]) for r in board["rejudged"]),
    "answered": answered.status_code if answered else None,
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


def migrated(data, version):
    """The data folder of a depot that a version left, migrated and judged again."""
    connection = sqlite3.connect(data / "temper.sqlite3")
    connection.executescript(lzma.decompress((OLD / f"{version}.sql.xz").read_bytes()).decode())
    connection.commit()
    connection.close()
    manage(data, "server/manage.py", "migrate", "-v", "0")
    manage(data, "server/manage.py", "rejudge")
    return data


@pytest.fixture(scope="module")
def old_depot(tmp_path_factory):
    """The depot that 0.6.0 left."""
    return migrated(tmp_path_factory.mktemp("old"), "0.6.0")


def asked(data):
    """What every reading address of the API answers, and what waits for a lead."""
    return json.loads(manage(data, "-c", ASK, ROOT / "server" / "openapi.yml").splitlines()[-1])


@pytest.mark.parametrize("version", ["0.4.0", "0.5.0"])
def test_every_page_of_a_demo_depot_of_an_older_version_opens(version, tmp_path):
    found = asked(migrated(tmp_path, version))
    assert found["bad"] == {}
    assert found["asked"] > 90
    assert found["broken"] == []
    assert len(found["signed"]) > 3
    assert [(said, phrases_in(said)) for said in [*found["signed"], *found["said"]] if phrases_in(said)] == []


def test_every_page_of_an_old_depot_opens_and_what_is_worse_waits_for_a_lead(old_depot):
    found = asked(old_depot)
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


STAGES = {"know": "identify", "test": "inspect", "prove": "verify"}
RENAMED = importlib.import_module("jobs.migrations.0010_names_of_the_field")


def _facts(one):
    """The facts of an old entry as the migration leaves them."""
    from jobs.stored import FACTS

    kind = RENAMED.KINDS.get(one["kind"], one["kind"])
    return FACTS[kind].validate_python(RENAMED.facts_as_now(one["kind"], one["facts"]))


def stages_then(state):
    """The stages of an old state by today's names."""
    return [STAGES.get(row["stage"], row["stage"]) for row in state["stages"]]


def entries_and_loops():
    """Each ledger that 0.6.0 kept, as the core knows it, with the state it came to then."""
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
                _facts(one),
                one["person_id"],
                n + 1,
            )
            for n, one in enumerate(row["entries"])
        ]
        yield row["machine"], loops.validate_python(row["loop"]), entries, row["state"], now


def test_old_ledgers_come_to_the_same_litres_by_todays_rules():
    """The arithmetic of 0.6.0 held against references: litres may not move, but where a rinse was read since it now moves
    the capacity as well, and never further than its doubt; what protects may be surer by the litres, never past its reading.
    """
    from temper_core.job.fold import fold

    folded = 0
    for machine, loop, entries, then, now in entries_and_loops():
        state = fold(loop, entries, None, now)
        folded += 1
        rinse_read = state.flush is not None and any(row.source.value == "corrected" for row in state.flush.rounds)
        within = 2 * state.inside.sd_l if rinse_read else 1e-6
        assert state.inside.litres == pytest.approx(then["inside"]["litres"], abs=within), machine
        assert state.poured.product_l == pytest.approx(then["poured"]["product_l"], abs=1e-6), machine
        assert [row.stage.value for row in state.stages] == [
            STAGES.get(row["stage"], row["stage"]) for row in then["stages"]
        ], machine
        if then["predicted_freeze_c"] is not None and state.predicted_freeze_c is not None:
            likely = state.predicted_likely_c
            assert likely.low <= then["predicted_freeze_c"] <= likely.high, machine
        if then["claim"]["safe_to_c"] is not None and state.claim.safe_to_c is not None:
            assert state.claim.safe_to_c >= then["claim"]["freeze_c"] - 0.01, machine  # never colder than it reads
    assert folded >= 15
