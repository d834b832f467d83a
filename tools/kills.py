"""Kill a writing process again and again with SIGKILL: is every acknowledged entry there, once, and is the record whole?

`TEMPER_DATA=FOLDER python -m tools.kills COUNT`: FOLDER has a depot, COUNT kills. Prints what it found; exit 1 where an
acknowledged entry is lost or twice, or the record is broken.
"""

from __future__ import annotations

import os
import random
import signal
import sys
import time
import uuid
from itertools import count

import django

LONGEST_S = 0.08  # how long a writer lives at most after its first answer


def key_of(loop_id: int, number: int) -> uuid.UUID:
    """The id of a writer's entry."""
    return uuid.uuid5(uuid.NAMESPACE_OID, f"{loop_id} {number}")


def write_on(loop_id: int, start: int, out: int) -> None:
    """Record one entry after the other, and say each number once it is acknowledged; until killed."""
    from fleet.models import Loop
    from jobs.actions import record_entries
    from jobs.entry_schemas import EntriesIn
    from people.models import Person

    loop = Loop.objects.select_related("machine__depot").get(pk=loop_id)
    ines = Person.objects.get(username="ines")
    for number in count(start):
        entry = {"id": str(key_of(loop_id, number)), "kind": "temperature_logged", "facts": {"c": 20.0 + number % 50}}
        record_entries(loop, EntriesIn.model_validate({"entries": [entry]}), actor=ines)
        os.write(out, f"{number}\n".encode())


def killed_writer(loop_id: int, start: int, lives_s: float) -> list[int]:
    """Numbers that a writer acknowledged before it was killed; it is killed so long after its first one."""
    reading, writing = os.pipe()
    pid = os.fork()
    if pid == 0:
        os.close(reading)
        try:
            write_on(loop_id, start, writing)
        finally:
            os._exit(1)
    os.close(writing)
    said = os.read(reading, 65536)
    time.sleep(lives_s)
    os.kill(pid, signal.SIGKILL)
    while more := os.read(reading, 65536):
        said += more
    os.close(reading)
    os.waitpid(pid, 0)
    return [int(word) for word in said.split()]


def main(kills: int) -> int:
    """Say what was found."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "config.settings")
    django.setup()
    from backups.verify import verify
    from django.db import connections

    from jobs.models import Entry, JobLoop

    loops = list(JobLoop.objects.filter(signed_at__isnull=True).order_by("loop_id").values_list("loop_id", flat=True))
    connections.close_all()  # no child shares it
    rng = random.Random(kills)
    acknowledged: list[uuid.UUID] = []
    numbers = dict.fromkeys(loops, 0)
    for kill in range(kills):
        loop_id = loops[kill % len(loops)]
        said = killed_writer(loop_id, numbers[loop_id], rng.uniform(0, LONGEST_S))
        acknowledged += [key_of(loop_id, n) for n in said]
        # one may be stored that nobody was told of: it keeps its number
        numbers[loop_id] = max([numbers[loop_id], *(n + 1 for n in said)]) + 1
    ours = [key_of(loop_id, n) for loop_id, many in numbers.items() for n in range(many)]
    kept: list[uuid.UUID] = []
    for n in range(0, len(ours), 500):
        kept += Entry.objects.filter(pk__in=ours[n : n + 500]).values_list("pk", flat=True)
    there = set(kept)
    lost = [key for key in acknowledged if key not in there]
    twice = len(kept) - len(there)
    report = verify()
    print(
        f"kills {kills}, acknowledged {len(acknowledged)}, lost {len(lost)}, twice {twice}, "
        f"stored without an answer {len(kept) - len(acknowledged) + len(lost)}, problems {len(report.problems)}"
    )
    for said_wrong in report.problems:
        print(f"wrong: {said_wrong}")
    return 1 if lost or twice or report.problems or len(acknowledged) < kills else 0


if __name__ == "__main__":
    raise SystemExit(main(int(sys.argv[1])))
