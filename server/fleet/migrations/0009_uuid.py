"""Machines and loops are known by a UUID outside the database."""

import uuid

from django.db import migrations, models


def give_each_one(apps, schema_editor):
    """A UUID for every row that the client gave none."""
    for name in ('machine', 'loop'):
        model = apps.get_model("fleet", name)
        for row in model.objects.filter(uuid=None).iterator():
            row.uuid = uuid.uuid4()
            row.save(update_fields=["uuid"])


def known_by():
    """The field as it is from here on."""
    said = "what it is known by outside the database"
    return models.UUIDField(default=uuid.uuid4, unique=True, editable=False, help_text=said)


class Migration(migrations.Migration):
    dependencies = [("fleet", "0008_machine_checked_at_machine_checked_by_and_more")]

    operations = [
        migrations.RenameField("machine", "added_as", "uuid"),
        migrations.RenameField("loop", "added_as", "uuid"),
        migrations.RunPython(give_each_one, migrations.RunPython.noop),
        migrations.AlterField("machine", "uuid", known_by()),
        migrations.AlterField("loop", "uuid", known_by()),
    ]
