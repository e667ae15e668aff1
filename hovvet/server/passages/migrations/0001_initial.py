"""Passages have an app of their own."""

import uuid

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    initial = True

    dependencies = [
        ("recordings", "0010_own_language"),
    ]

    # Only what Django knows of it changes: the tables are where they were.
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="FoundPassage",
                    fields=[
                        ("id", models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        ("place", models.PositiveIntegerField()),
                        ("first", models.BigIntegerField()),
                        ("last", models.BigIntegerField()),
                        ("start", models.FloatField()),
                        ("end", models.FloatField()),
                        ("seconds", models.FloatField()),
                        ("strength", models.CharField(max_length=20)),
                        ("reasons_json", models.JSONField(default=list)),
                        ("warnings_json", models.JSONField(default=list)),
                        ("titles_json", models.JSONField(default=list)),
                        (
                            "state",
                            models.CharField(
                                choices=[("waiting", "Waiting"), ("made", "Made"), ("hidden", "Hidden")],
                                default="waiting",
                                max_length=10,
                            ),
                        ),
                        ("version", models.PositiveIntegerField(default=1)),
                        (
                            "recording",
                            models.ForeignKey(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="passages",
                                to="recordings.recording",
                            ),
                        ),
                    ],
                    options={
                        "db_table": "recordings_foundpassage",
                        "ordering": ["place"],
                    },
                ),
            ],
        ),
    ]
