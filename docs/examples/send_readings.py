"""A meter in the bay sends what it reads: a worked example of a program that signs in with a token.

    TEMPER_URL=https://temper.example TEMPER_TOKEN=temper-... python3 send_readings.py V-31 61.5

Looks the machine's loop up on the board, records the temperature in its job, and says what the job asks for next. Sent again
after a lost answer, the same entry is stored once: the id goes with it. Needs Python 3 and nothing else.
"""

import json
import os
import sys
import time
import urllib.error
import urllib.request
import uuid

URL, TOKEN = os.environ.get("TEMPER_URL", "http://127.0.0.1:8000"), os.environ["TEMPER_TOKEN"]


def ask(method, path, body=None, tries=5):
    """The answer as data; waits and asks again while the server is busy or away, ends with its words where it refuses."""
    request = urllib.request.Request(URL + path, method=method)
    request.add_header("Authorization", f"Bearer {TOKEN}")
    if body is not None:
        request.add_header("Content-Type", "application/json")
        request.data = json.dumps(body).encode()
    while True:
        tries -= 1
        try:
            with urllib.request.urlopen(request, timeout=30) as answer:
                return json.load(answer)
        except urllib.error.HTTPError as error:
            if error.code != 503 or not tries:
                sys.exit(f"{error.code}: {json.load(error)['message']}")
            time.sleep(float(error.headers.get("Retry-After", 2)))
        except urllib.error.URLError as error:
            if not tries:
                sys.exit(f"The server does not answer: {error.reason}")
            time.sleep(2)


def main(machine, degrees):
    """Record one temperature."""
    rows = [row for row in ask("GET", "/api/board")["strips"] if row["machine"]["fleet_number"] == machine]
    if not rows:
        sys.exit(f"{machine} has no job in work.")
    loop = rows[0]["loop_id"]
    entry = {"id": str(uuid.uuid4()), "kind": "temperature_logged", "facts": {"c": degrees}}
    bench = ask("POST", f"/api/loops/{loop}/entries", {"entries": [entry]})
    print(f"{machine}: {degrees} °C recorded, stage: {bench['state']['stage']}")


if __name__ == "__main__":
    main(sys.argv[1], float(sys.argv[2]))
