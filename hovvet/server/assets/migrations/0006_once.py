from django.db import migrations, models


def told_apart(apps, _schema_editor):
    """What a file and an item is was noted among what was found in it; what is there twice keeps that once."""
    known = set()
    for row in apps.get_model("assets", "Asset").objects.order_by("created"):
        for name, scope in (("digest", row.kind), ("stock", "")):
            value = row.info_json.pop(name, "") or ""
            if value and (row.workspace_id, scope, value) not in known:
                setattr(row, name, value)
                known.add((row.workspace_id, scope, value))
        row.save(update_fields=["digest", "stock", "info_json"])


class Migration(migrations.Migration):
    dependencies = [
        ("assets", "0005_sounds"),
    ]

    operations = [
        migrations.AddField("asset", "digest", models.CharField(default="", max_length=64)),
        migrations.AddField("asset", "stock", models.CharField(default="", max_length=80)),
        migrations.RunPython(told_apart, migrations.RunPython.noop),
        migrations.AddConstraint(
            "asset",
            models.UniqueConstraint(
                fields=["workspace", "kind", "digest"], condition=~models.Q(digest=""), name="one_asset_of_a_file"
            ),
        ),
        migrations.AddConstraint(
            "asset",
            models.UniqueConstraint(
                fields=["workspace", "stock"], condition=~models.Q(stock=""), name="one_asset_of_an_item"
            ),
        ),
    ]
