"""Rinses once stood as a number in the drain entry; each becomes the round it was: fill, hot run, drain."""

import uuid
from datetime import timedelta

from django.db import migrations


def told_as_rounds(apps, schema_editor):
    """A drain with rinses n is followed by n rounds with the same litres out, and by the word that it was enough."""
    Entry = apps.get_model("jobs", "Entry")
    for drain in Entry.objects.filter(kind="drained"):
        rinses = drain.facts.pop("rinses", None)
        if rinses is None:
            continue
        drain.save(update_fields=["facts"])
        rows = []
        for _ in range(int(rinses)):
            rows += [
                ("round_filled", {"method": "fill_run_drain", "water": "demineralised"}),
                ("engine_run", {"by": "engine", "opened": True, "heater_full": True}),
                ("drained", drain.facts),
            ]
        if rinses:
            rows.append(("flush_ended", {"reason": "rounds told with the drain"}))
        for n, (kind, facts) in enumerate(rows, 1):
            later = timedelta(microseconds=n)
            Entry.objects.create(
                id=uuid.uuid5(drain.id, f"{kind} {n}"),
                loop=drain.loop,
                job=drain.job,
                kind=kind,
                facts=facts,
                happened_at=drain.happened_at + later,
                recorded_at=drain.recorded_at + later,
                person=drain.person,
            )


class Migration(migrations.Migration):
    dependencies = [("jobs", "0004_flush_kept")]
    operations = [migrations.RunPython(told_as_rounds, migrations.RunPython.noop)]
