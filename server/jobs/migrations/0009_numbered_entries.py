"""Entries get their number in the loop's ledger, and what was sent; kinds are the core's; signed jobs are judged again."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


def number(apps, schema_editor):
    """In the order they were recorded."""
    Entry = apps.get_model("jobs", "Entry")
    last, batch = {}, []
    for entry in Entry.objects.order_by("loop_id", "recorded_at", "id").only("id", "loop_id").iterator():
        last[entry.loop_id] = entry.seq = last.get(entry.loop_id, 0) + 1
        batch.append(entry)
        if len(batch) >= 500:
            Entry.objects.bulk_update(batch, ["seq"])
            batch = []
    Entry.objects.bulk_update(batch, ["seq"])


class Migration(migrations.Migration):
    dependencies = [("jobs", "0008_log"), migrations.swappable_dependency(settings.AUTH_USER_MODEL)]
    operations = [
        migrations.AlterModelOptions(name="entry", options={}),
        migrations.AlterField("entry", "kind", models.CharField(max_length=24)),
        migrations.AddField("entry", "sent", models.CharField(blank=True, default="", max_length=64), preserve_default=False),
        migrations.AddField("entry", "seq", models.PositiveIntegerField(default=0), preserve_default=False),
        migrations.RunPython(number, migrations.RunPython.noop),
        migrations.AlterModelOptions(name="entry", options={"ordering": ["happened_at", "seq"]}),
        migrations.AddConstraint(
            "entry", models.UniqueConstraint(fields=("loop", "seq"), name="entry_number_once_per_loop")
        ),
        migrations.CreateModel(
            name="Rejudged",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("code", models.CharField(max_length=24)),
                ("said", models.JSONField(help_text="what is worse, and why")),
                ("act", models.JSONField(help_text="what to do next")),
                ("found_at", models.DateTimeField(auto_now_add=True)),
                ("answer", models.CharField(blank=True, max_length=300)),
                ("answered_at", models.DateTimeField(null=True)),
                (
                    "answered_by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "part",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="rejudged", to="jobs.jobloop"
                    ),
                ),
            ],
            options={
                "constraints": [models.UniqueConstraint(fields=("part", "code"), name="judged_again_once")],
            },
        ),
    ]
