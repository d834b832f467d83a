"""A stand-in for a weather service: its own small process, one night's low as JSON over HTTP on loopback.

GET /night?night=2026-11-30 answers {"night": "2026-11-30", "low_c": -12.0, "station": "..."}; see docs/weather.md.
"""

from __future__ import annotations

import argparse
import json
import math
from datetime import date
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from urllib.parse import parse_qs, urlsplit

PORT = 8772
STATION = "simulated station, made-up weather"
COLDEST_DAY, MEAN_C, SWING_C, WEEKLY_C = 20, -1.0, 11.0, 2.0  # of the year; a made-up valley in the mountains


def low_of(night: date) -> float:
    """The low of a night [degC], the same for the same night: a year's wave with a week's on it."""
    year = math.cos(2 * math.pi * (night.timetuple().tm_yday - COLDEST_DAY) / 365)
    return round(MEAN_C - SWING_C * year + WEEKLY_C * math.sin(2 * math.pi * night.toordinal() / 7), 1)


class Answer(BaseHTTPRequestHandler):
    """One question, one answer."""

    def do_GET(self) -> None:
        """The night that is asked for; 400 for no night."""
        asked = parse_qs(urlsplit(self.path).query).get("night", [""])[0]
        try:
            night = date.fromisoformat(asked)
        except ValueError:
            return self._send(400, {"error": "Ask for one night: ?night=2026-11-30."})
        return self._send(200, {"night": asked, "low_c": low_of(night), "station": STATION})

    def _send(self, status: int, said: dict[str, object]) -> None:
        body = json.dumps(said).encode()
        self.send_response(status)
        self.send_header("Content-Type", "application/json")
        self.send_header("Content-Length", str(len(body)))
        self.end_headers()
        self.wfile.write(body)

    def log_message(self, format: str, *args: object) -> None:  # noqa: A002
        """Quiet."""


def main() -> None:
    """Answer until stopped."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--port", type=int, default=PORT)
    ThreadingHTTPServer(("127.0.0.1", parser.parse_args().port), Answer).serve_forever()


if __name__ == "__main__":
    main()
