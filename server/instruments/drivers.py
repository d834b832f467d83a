"""Instruments that read by themselves: a small interface that a real one can implement, and one over a line.

A driver answers one question: what do you read now? It is asked with an id. Asked again with the same id, after a line that
dropped, it gives the same reading again instead of a new one, so nothing is lost and nothing is read twice. How to write one
for a real instrument stands in docs/readings.md.
"""

from __future__ import annotations

import json
import socket
from dataclasses import dataclass
from typing import Any, Protocol

from temper_core.basis.errors import Conflict

TIMEOUT_S = 4.0
MOST_BYTES = 4096


@dataclass(frozen=True, slots=True)
class Measured:
    """One reading: in the unit of the instrument's scale, and the sample's temperature as the instrument felt it [degC]."""

    value: float
    sample_c: float


class Driver(Protocol):
    """What reads an instrument."""

    def measure(self, request_id: str) -> Measured:
        """Read now, or give again what was read for this id.

        Raises Conflict: not_there (nobody answers), line_dropped (it stopped in the middle), no_sample (nothing on the
        prism), not_understood (it answered what no instrument of this kind says).
        """
        ...


@dataclass(frozen=True, slots=True)
class LineDriver:
    """JSON lines over TCP: {"do": "measure", "id": ...} is answered by {"id", "value", "sample_c"} or {"id", "error"}."""

    host: str
    port: int

    def measure(self, request_id: str) -> Measured:
        """See Driver."""
        answer = self.ask({"do": "measure", "id": request_id})
        if answer.get("error") == "no_sample":
            raise Conflict("id", "No sample on the prism. Put two or three drops on it, then read again.", "no_sample")
        try:
            if answer["id"] != request_id:
                raise ValueError("another reading")
            return Measured(float(answer["value"]), float(answer["sample_c"]))
        except (KeyError, TypeError, ValueError):
            raise Conflict("id", "The instrument sent no reading. Switch it off and on.", "not_understood") from None

    def ask(self, question: dict[str, Any]) -> dict[str, Any]:
        """One line there, one line back. Raises Conflict (not_there, line_dropped, not_understood)."""
        try:
            line = socket.create_connection((self.host, self.port), TIMEOUT_S)
        except OSError:
            message = "The instrument does not answer. Check power and cable, or type what it shows."
            raise Conflict("id", message, "not_there") from None
        with line:
            try:
                line.sendall(json.dumps(question).encode() + b"\n")
                with line.makefile("rb") as lines:
                    got = lines.readline(MOST_BYTES)
            except OSError:
                got = b""
        if not got.endswith(b"\n"):
            message = "The connection broke. The instrument kept the reading: read again."
            raise Conflict("id", message, "line_dropped")
        try:
            answer = json.loads(got)
        except ValueError:
            answer = None
        if not isinstance(answer, dict):
            raise Conflict("id", "The instrument sent no reading. Switch it off and on.", "not_understood")
        return answer


def driver_of(address: str) -> LineDriver:
    """The driver at host:port; the address was checked when it was entered."""
    host, _, port = address.rpartition(":")
    return LineDriver(host.strip("[]"), int(port))
