"""Any order of facts that the API takes leaves a board, a job, a record and a sheet that answer: seeded walks."""

import json
import random
import uuid
from collections import Counter

import pytest
from pydantic import RootModel

from fleet.models import Loop
from jobs.models import cores_of
from temper_core.job.entries import JobOpened
from temper_core.job.kinds import REGISTRY
from tests.core.test_ledger import NEW, PG
from tests.walks import BETWEEN, steps

FLEET = ("B-14", "G-02", "H-09", "P-06", "RS-1", "T-22", "V-31")
STATES, PDFS = 12, 2  # of each machine's first loop: 84 end states in all, 14 of them with the PDF
DROPPED = {"solids_mg_l", "agent", "instrument", "product"}


def as_sent(facts, depot):
    """Fact as the API takes them: products and instruments by id."""
    given = json.loads(RootModel[type(facts)](facts).model_dump_json())
    sent = {name: value for name, value in given.items() if name not in DROPPED}
    if "product" in given:
        mine = {NEW.name: "Winterline O", PG.name: "Winterline P"}
        name = given["product"] and mine[given["product"]["name"]]
        sent["product_id"] = depot.products.get(name=name).id if name else None
    if "instrument" in given:
        sent["instrument_id"] = depot.instruments.get(name="Glass 3").id if given["instrument"] else None
    return sent


def answers(api, loop, pdf):
    """Board with the loop's row where it has work, its bench, its record, its sheet."""
    page = api.get(f"/api/loops/{loop.id}").json()
    board = api.get("/api/board")
    assert board.status_code == 200
    rows = board.json()
    listed = {row["loop_id"] for part in rows.values() if isinstance(part, list) for row in part if "loop_id" in row}
    state = page["state"]
    if state["job_id"] and not state["signed_at"]:
        assert loop.id in listed
    inside = state["inside"]
    assert inside["litres"] >= 0
    assert inside["old_percent"] is None or 0 <= inside["old_percent"] <= 100 + 1e-6
    for path in ("ledger", "sheet", "history", *(["sheet.pdf"] if pdf else [])):
        assert api.get(f"/api/loops/{loop.id}/{path}").status_code == 200, path


@pytest.mark.parametrize("number", FLEET)
def test_whatever_was_taken_board_job_record_and_sheet_answer(maud, depot, number):
    loop = Loop.objects.filter(machine__fleet_number=number).order_by("position").first()
    rng, kinds, entries, states, pdfs = random.Random(number), Counter(), [], 0, 0
    while states < STATES:
        for facts in steps(rng, entries, kinds, tries=24):
            if isinstance(facts, JobOpened):
                job = {"id": str(uuid.uuid4()), "machine_id": loop.machine_id}
                maud.post("/api/jobs", job | {"loops": [{"loop_id": loop.id, "job_type": facts.job_type.value}]})
                continue
            kind = REGISTRY.of(facts).name
            if rng.random() < 0.1:
                maud.check_safe(loop)
            sent = {"id": str(uuid.uuid4()), "kind": kind, "facts": as_sent(facts, depot)}
            between = isinstance(facts, BETWEEN) and rng.random() < 0.3
            answer = maud.post(f"/api/loops/{loop.id}/entries", {"entries": [sent], "between": between})
            assert answer.status_code in (201, 400, 403, 404, 409), (kind, answer.status_code)
            kinds[kind] += answer.status_code == 201
            if answer.status_code != 201:
                continue
            entries[:] = cores_of(loop.entries.acting())
            if rng.random() < 0.8:
                states += 1
                pdfs += (pdf := pdfs < PDFS and rng.random() < 0.4)
                answers(maud, loop, pdf)
            if states >= STATES:
                break
    assert sum(kinds.values()) >= STATES
    assert len([kind for kind in kinds if kinds[kind]]) >= 6, kinds
