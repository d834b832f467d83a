"""What was stored when a job was signed: its schema has a number, and older ones pass through written upgrades when read.

A signed result is never altered in the database. To change its schema: raise SCHEMA, add the step, keep a database of the
version before in tests/old.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Any

from pydantic import TypeAdapter

from temper_core.basis.uncertainty import Z95
from temper_core.job.job_types import JobType
from temper_core.job.loop_state import LoopState

Stored = dict[str, Any]
SCHEMA, SAID_AS_TODAY = 7, 4  # from which on its sentences are in today's words
STATE = TypeAdapter(LoopState)

_NOT_KEPT: Stored = {  # what jobs signed before these were kept do not hold
    "inspection": {"asked": [], "seen": [], "skipped": [], "told": None, "metered": None, "routed": None},
    "advice": None,
    "due": None,
    "overrides": [],
    "flush": None,
    "standing": {"code": "idle", "sentence": "", "template": "", "values": {}},
    "timers": [],
    "paused": None,
    "hands_id": None,
    "fill": None,
    "causes": [],
    "correction": None,
    "finish": None,
    "after": None,
    "ran_hot": False,
    "sameness": None,
    "top_up_share": None,
    "outlier_id": None,
    "isolated": False,
    "gate": {"open": False, "reasons": [], "asked": [], "observed": False, "observed_at": None, "by": "", "by_id": ""},
}


def _kept_since(state: Stored) -> Stored:
    """1 to 2: what 0.1.0 to 0.6.0 did not keep yet is left empty."""
    kept = {key: value for key, value in state.items() if key != "rinses"}  # once written as a number
    readings = [{"edge": "sharp", "steps": None} | row for row in state["readings"]]
    vessels = [{"old_sd_percent": 0.0, "litres_sd": 0.0} | vessel for vessel in state["vessels"]]
    stages = [row | {"status": "choice"} if row["status"] == "unkept" else row for row in state["stages"]]
    if kept.get("flush"):
        waste = [{"more": 0} | row for row in kept["flush"].get("waste", [])]
        kept["flush"] = kept["flush"] | {"waste": waste}
    return _NOT_KEPT | kept | {"vessels": vessels, "stages": stages, "readings": readings}


_KEYS = {"route": "job_type", "routed": "job_type_chosen", "told": "reported", "force": "weight"}
_JOB_TYPES = {"correct": "adjust_strength", "renew": "refill", "change_out": "change_type"}
_STAGES = {"know": "identify", "test": "inspect", "prove": "verify"}
_VALUES = {"job_type": _JOB_TYPES, "advised": _JOB_TYPES, "stage": _STAGES}


def _renamed(given: Any) -> Any:
    """2 to 3: stages, job types and findings by the names of the field (0.7.0)."""
    if isinstance(given, list):
        return [_renamed(row) for row in given]
    if not isinstance(given, Mapping):
        return given
    named = {_KEYS.get(key, key): _renamed(value) for key, value in given.items()}
    for key, names in _VALUES.items():
        if isinstance(named.get(key), str):
            named[key] = names.get(named[key], named[key])
    return named


def _told_otherwise(given: Stored) -> Stored:
    """3 to 4: the words are others (0.7.0), the figures the same; `retells` says that the sentences are made again."""
    return given


def _parked(given: Stored) -> Stored:
    """4 to 5: where the machine is parked was not asked."""
    return {"parked": None} | given


def _with_intervals(given: Stored) -> Stored:
    """5 to 6: intervals follow from standard deviations, and where doubt came from was not kept."""
    inside = {"likely_l": _around(given["inside"]["litres"], given["inside"]["sd_l"])} | given["inside"]
    flush = given["flush"]
    if flush:
        ends = _around(flush["finished_old_percent"], flush["finished_sd_percent"])
        flush = {"finished_likely_percent": ends} | flush
    capacity = sum(vessel["volume_l"] for vessel in given["vessels"])
    return {"mix_capacity_l": capacity, "how_sure": []} | given | {"inside": inside, "flush": flush}


def _around(value: float, sd: float) -> dict[str, float]:
    return {"low": max(0.0, value - Z95 * sd), "high": value + Z95 * sd}


def _undosed(given: Stored) -> Stored:
    """6 to 7: no account of the inhibitors was kept, no additive dosed."""
    return {"inhibitor": [], "dose": None} | given


_STEPS: tuple[Callable[[Stored], Stored], ...] = (
    _kept_since,
    _renamed,
    _told_otherwise,
    _parked,
    _with_intervals,
    _undosed,
)


def state_then(result: Stored | None) -> Stored:
    """The state that was stored at a sign-off, in today's schema."""
    if result is None:
        raise ValueError("nothing is stored of a job that is still in work")
    state: Stored = result["state"]
    for step in _STEPS[result.get("schema", 1) - 1 :]:
        state = step(state)
    return state


def retells(result: Stored) -> bool:
    """Whether what was stored is told in words of before."""
    return int(result.get("schema", 1)) < SAID_AS_TODAY


def job_type_of(stored: str | None) -> JobType | None:
    """The type of a signed job by the name it was stored with, today's or an older one."""
    return JobType(_JOB_TYPES.get(stored, stored)) if stored else None
