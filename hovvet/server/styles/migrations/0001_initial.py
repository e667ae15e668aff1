"""Settings that are kept under a name have an app of their own."""

import uuid

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True

    dependencies = [
        ("accounts", "0001_initial"),
        ("clips", "0008_written"),
    ]

    # Only what Django knows of it changes: the tables are where they were.
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="NamedSettings",
                    fields=[
                        ("id", models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        (
                            "kind",
                            models.CharField(
                                choices=[("style", "Style"), ("look", "Look"), ("house", "House")], max_length=8
                            ),
                        ),
                        ("name", models.CharField(max_length=60)),
                        ("settings_json", models.JSONField()),
                        ("version", models.PositiveIntegerField(default=1)),
                        ("created", models.DateTimeField(auto_now_add=True)),
                        (
                            "workspace",
                            models.ForeignKey(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="named_settings",
                                to="accounts.workspace",
                            ),
                        ),
                    ],
                    options={
                        "db_table": "clips_kept",
                        "ordering": ["created"],
                    },
                ),
            ],
        ),
    ]
