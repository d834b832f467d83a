"""What a signed job hands on is called so."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [("jobs", "0010_names_of_the_field")]
    operations = [migrations.RenameField("jobloop", "carried", "handed_on")]
