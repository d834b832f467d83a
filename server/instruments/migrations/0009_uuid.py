"""Instruments are known by a UUID outside the database."""

import uuid

from django.db import migrations, models


def give_each_one(apps, schema_editor):
    """A UUID for every row that the client gave none."""
    for name in ("instrument",):
        model = apps.get_model("instruments", name)
        for row in model.objects.filter(uuid=None).iterator():
            row.uuid = uuid.uuid4()
            row.save(update_fields=["uuid"])


def known_by():
    """The field as it is from here on."""
    said = "what it is known by outside the database"
    return models.UUIDField(default=uuid.uuid4, unique=True, editable=False, help_text=said)


class Migration(migrations.Migration):
    dependencies = [("instruments", "0008_bias")]

    operations = [
        migrations.RenameField("instrument", "added_as", "uuid"),
        migrations.RunPython(give_each_one, migrations.RunPython.noop),
        migrations.AlterField("instrument", "uuid", known_by()),
    ]
