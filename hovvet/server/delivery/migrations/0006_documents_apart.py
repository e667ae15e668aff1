"""Documents have an app of their own."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("delivery", "0005_plans_as_the_trade_names"),
        ("documents", "0001_initial"),
    ]

    # Only what Django knows of it changes: the tables are where they were.
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.AlterField(
                    model_name="export",
                    name="document",
                    field=models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="exports", to="documents.document"
                    ),
                ),
            ],
        ),
    ]
