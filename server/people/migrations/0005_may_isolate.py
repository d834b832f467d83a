"""Who may isolate high voltage, until when: nobody until a lead says so."""

from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [("people", "0004_firstruncode")]

    operations = [
        migrations.AddField(
            "person",
            "may_isolate_until",
            models.DateField(null=True, blank=True, help_text="high voltage; the last day, set by a lead"),
        ),
        migrations.AlterField(
            "personchange",
            "what",
            models.CharField(
                max_length=20,
                choices=[
                    ("added", "Added"),
                    ("renamed", "Renamed"),
                    ("role", "Role"),
                    ("disabled", "Disabled"),
                    ("enabled", "Enabled"),
                    ("password_reset", "Password Reset"),
                    ("password_changed", "Password Changed"),
                    ("signed_out", "Signed Out"),
                    ("token_made", "Token Made"),
                    ("isolates", "Isolates"),
                    ("token_revoked", "Token Revoked"),
                ],
            ),
        ),
    ]
