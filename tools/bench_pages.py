"""The board and the bench over HTTP against the echo view: a full bay, a long job. Needs the demo loaded."""

from __future__ import annotations

import itertools
import statistics
from collections.abc import Callable

from django.test import Client

from depots.models import Depot
from people.models import Person, Role
from tools.crowd import crowd, long_job

LOOPS, ENTRIES, TABS = 300, 4000, 40


def _of(depot: Depot, name: str) -> Client:
    """A client of a technician of this depot."""
    person = Person.objects.create_user(name, password=None, role=Role.TECHNICIAN, depot=depot)
    client = Client()
    client.force_login(person, backend="django.contrib.auth.backends.ModelBackend")
    return client


def _getting(client: Client, address: str, **headers: str) -> Callable[[], object]:
    def call() -> object:
        answer = client.get(address, headers=headers)
        if answer.status_code not in (200, 304):
            raise SystemExit(f"bench: {address} answered {answer.status_code}: {answer.content!r}")
        return answer

    return call


def bench_pages(echo: Callable[[], object], interleaved: Callable[..., list[list[float]]]) -> None:
    """The board of 300 loops in work, the same when nothing changed, and a job of 4,000 entries."""
    bay = Depot.objects.create(name="Full", coldest_c=-30)
    crowd(bay, LOOPS, 1)
    client = _of(bay, "bay")
    answer = client.get("/api/board")
    rows = answer.json()["strips"]
    unchanged = _getting(client, "/api/board", **{"If-None-Match": answer["ETag"]})
    hall = Depot.objects.create(name="Long", coldest_c=-30)
    loop = long_job(hall, ENTRIES)
    bench = _getting(_of(hall, "hall"), f"/api/loops/{loop.pk}")
    count = itertools.count()
    tabs = [_of(bay, f"tab {n}") for n in range(TABS)]

    def changed() -> None:
        """Something is written, then every tab asks."""
        Depot.objects.filter(pk=bay.pk).update(name=f"Full {next(count)}")
        for tab in tabs:
            tab.get("/api/board", headers={"If-None-Match": answer["ETag"]})

    echoes, boards, again, benches = interleaved(echo, _getting(client, "/api/board"), unchanged, bench, rounds=30)
    one, all_tabs = interleaved(echo, changed, rounds=4)
    base = statistics.median(echoes)
    for name, times, aim in (
        (f"board of {LOOPS} loops", boards, 20),
        ("the same, nothing changed (304)", again, 1),
        (f"a job of {ENTRIES} entries", benches, 100),
    ):
        print(f"{name}: {statistics.median(times) / base:.1f} times the echo view at p50 (aim: at most {aim})")
    share = statistics.median(all_tabs) / TABS / statistics.median(one)
    print(f"{TABS} tabs after one change: {share:.1f} times the echo view each (aim: at most 20)")
    print(f"  a row of the board: {len(answer.content) / len(rows):.0f} bytes in the mean (aim: at most 1,229)")
