"""The API's answers out of a person's kit: the same addresses, bodies, answers and refusals as the server's.

This is what runs in a browser without a network. No Django and no clock in here.
"""

from __future__ import annotations

import json
import re
from collections.abc import Callable
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from pydantic import BaseModel

from bay import taking_in
from bay.board import board_of
from bay.kit import Kit
from bay.work import Work
from compute.calculators import CALCULATORS
from config.refusals import refusal_of, refused_as
from fleet.schemas import MachineIn
from fleet.taking_in import generics, kinds
from jobs.back_schemas import Of
from jobs.entry_schemas import EntriesIn
from jobs.pages import bench_page, history_page, ledger_page
from jobs.schemas import JobIn, JobOpenedOut, Preview
from temper_core.basis.errors import Conflict, CoreError

NEEDS_NETWORK = "This needs the network. What you record in the bay is kept here meanwhile."
NOT_DIGESTED = "This loop's record cannot be calculated. Open the record and undo the last entry."


@dataclass(frozen=True, slots=True)
class Asked:
    """A request. now: the server's time by this device's clock, in the depot's zone."""

    method: str
    path: str
    query: dict[str, str]
    body: Any
    now: datetime


@dataclass(frozen=True, slots=True)
class Answered:
    """status, and the body as JSON text. keep: the request is to be kept and sent, word for word as it stands here."""

    status: int
    text: str
    keep: dict[str, Any] | None = None


Answer = Callable[[Work, Asked, tuple[str, ...]], Answered]
_CALCULATORS = {row.name: row for row in CALCULATORS}


def answer(work: Work, asked: Asked) -> Answered:
    """What the server would answer; refusals in its own words, and one of our own for what only the server has."""
    for method, pattern, make in _ROUTES:
        found = pattern.fullmatch(asked.path)
        if found is None or method != asked.method:
            continue
        try:
            return make(work, asked, found.groups())
        except Exception as error:
            refused = refusal_of(error)
            if refused is None:
                raise
            return Answered(refused.status, json.dumps(refused.body))
    return _as_seen(work, asked)


def _as_seen(work: Work, asked: Asked) -> Answered:
    """What the server last said there."""
    key = asked.path + ("?" + "&".join(f"{k}={v}" for k, v in sorted(asked.query.items())) if asked.query else "")
    if asked.method == "GET" and key in work.kit.answers:
        return Answered(200, json.dumps(work.kit.answers[key]))
    return Answered(503, json.dumps(refused_as(503, "needs_network", NEEDS_NETWORK).body))


def _shown(model: BaseModel, status: int = 200, keep: dict[str, Any] | None = None) -> Answered:
    return Answered(status, model.model_dump_json(), keep)


def _body(asked: Asked) -> dict[str, Any]:
    if not isinstance(asked.body, dict):
        raise CoreError("", "The request must be a JSON object.", "not_json")
    return asked.body


def _bench(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    return _bench_as(work, int(at[0]), asked, 200, None)


def _bench_as(work: Work, loop_id: int, asked: Asked, status: int, keep: dict[str, Any] | None) -> Answered:
    record = work.record(work.loop(loop_id), asked.now)
    return _shown(bench_page(record, work.rows.lists, asked.now.astimezone(UTC)), status, keep)


def _entries(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    given = EntriesIn.model_validate(_body(asked))
    known = {row.id for row in work.loop(int(at[0])).rows}
    work.add(int(at[0]), given, asked.now)
    if all(row.id in known for row in given.entries):  # asked a second time: it waits, or was sent, already
        return _bench_as(work, int(at[0]), asked, 201, None)
    dated = [
        {**row, "happened_at": row.get("happened_at") or asked.now.astimezone(UTC).isoformat()}
        for row in _body(asked)["entries"]
    ]
    keep = {"method": "POST", "path": asked.path, "loops": [int(at[0])], "body": {**_body(asked), "entries": dated}}
    return _bench_as(work, int(at[0]), asked, 201, keep)


def _preview(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    given = EntriesIn.model_validate(_body(asked))
    return _shown(Preview(state=work.preview(int(at[0]), given, asked.now)))


def _ledger(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    record = work.record(work.loop(int(at[0])), asked.now)
    return _shown(ledger_page(record, record.core, record.state, NOT_DIGESTED, []))


def _history(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    return _shown(history_page(work.record(work.loop(int(at[0])), asked.now, listed=True)))


def _drop_draft(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    work.loop(int(at[0])).drafts.pop(at[1], None)
    return Answered(204, "")


def _job(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    given = JobIn.model_validate(_body(asked))
    work.open_job(given, asked.now)
    loops = [row.loop_id for row in given.loops]
    body = {**_body(asked), "opened_at": asked.now.astimezone(UTC).isoformat()}
    keep = {"method": "POST", "path": asked.path, "loops": loops, "body": body}
    return _shown(JobOpenedOut(id=given.id, loop_ids=loops), 201, keep)


def _take_in(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    added = taking_in.take_in(work, MachineIn.model_validate(_body(asked)), asked.now)
    keep = {"method": "POST", "path": asked.path, "loops": added.loop_ids, "body": {**_body(asked), "apart": True}}
    return _shown(added, 201, keep)


def _machine(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    here = work.taken_in.get(int(at[0]))
    return _shown(here) if here is not None else _as_seen(work, asked)


def _machines(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    return Answered(200, json.dumps(taking_in.machines(work)))


def _loops(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    return Answered(200, json.dumps(taking_in.loops(work, asked.now)))


def _of(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    """A label's UUID, as far as this tablet's kit has what it is on."""
    found = next((row.kept.id for row in work.loops.values() if str(row.kept.shown.uuid) == at[0].lower()), None)
    if found is None:
        return _as_seen(work, asked)
    return _shown(Of(what="loop", id=str(found), page=f"/loops/{found}"))


def _kinds(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    return _shown(kinds())


def _layouts(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    try:
        capacity_l = float(asked.query.get("capacity_l", ""))
    except ValueError:
        raise CoreError("capacity_l", "capacity_l must be a number of litres, such as 24.5.", "float_parsing") from None
    return _shown(generics(capacity_l))


def _board(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    kept = work.kit.answers.get("/api/board")
    if kept is None:
        raise Conflict("board", "The board is not in this tablet's kit.", "not_in_kit")
    return Answered(200, json.dumps(board_of(work, kept, asked.now)))


def _computed(work: Work, asked: Asked, at: tuple[str, ...]) -> Answered:
    row = _CALCULATORS.get(at[0])
    if row is None:
        return Answered(404, json.dumps(refused_as(404, "not_found", "Not found in your depot. Check the address.").body))
    return Answered(200, json.dumps(row.answer(row.asks.model_validate(_body(asked)), work.policy)))


def _route(method: str, path: str, make: Answer) -> tuple[str, re.Pattern[str], Answer]:
    return method, re.compile(path), make


_ROUTES = (
    _route("GET", r"/api/loops/(\d+)", _bench),
    _route("POST", r"/api/loops/(\d+)/entries", _entries),
    _route("POST", r"/api/loops/(\d+)/preview", _preview),
    _route("GET", r"/api/loops/(\d+)/ledger", _ledger),
    _route("GET", r"/api/loops/(\d+)/history", _history),
    # a draft stays where it was typed, in the browser, until a server has it: putting one is not answered here
    _route("DELETE", r"/api/loops/(\d+)/drafts/(\w+)", _drop_draft),
    _route("POST", r"/api/jobs", _job),
    _route("POST", r"/api/machines", _take_in),
    _route("GET", r"/api/machines/(\d+)", _machine),
    _route("GET", r"/api/machines", _machines),
    _route("GET", r"/api/loops", _loops),
    _route("GET", r"/api/of/([0-9a-fA-F-]{36})", _of),
    _route("GET", r"/api/kinds", _kinds),
    _route("GET", r"/api/layouts", _layouts),
    _route("GET", r"/api/board", _board),
    _route("POST", r"/api/compute/([a-z-]+)", _computed),
)


class Bay:
    """What a browser talks to: text in, text out. One at a time, in a worker."""

    def __init__(self, kit: str) -> None:
        self.work = Work(Kit.model_validate_json(kit))

    def ask(self, text: str) -> str:
        """A request as JSON (method, path, query, body, now) answered as JSON (status, text, keep)."""
        given = json.loads(text)
        asked = Asked(
            given["method"], given["path"], given.get("query") or {}, given.get("body"), datetime.fromisoformat(given["now"])
        )
        said = answer(self.work, asked)
        return json.dumps({"status": said.status, "text": said.text, "keep": said.keep})

    def again(self, kept: str, now: str) -> str:
        """Let what waits to be sent stand in the records once more, in its order; gives what no longer can, by its place.

        kept: requests as `ask` gave them to keep, each with the time that it was asked `at`.
        """
        refused, here = [], datetime.fromisoformat(now)
        for n, row in enumerate(json.loads(kept)):
            at = max(here, datetime.fromisoformat(row["at"]))  # a clock that was set back refuses nothing that was taken
            body = {**row["body"], "seen": None} if "seen" in row["body"] else row["body"]  # it was asked when it was taken
            said = answer(self.work, Asked(row["method"], row["path"], {}, body, at))
            if said.status >= 400:
                refused.append({"at": n, "status": said.status, "text": said.text})
        return json.dumps(refused)
