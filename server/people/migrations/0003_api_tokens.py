"""Programs get tokens of their own; what is done with them stands in the account's log."""

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):

    dependencies = [
        ('people', '0002_accounts'),
    ]

    operations = [
        migrations.AlterField(
            model_name='personchange',
            name='what',
            field=models.CharField(choices=[('added', 'Added'), ('renamed', 'Renamed'), ('role', 'Role'), ('disabled', 'Disabled'), ('enabled', 'Enabled'), ('password_reset', 'Password Reset'), ('password_changed', 'Password Changed'), ('signed_out', 'Signed Out'), ('token_made', 'Token Made'), ('token_revoked', 'Token Revoked')], max_length=20),
        ),
        migrations.CreateModel(
            name='ApiToken',
            fields=[
                ('digest', models.CharField(max_length=128, primary_key=True, serialize=False)),
                ('token_key', models.CharField(db_index=True, max_length=25)),
                ('created', models.DateTimeField(auto_now_add=True)),
                ('expiry', models.DateTimeField(blank=True, null=True)),
                ('name', models.CharField(help_text='which program it is for', max_length=60)),
                ('reads_only', models.BooleanField(default=True)),
                ('used_at', models.DateTimeField(help_text='last, within a few minutes', null=True)),
                ('user', models.ForeignKey(on_delete=django.db.models.deletion.CASCADE, related_name='auth_token_set', to=settings.AUTH_USER_MODEL)),
            ],
            options={
                'ordering': ['-created'],
            },
        ),
    ]
