"""Passages have an app of their own."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("recordings", "0010_own_language"),
        ("passages", "0001_initial"),
    ]

    # Only what Django knows of it changes: the tables are where they were.
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel(
                    name="FoundPassage",
                ),
            ],
        ),
    ]
