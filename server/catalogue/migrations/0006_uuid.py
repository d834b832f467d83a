"""Products, additives and waters are known by a UUID outside the database."""

import uuid

from django.db import migrations, models


def give_each_one(apps, schema_editor):
    """A UUID for every row that the client gave none."""
    for name in ('product', 'agent', 'watersource'):
        model = apps.get_model("catalogue", name)
        for row in model.objects.filter(uuid=None).iterator():
            row.uuid = uuid.uuid4()
            row.save(update_fields=["uuid"])


def known_by():
    """The field as it is from here on."""
    said = "what it is known by outside the database"
    return models.UUIDField(default=uuid.uuid4, unique=True, editable=False, help_text=said)


class Migration(migrations.Migration):
    dependencies = [("catalogue", "0005_product_glycol_stated_product_label_entered")]

    operations = [
        migrations.RenameField("product", "added_as", "uuid"),
        migrations.RenameField("agent", "added_as", "uuid"),
        migrations.RenameField("watersource", "added_as", "uuid"),
        migrations.RunPython(give_each_one, migrations.RunPython.noop),
        migrations.AlterField("product", "uuid", known_by()),
        migrations.AlterField("agent", "uuid", known_by()),
        migrations.AlterField("watersource", "uuid", known_by()),
    ]
