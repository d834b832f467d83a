"""Measures as ratios within one run: the machine is shared, absolute times mean little.

- /api/compute/mix over HTTP handling (Django's test client, session, CSRF, JSON) against a bare DRF view with the same
  authentication, parsing and rendering and no work: p50 and p95, aim at most 1.5 times.
- the same with its interval, as every key on the worksheet asks for it: aim at most 2 times.
- mix with its interval against mix without, in the core: aim at most 10 times.
- /api/compute/flush over HTTP against the echo view: aim at most 3 times; in the core, 12 vessels against 6: at most 2.5.
- the planner, all methods, over a loop of 12 vessels against one of 6: at most 2.5.
- the board of a bay whose loops had ten times the history against one whose loops had it once: at most 1.3 times.
- the board of 300 loops in work over HTTP, and one job of 4,000 entries: tools/bench_pages.py.
- the import of 100,000 readings and the log behind them: tools/bench_log.py.
- mix in the core against the same mix by CoolProp's properties and SciPy's brentq (informative).
- the core as a browser has it, under Node: tools/bench_bay.py.
- first-load JavaScript of the built front end, gzipped: at most 220 kB, enforced by the build.
"""

from __future__ import annotations

import gc
import gzip
import json
import os
import re
import statistics
import tempfile
import time
from collections.abc import Callable
from pathlib import Path
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    from temper_core.calculate.mix import MixQuestion
    from temper_core.job.fold_state import LedgerFold

ROOT = Path(__file__).resolve().parent.parent
ROUNDS, WARM_UP = 1500, 100
MIX = {
    "glycol": "ethylene",
    "loop_volume_l": 32.0,
    "inside": {"volume_l": 7.5, "strength_percent": 1.9},
    "target_freeze_c": -45.0,
    "concentrate": {"glycol_mass_percent": 95.0},
}
FLUSH = {
    "vessels": [{"name": f"v{i}", "volume_l": 5.0} for i in range(6)],
    "first_drain_l": {f"v{i}": 3.5 for i in range(6)},
    "rounds": [{"drained_l": {f"v{i}": 3.5 for i in range(6)}}] * 3,
    "limit_percent": 5.0,
}
SPREAD = {"loop_volume_l": 0.32, "drained_l": 0.17, "inside_strength_percent": 0.1, "glycol_mass_percent": 0.5}


def percentile(times: list[float], share: float) -> float:
    """The value below which this share of the times lies."""
    return statistics.quantiles(times, n=100)[round(share * 100) - 1]


def interleaved(*calls: Callable[[], object], rounds: int = ROUNDS) -> list[list[float]]:
    """Time several calls by turns, so that whatever else the machine does meets all alike."""
    times: list[list[float]] = [[] for _ in calls]
    warm_up = min(WARM_UP, rounds)
    for round_ in range(warm_up + rounds):
        for i, call in enumerate(calls):
            started = time.perf_counter()
            call()
            if round_ >= warm_up:
                times[i].append(time.perf_counter() - started)
    return times


def bench_http() -> None:
    """The calculator against an echo view."""
    from django.test import Client
    from django.urls import path
    from rest_framework.request import Request
    from rest_framework.response import Response
    from rest_framework.views import APIView

    from config import urls
    from people.models import Person

    class EchoView(APIView):
        """Same authentication, JSON in, JSON out, no work."""

        def post(self, request: Request) -> Response:
            """Give back what came."""
            return Response(request.data)

    urls.urlpatterns.insert(0, path("api/echo", EchoView.as_view()))
    client = Client(enforce_csrf_checks=True)
    client.force_login(Person.objects.get(username="ines"), backend="django.contrib.auth.backends.ModelBackend")
    client.get("/api/session")
    token = client.cookies["csrftoken"].value

    def post(address: str, body: dict[str, object]) -> Callable[[], object]:
        text = json.dumps(body)

        def call() -> None:
            answer = client.post(address, text, content_type="application/json", HTTP_X_CSRFTOKEN=token)
            if answer.status_code != 200:
                raise SystemExit(f"bench: {address} answered {answer.status_code}: {answer.content!r}")

        return call

    # targets differ from call to call as on a worksheet, so that no cache answers for the core
    gc.disable()
    echo, plain, sure, rounds = interleaved(
        post("/api/echo", MIX),
        post("/api/compute/mix", MIX),
        post("/api/compute/mix", MIX | {"spread": SPREAD}),
        post("/api/compute/flush", FLUSH),
    )
    gc.enable()
    for name, times, aim in (
        ("/api/compute/mix", plain, 1.5),
        ("/api/compute/mix with its interval", sure, 2),
        ("/api/compute/flush", rounds, 3),
    ):
        p50, p95 = (percentile(times, s) / percentile(echo, s) for s in (0.5, 0.95))
        print(f"{name}: {p50:.2f} times the echo view at p50, {p95:.2f} at p95 (aim: at most {aim})")
    from tools.bench_pages import bench_pages

    bench_pages(post("/api/echo", MIX), interleaved)
    print(
        f"  the echo view itself: {percentile(echo, 0.5) * 1e6:.0f} us at p50, {percentile(echo, 0.95) * 1e6:.0f} us at p95"
    )


def bench_core() -> None:
    """The mix with its interval against the mix without."""
    from temper_core.basis.quantity import VolumePercent
    from temper_core.calculate.mix import Inside, MixQuestion, Spread, mix
    from temper_core.science import Glycol

    plain = MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5, VolumePercent(1.9)), -45.0)
    sure = MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5, VolumePercent(1.9)), -45.0, spread=Spread(**SPREAD))
    without, with_interval = interleaved(lambda: mix(plain), lambda: mix(sure))
    ratio = statistics.median(with_interval) / statistics.median(without)
    print(f"core, mix with its interval: {ratio:.1f} times mix without (aim: at most 10)")
    question, answer = by_reference()
    ours, theirs = interleaved(lambda: mix(question), answer, rounds=60)
    ratio = statistics.median(theirs) / statistics.median(ours)
    print(f"core, mix: CoolProp and SciPy's brentq take {ratio:.0f} times as long for the same litres (informative)")


def bench_flush() -> None:
    """Rounds over twelve vessels against six."""
    from temper_core.calculate.flush import FlushQuestion, FlushRound, FlushVessel, flush

    def asked(count: int) -> FlushQuestion:
        out = {f"v{i}": 3.5 for i in range(count)}
        vessels = tuple(FlushVessel(f"v{i}", 5.0) for i in range(count))
        return FlushQuestion(vessels, out, (FlushRound(drained_l=out),) * 4, 0.5)

    six, twelve = asked(6), asked(12)
    few, many = interleaved(lambda: flush(six), lambda: flush(twelve))
    ratio = statistics.median(many) / statistics.median(few)
    print(f"core, flush over 12 vessels: {ratio:.2f} times the same over 6 (aim: at most 2.5)")


def bench_planner() -> None:
    """Every method over twelve vessels against six."""
    from datetime import UTC, datetime

    from temper_core.basis.policy import Policy
    from temper_core.job.drain.facts import Drained, Measured
    from temper_core.job.entries import Entry, JobOpened
    from temper_core.job.flush.methods import plan_methods
    from temper_core.job.job_types import JobType
    from temper_core.job.ledger import walk
    from temper_core.job.loop import CapacitySource, Loop
    from temper_core.machine.circuit import Drain, Layout, Node, NodeKind, Pipe, Via
    from temper_core.products.chemistry import Fluid, Requirement

    def opened(count: int) -> LedgerFold:
        kinds = [NodeKind.BLOCK, NodeKind.RADIATOR, NodeKind.HEATER] + [NodeKind.COOLER] * (count - 3)
        nodes = tuple(Node(f"v{i}", kind, f"V{i}", 5.0, 1, 9, i % 3) for i, kind in enumerate(kinds))
        pipes = tuple(Pipe("v0", f"v{i}", 5, Via.THERMOSTAT if i == 1 else Via.NONE) for i in range(1, count))
        layout = Layout(nodes, pipes, (Drain("A", "v1", 1, {f"v{i}": 0.6 for i in range(count)}),))
        loop = Loop("1", "Loop", 5.0 * count, CapacitySource.MEASURED, layout, Requirement(), -38.0, Fluid())
        at = datetime(2026, 11, 26, 8, tzinfo=UTC)
        rows = [JobOpened(JobType.CHANGE_TYPE), Drained(3.0 * count, Measured.WEIGHED)]
        return walk(loop, [Entry(str(n), "j", at, at, "", facts) for n, facts in enumerate(rows)], Policy())

    six, twelve = opened(6), opened(12)
    few, many = interleaved(lambda: plan_methods(six), lambda: plan_methods(twelve), rounds=200)
    ratio = statistics.median(many) / statistics.median(few)
    print(f"core, all methods over 12 vessels: {ratio:.2f} times the same over 6 (aim: at most 2.5)")


def bench_board() -> None:
    """Two bays alike, but for the length of their loops' lives."""
    from depots.models import Depot
    from jobs.board import ROWS, board_of
    from tools.crowd import crowd

    bays = [Depot.objects.create(name=name, coldest_c=-30) for name in ("Once", "Ten times")]
    for bay, history in zip(bays, (1, 10), strict=True):
        crowd(bay, 100, history)

    def cold(bay: Depot) -> None:
        """With nothing in memory: every row is worked out."""
        ROWS.forget()
        board_of(bay)

    once, tenfold = interleaved(lambda: cold(bays[0]), lambda: cold(bays[1]), rounds=8)
    ratio = statistics.median(tenfold) / statistics.median(once)
    print(f"board of 100 jobs: {ratio:.2f} times as long with ten times the history of every loop (aim: at most 1.3)")
    print(f"  the board itself: {statistics.median(once) * 1e3:.0f} ms")


def by_reference() -> tuple[MixQuestion, Callable[[], float]]:
    """The same litres by reference libraries: CoolProp's freeze point and density, SciPy's root search."""
    import CoolProp.CoolProp as CP  # noqa: N817
    from scipy.optimize import brentq

    from temper_core.calculate.mix import Inside, MixQuestion, mix
    from temper_core.science import Glycol

    question = MixQuestion(Glycol.ETHYLENE, 32.0, Inside(7.5), -40.0)

    def litres() -> float:
        def freeze_c(w: float) -> float:
            return CP.PropsSI("T_freeze", "T", 293.15, "P", 1e5, f"INCOMP::MEG[{w}]") - 273.15

        w = brentq(lambda x: freeze_c(x) + 40.0, 0.05, 0.59)
        total = 32.0 * CP.PropsSI("D", "T", 293.15, "P", 1e5, f"INCOMP::MEG[{w}]") / 1000
        return float(total * w / 0.95 / 1.1105)  # its density of a 95 % concentrate is beyond CoolProp's table

    if abs(litres() - mix(question).concentrate_l) > 0.1:
        raise SystemExit(f"bench: the reference comes to {litres():.2f} L, Temper to {mix(question).concentrate_l:.2f} L")
    return question, litres


def bench_first_load() -> None:
    """Gzipped JavaScript that index.html asks for."""
    dist = ROOT / "web" / "dist"
    page = (dist / "index.html").read_text()
    scripts = set(re.findall(r'(?:src|href)="/(assets/[^"]+\.js)"', page))
    size = sum(len(gzip.compress((dist / name).read_bytes())) for name in scripts)
    print(f"first-load JavaScript: {size / 1000:.0f} kB gzip in {len(scripts)} files (aim: at most 220)")


def main() -> None:
    """All measures."""
    with tempfile.TemporaryDirectory() as data:
        os.environ["TEMPER_DATA"] = data
        os.environ["DJANGO_SETTINGS_MODULE"] = "config.settings"
        import django

        django.setup()
        from django.core.management import call_command

        from demo.depot import load
        from tools.bench_bay import bench_bay

        call_command("migrate", verbosity=0)
        load()
        bench_bay(MIX, SPREAD, percentile)  # the demo as it is loaded: what follows fills it
        bench_http()
        bench_board()
        from tools.bench_log import bench_first_page, bench_import

        bench_import()
        bench_first_page()
    bench_core()
    bench_flush()
    bench_planner()
    bench_first_load()


if __name__ == "__main__":
    main()
