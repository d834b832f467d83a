"""50 people recording on 20 loops at once against one, over HTTP: errors, losses, and the 95th percentile of both.

`python -m tools.load [PEOPLE] [LOOPS] [EACH]`: starts a server of its own on a fresh demo depot with a crowd in it. Exit 1
where anything answered 5xx, or an acknowledged entry is not stored exactly once.
"""

from __future__ import annotations

import http.client
import json
import os
import statistics
import subprocess
import sys
import tempfile
import threading
import time
import uuid
from pathlib import Path

ROOT = Path(__file__).resolve().parent.parent
PORT = 8377
PREPARE = """
import django; django.setup()
import json, sys
from depots.models import Depot
from jobs.models import JobLoop
from people.models import Person
from people.tokens import make_token
from tools.crowd import crowd
people, loops = map(int, sys.argv[1:])
depot = Depot.objects.get()
crowd(depot, loops, 1)
tokens = []
for n in range(people):
    person = Person.objects.create(username=f"load{n}", first_name="Load", last_name=str(n), depot=depot)
    tokens.append(make_token(person, "load", False, 1)[1])
parts = JobLoop.objects.filter(signed_at__isnull=True, loop__machine__fleet_number__startswith="X-").order_by("loop_id")
print(json.dumps({"tokens": tokens, "loops": list(parts.values_list("loop_id", flat=True))}))
"""
COUNT = """
import django; django.setup()
import sys
from backups.verify import verify
from jobs.models import Entry
keys = sys.stdin.read().split()
found = sum(Entry.objects.filter(pk__in=keys[n:n + 500]).count() for n in range(0, len(keys), 500))
report = verify()
print(found, len(report.problems))
"""


def record(client: http.client.HTTPConnection, token: str, loop: int) -> tuple[str, int, float]:
    """One entry: its id, the answer's status, how long it took [s]."""
    key = str(uuid.uuid4())
    body = json.dumps({"entries": [{"id": key, "kind": "temperature_logged", "facts": {"c": 31.0}}]})
    headers = {"Authorization": f"Bearer {token}", "Content-Type": "application/json"}
    started = time.perf_counter()
    client.request("POST", f"/api/loops/{loop}/entries", body, headers)
    answer = client.getresponse()
    answer.read()
    return key, answer.status, time.perf_counter() - started


def p95(times: list[float]) -> float:
    """95th percentile."""
    return statistics.quantiles(times, n=20)[-1]


def main(people: int = 50, loops: int = 20, each: int = 20) -> int:
    """Say what was found."""
    with tempfile.TemporaryDirectory(prefix="temper-load-") as folder:
        path = f"{ROOT / 'core'}:{ROOT / 'server'}:{ROOT}"
        env = {**os.environ, "TEMPER_DATA": folder, "PYTHONPATH": path, "DJANGO_SETTINGS_MODULE": "config.settings"}

        def python(*words: str, given: str = "") -> str:
            found = subprocess.run(
                [sys.executable, *words], cwd=ROOT, env=env, input=given, capture_output=True, text=True, check=True
            )
            return found.stdout

        python("server/manage.py", "migrate", "-v", "0")
        python("demo/load.py")
        prepared = json.loads(python("-c", PREPARE, str(people), str(loops)))
        command = ["-m", "gunicorn", "config.wsgi", "--chdir", "server", "--workers", "1", "--threads", "8"]
        server = subprocess.Popen(
            [sys.executable, *command, "--bind", f"127.0.0.1:{PORT}", "--log-level", "error"], cwd=ROOT, env=env
        )
        try:
            alone, many = measured(prepared["tokens"], prepared["loops"], each)
        finally:
            server.terminate()
            server.wait()
        rows = [*alone, *many]
        answered = [key for key, status, _ in rows if status == 201]
        stored, problems = map(int, python("-c", COUNT, given="\n".join(answered)).split())
    failed = sum(status >= 500 for _, status, _ in rows)
    refused = sum(400 <= status < 500 for _, status, _ in rows)
    one, all_ = p95([took for _, _, took in alone]), p95([took for _, _, took in many])
    print(f"{people} people on {loops} loops, {len(many)} entries: {failed} answered 5xx, {refused} refused")
    print(f"acknowledged {len(answered)}, stored {stored}, problems {problems}")
    print(f"p95 {all_ * 1e3:.0f} ms against {one * 1e3:.0f} ms of one person alone: {all_ / one:.1f} times")
    return 1 if failed or stored != len(answered) or problems else 0


Rows = list[tuple[str, int, float]]


def measured(tokens: list[str], loops: list[int], each: int) -> tuple[Rows, Rows]:
    """Entries of one person alone, and of all at once."""
    for _ in range(200):
        try:
            client = http.client.HTTPConnection("127.0.0.1", PORT, timeout=60)
            client.request("GET", "/api/session")
            client.getresponse().read()
            break
        except OSError:
            time.sleep(0.2)
    alone = [record(client, tokens[0], loops[n % len(loops)]) for n in range(max(40, each))]
    many: Rows = []

    def person(n: int) -> None:
        own = http.client.HTTPConnection("127.0.0.1", PORT, timeout=120)
        for k in range(each):
            many.append(record(own, tokens[n], loops[(n + k) % len(loops)]))

    threads = [threading.Thread(target=person, args=(n,)) for n in range(len(tokens))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return alone, many


if __name__ == "__main__":
    raise SystemExit(main(*map(int, sys.argv[1:])))
