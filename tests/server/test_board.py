"""The board: small rows, made once until something is recorded or their time is up, and not a result twice."""

import json
from datetime import timedelta

from django.utils import timezone

from jobs import board
from jobs.board import ROWS, board_of
from jobs.models import JobLoop

LARGEST_ROW = 1229  # 1.2 kB


def row_of(api, fleet_number):
    """A strip of the board."""
    return next(row for row in api.get("/api/board").json()["strips"] if row["machine"]["fleet_number"] == fleet_number)


def test_a_row_is_small(ines):
    rows = ines.get("/api/board").json()["strips"]
    sizes = {row["machine"]["fleet_number"]: len(json.dumps(row, separators=(",", ":"))) for row in rows}
    assert len(sizes) >= 10
    assert {number: size for number, size in sizes.items() if size > LARGEST_ROW} == {}


def test_a_row_changes_with_what_is_recorded(ines, railcar):
    before = row_of(ines, "R-02")
    ines.open_up(railcar)
    after = row_of(ines, "R-02")
    assert before["row"]["stage"] == "identify"
    assert after["row"]["stage"] == "drain"
    assert ines.record(railcar, "drained", {"drained_l": 9.0, "measured": "weighed"}).status_code == 201
    assert row_of(ines, "R-02")["row"]["act"] != after["row"]["act"]


def test_a_row_changes_with_its_loop_and_with_the_rules(depot, groomer):

    def kept():
        """What the row of the groomer was made from."""
        board_of(depot)
        return ROWS._rows[groomer.pk].key

    before = kept()
    groomer.coldest_c = -11.0
    groomer.save()
    other_loop = kept()
    depot.policy_overrides = {"gate_probe_c": 30.0}
    depot.save()
    other_rules = kept()
    assert before.edited_at < other_loop.edited_at == other_rules.edited_at
    assert before.policy == other_loop.policy != other_rules.policy


def test_unchanged_loops_are_not_worked_out_again(ines, monkeypatch):
    made, work_out = [], board._row

    def counted(loop, *rest):
        made.append(loop.pk)
        return work_out(loop, *rest)

    monkeypatch.setattr(board, "_row", counted)
    ines.get("/api/board")
    assert len(made) == JobLoop.objects.filter(signed_at__isnull=True).count()
    ines.get("/api/board")
    assert len(made) == JobLoop.objects.filter(signed_at__isnull=True).count()


def test_what_depends_on_the_time_is_asked_of_now(ines, depot, monkeypatch):
    """The safe-to-open check of today opens nothing tomorrow: nobody recorded anything, and the row says so."""
    loop = JobLoop.objects.get(loop__machine__fleet_number="B-14", signed_at__isnull=True).loop
    ines.check_safe(loop)

    def stage():
        return next(row.row.stage for row in board_of(depot).strips if row.loop_id == loop.pk)

    assert stage() != "open"
    later = timezone.now() + timedelta(days=1)
    monkeypatch.setattr("django.utils.timezone.now", lambda: later)
    assert stage() == "open"


def test_nothing_is_sent_twice(ines, maud, railcar):
    first = ines.get("/api/board")
    tag = first["ETag"]
    again = ines.send("get", "/api/board", HTTP_IF_NONE_MATCH=tag)
    assert (again.status_code, again.content, again["ETag"]) == (304, b"", tag)
    assert again["Server-Time"] > first["Server-Time"]
    ines.open_up(railcar)
    assert ines.send("get", "/api/board", HTTP_IF_NONE_MATCH=tag).status_code == 200
    assert maud.send("get", "/api/board", HTTP_IF_NONE_MATCH=ines.get("/api/board")["ETag"]).status_code == 200
