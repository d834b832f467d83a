"""Every entry carries the hash of the one before it in its loop's record; what is recorded already is chained."""

import django.db.models.deletion
from django.db import migrations, models


def chained(apps, schema_editor):
    """For the first time."""
    from jobs.chain import rechain

    rechain(apps, "records chained for the first time")


class Migration(migrations.Migration):
    dependencies = [("fleet", "0006_electronics_use"), ("jobs", "0012_appointment")]
    operations = [
        migrations.CreateModel(
            name="LedgerHead",
            fields=[
                (
                    "loop",
                    models.OneToOneField(
                        on_delete=django.db.models.deletion.PROTECT,
                        primary_key=True,
                        related_name="ledger_head",
                        serialize=False,
                        to="fleet.loop",
                    ),
                ),
                ("seq", models.PositiveIntegerField()),
                ("hash", models.CharField(blank=True, max_length=64)),
            ],
        ),
        migrations.CreateModel(
            name="Rechained",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("at", models.DateTimeField(auto_now_add=True)),
                ("reason", models.CharField(max_length=200)),
                ("loops", models.PositiveIntegerField()),
                ("heads", models.JSONField(help_text="loop -> number and hash of its last entry, before")),
            ],
        ),
        migrations.AddField("entry", "before", models.CharField(blank=True, max_length=64)),
        migrations.RunPython(chained, migrations.RunPython.noop),
    ]
