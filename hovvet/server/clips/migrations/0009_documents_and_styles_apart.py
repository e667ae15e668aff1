"""Documents and styles have apps of their own."""

from django.db import migrations


class Migration(migrations.Migration):
    dependencies = [
        ("clips", "0008_written"),
        ("documents", "0001_initial"),
        ("styles", "0001_initial"),
        ("delivery", "0006_documents_apart"),
    ]

    # Only what Django knows of it changes: the tables are where they were.
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.DeleteModel(name="Kept"),
                migrations.DeleteModel(name="CustomOutlet"),
                migrations.DeleteModel(name="DocumentSource"),
                migrations.RemoveField(model_name="document", name="head"),
                migrations.DeleteModel(name="Revision"),
                migrations.DeleteModel(name="Document"),
            ],
        ),
    ]
