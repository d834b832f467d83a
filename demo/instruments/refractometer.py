"""A stand-in for a digital refractometer: its own small process, JSON lines over TCP on loopback.

It shows the refractive index at 20 degC. What lies on its prism is set by another line, since nobody can put a drop on it:
{"do": "put", "glycol_percent": 48, "propylene": false, "sample_c": 21, "noise": 0.0001, "zero_error": 0, "none": false,
"drop": false}. A reading is kept under its id until 64 newer ones came, so a line that dropped loses nothing.
"""

from __future__ import annotations

import argparse
import json
import random
import socketserver
import threading
from collections import OrderedDict
from typing import Any

from temper_core.basis.quantity import MassFraction
from temper_core.science import Glycol, refractive_index_20c

PORT = 8771
KEPT = 64
SHOWN_DIGITS = 4


class Device:
    """What lies on the prism, and the readings it has given."""

    def __init__(self, seed: int | None = None) -> None:
        self._random, self._lock = random.Random(seed), threading.Lock()
        self._given: OrderedDict[str, dict[str, Any]] = OrderedDict()
        self._drop = False
        self.put({})

    def put(self, given: dict[str, Any]) -> dict[str, Any]:
        """Lay something on the prism; what is left out is as with clean water at 20 degC."""
        with self._lock:
            self._percent = float(given.get("glycol_percent", 0.0))
            self._glycol = Glycol.PROPYLENE if given.get("propylene") else Glycol.ETHYLENE
            self._sample_c = float(given.get("sample_c", 20.0))
            self._noise, self._zero_error = float(given.get("noise", 0.0)), float(given.get("zero_error", 0.0))
            self._none, self._drop = bool(given.get("none")), bool(given.get("drop"))
        return {"ok": True}

    def measure(self, request_id: str) -> tuple[dict[str, Any], bool]:
        """A reading, the same again for the same id; and whether the line drops before it is out."""
        with self._lock:
            drops, self._drop = self._drop, False
            if request_id not in self._given:
                if self._none:
                    return {"id": request_id, "error": "no_sample"}, drops
                index = refractive_index_20c(self._glycol, MassFraction(self._percent / 100))
                value = index + self._zero_error + self._random.gauss(0.0, self._noise)
                self._given[request_id] = {
                    "id": request_id,
                    "value": round(value, SHOWN_DIGITS),
                    "sample_c": self._sample_c,
                }
                while len(self._given) > KEPT:
                    self._given.popitem(last=False)
            return self._given[request_id], drops


class Server(socketserver.ThreadingTCPServer):
    """The line to it; loopback only."""

    allow_reuse_address, daemon_threads = True, True

    def __init__(self, port: int, device: Device | None = None) -> None:
        self.device = device or Device()
        super().__init__(("127.0.0.1", port), Line)


class Line(socketserver.StreamRequestHandler):
    """One connection: questions in, answers out, a line each."""

    server: Server

    def handle(self) -> None:
        """Until the other side hangs up, or the line is to drop."""
        for raw in self.rfile:
            answer, drops = self._answer(raw)
            said = json.dumps(answer).encode() + b"\n"
            if drops:
                self.wfile.write(said[: len(said) // 2])
                return
            self.wfile.write(said)

    def _answer(self, raw: bytes) -> tuple[dict[str, Any], bool]:
        try:
            given = json.loads(raw)
            match given["do"]:
                case "measure":
                    return self.server.device.measure(str(given["id"]))
                case "put":
                    return self.server.device.put(given), False
            return {"error": "unknown", "knows": ["measure", "put"]}, False
        except (ValueError, TypeError, KeyError) as error:
            return {"error": "not_understood", "message": str(error)}, False


def main() -> None:
    """Serve until stopped."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--port", type=int, default=PORT, help=f"port on loopback ({PORT})")
    with Server(parser.parse_args().port) as server:
        server.serve_forever()


if __name__ == "__main__":
    main()
