import json
from hashlib import sha256

from django.db import migrations, models


def fingerprint(apps, _schema_editor):
    """Give every export the fingerprint of its plan; of several of one plan the newest is kept."""
    seen = set()
    for row in apps.get_model("delivery", "Export").objects.order_by("-created"):
        row.digest = sha256(json.dumps(row.plan, separators=(",", ":")).encode()).hexdigest()
        key = (row.document_id, row.outlet, row.digest)
        if key in seen:
            row.delete()
        else:
            row.save(update_fields=["digest"])
        seen.add(key)


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0001_initial"),
        ("clips", "0003_small_history"),
        ("delivery", "0001_initial"),
    ]

    operations = [
        migrations.AddField("export", "digest", models.CharField(default="", max_length=64)),
        migrations.RunPython(fingerprint, migrations.RunPython.noop),
        migrations.AddConstraint(
            "export",
            models.UniqueConstraint(fields=("document", "outlet", "digest"), name="one_export_of_a_plan"),
        ),
    ]
