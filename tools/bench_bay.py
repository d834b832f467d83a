"""The core as a browser has it, under Node: how long it takes to be ready, and each answer against the server's own time.

Needs the demo loaded and the packed core built. Absolute times are said, since whoever stands in the bay waits for them: a
mix at p95 within 20 ms, with its interval within 60 ms; a loop's page against the server's own time for it at most 4 times.
"""

from __future__ import annotations

import json
import statistics
import subprocess
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from django.test import Client

from depots.models import Depot
from jobs.models import JobLoop
from people.models import Person, Role

ROOT = Path(__file__).resolve().parent.parent
MIXES, WARM_UP, BENCHES, LOOPS_OF_A_KIT = 200, 20, 20, 40


def on_tablet(kit: str, asks: list[dict[str, object]], now: str) -> dict[str, list[float]]:
    """Milliseconds: `started` (the runtime, the packed core, the kit taken in), `ms` of each answer; then `memory_mb`."""
    with tempfile.TemporaryDirectory() as folder:
        asked, answered = Path(folder) / "asked.json", Path(folder) / "answered.json"
        asked.write_text(json.dumps({"kit": kit, "asks": [{"now": now, **ask} for ask in asks]}))
        command = ["node", str(ROOT / "web" / "scripts" / "bay-run.mjs"), str(asked), str(answered), "times"]
        subprocess.run(command, check=True)
        found: dict[str, list[float]] = json.loads(answered.read_text())
    refused = [status for status in found["statuses"] if status != 200]
    if refused:
        raise SystemExit(f"bench: a tablet answered {len(refused)} requests with {refused[0]:.0f}")
    return found


def bench_bay(mix: dict[str, object], spread: dict[str, float], percentile: Callable[[list[float], float], float]) -> None:
    """All of it."""
    depot = Depot.objects.get(name__startswith="Skarn")
    person = Person.objects.create_user("tablet", password=None, role=Role.TECHNICIAN, depot=depot)
    client = Client()
    client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")
    kit = client.get("/api/kit").content.decode()
    taken = json.loads(kit)
    own = len(json.dumps(taken["loops"], separators=(",", ":")))
    size = (len(kit) - own + own / len(taken["loops"]) * LOOPS_OF_A_KIT) / 1e6
    loops = list(
        JobLoop.objects.filter(signed_at__isnull=True, loop__machine__depot=depot).values_list("loop_id", flat=True)[
            :BENCHES
        ]
    )
    targets = [{"target_freeze_c": -30.0 - n / 20} for n in range(MIXES)]  # another one each time: no cache answers
    asks: list[dict[str, object]] = [
        {"method": "POST", "path": "/api/compute/mix", "body": mix | more | target}
        for more in ({}, {"spread": spread})
        for target in (*targets[:WARM_UP], *targets)
    ]
    pages: list[dict[str, object]] = [{"method": "GET", "path": f"/api/loops/{pk}"} for pk in loops]
    asks += pages * 2
    found = on_tablet(kit, asks, depot.now.isoformat())
    each = WARM_UP + MIXES
    plain, sure = found["ms"][WARM_UP:each], found["ms"][each + WARM_UP : 2 * each]
    benches = found["ms"][2 * each + len(loops) :]
    server = []
    for pk in loops * 2:
        began = time.perf_counter()
        client.get(f"/api/loops/{pk}")
        server.append(1000 * (time.perf_counter() - began))
    ratio = statistics.median(benches) / statistics.median(server[len(loops) :])
    runtime, packed, taken_in = found["started"]
    parts = f"runtime {runtime:.0f}, core {packed:.0f}, kit {taken_in:.0f}"
    print(f"tablet, ready: {runtime + packed + taken_in:.0f} ms under Node ({parts}; aim: at most 8000)")
    print(f"tablet, mix: p95 {percentile(plain, 0.95):.1f} ms (aim: at most 20)")
    print(f"tablet, mix with its interval: p95 {percentile(sure, 0.95):.1f} ms (aim: at most 60)")
    print(f"tablet, bench against the server's own time: {ratio:.1f} times (aim: at most 4)")
    print(f"tablet, memory of the process: {found['memory_mb'][0]:.0f} MB under Node")
    print(f"kit of {LOOPS_OF_A_KIT} loops: {size:.2f} MB (aim: at most 1)")
