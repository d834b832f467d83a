"""The bench is built by the core from plain data: out of a JSON dump, without Django, it is exactly what the API answers."""

import json
import os
import subprocess
import sys
from pathlib import Path

import pytest
from pydantic import TypeAdapter

from catalogue.queries import cleaners_of, products_of
from fleet.models import Loop
from jobs.models import FACTS, cores_of
from jobs.queries import bench_facts, entries_of
from temper_core.job.loop import Loop as CoreLoop
from temper_core.products.agents import Agent
from temper_core.views.bench import Offer

ROOT = Path(__file__).resolve().parents[2]
BUILD = '''
import json, sys

class NoDjango:
    """Whoever imports it fails."""

    def find_spec(self, name, path=None, target=None):
        if name.split(".")[0] in ("django", "rest_framework", "config", "jobs", "fleet"):
            raise ImportError(f"{name} is not here")

sys.meta_path.insert(0, NoDjango())
from datetime import datetime
from zoneinfo import ZoneInfo
from pydantic import TypeAdapter
from temper_core.basis.policy import Policy
from temper_core.job.entries import Entry
from temper_core.job.kinds import REGISTRY
from temper_core.job.loop import Loop
from temper_core.products.agents import Agent
from temper_core.views.bench import BenchFacts, BenchView, Offer, bench

loops, offers, agents, views = TypeAdapter(Loop), TypeAdapter(list[Offer]), TypeAdapter(list[Agent]), TypeAdapter(BenchView)
at = datetime.fromisoformat
kept = json.load(sys.stdin)
zone = ZoneInfo(kept["zone"])
built = []
for row in kept["benches"]:
    entries = [
        Entry(e["id"], e["job_id"], at(e["happened_at"]), at(e["recorded_at"]), e["person"],
              TypeAdapter(REGISTRY.named(e["kind"]).facts).validate_python(e["facts"]), e["person_id"], e["seq"])
        for e in row["entries"]
    ]
    facts = BenchFacts(loops.validate_python(row["loop"]), entries, Policy(kept["policy"]), at(kept["now"]).astimezone(zone),
                       offers.validate_python(kept["offers"]), agents.validate_python(kept["cleaners"]))
    built.append(views.dump_python(bench(facts), mode="json"))
json.dump(built, sys.stdout)
'''


def dumped(depot, loops, now):
    """The facts of benches as JSON."""
    core_loop, offers, agents = TypeAdapter(CoreLoop), TypeAdapter(list[Offer]), TypeAdapter(list[Agent])
    benches = []
    for loop in loops:
        facts = bench_facts(loop, cores_of(entries_of(loop)), products_of(depot), cleaners_of(depot))
        entries = [
            {
                "id": str(row.id),
                "job_id": str(row.job_id) if row.job_id else None,
                "happened_at": row.happened_at.isoformat(),
                "recorded_at": row.recorded_at.isoformat(),
                "person": row.person.name,
                "person_id": str(row.person_id),
                "seq": row.seq,
                "kind": row.kind,
                "facts": FACTS[row.kind].dump_python(row.core.facts, mode="json"),
            }
            for row in entries_of(loop)
        ]
        benches.append({"loop": core_loop.dump_python(facts.loop, mode="json"), "entries": entries})
    return {
        "benches": benches,
        "policy": dict(depot.policy_overrides),
        "now": now.isoformat(),
        "zone": depot.time_zone,
        "offers": offers.dump_python(facts.offers, mode="json"),
        "cleaners": agents.dump_python(facts.cleaners, mode="json"),
    }


@pytest.fixture
def standing_clock(monkeypatch):
    """The time stands still between the answer and the dump."""
    from django.utils import timezone

    now = timezone.now()
    monkeypatch.setattr("django.utils.timezone.now", lambda: now)
    return now


def test_the_bench_of_every_demo_loop_is_built_without_django(ines, depot, standing_clock):
    loops = list(Loop.objects.filter(machine__depot=depot).select_related("machine__depot"))
    given = dumped(depot, loops, standing_clock)
    env = {**os.environ, "PYTHONPATH": str(ROOT / "core")}
    done = subprocess.run(
        [sys.executable, "-c", BUILD], input=json.dumps(given), env=env, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr[-2000:]
    built = json.loads(done.stdout)
    assert len(built) == len(loops) >= 17
    for loop, view in zip(loops, built, strict=True):
        answer = ines.get(f"/api/loops/{loop.pk}").json()
        for name in set(view) - {"choices", "flushing", "recent", "photos"}:
            assert answer[name] == view[name], (loop.machine.fleet_number, name)
        assert [{k: v for k, v in row.items() if k != "product"} for row in answer["choices"]] == [
            {k: v for k, v in row.items() if k != "product_id"} for row in view["choices"]
        ]
        assert [(row["id"], row["said"]) for row in answer["recent"]] == [
            (row["entry_id"], row["said"]) for row in view["recent"]
        ]
        assert (answer["flushing"] is None) == (view["flushing"] is None)
        if view["flushing"]:
            assert answer["flushing"]["methods"] == view["flushing"]["methods"]
            assert answer["flushing"]["ahead"] == view["flushing"]["ahead"]
