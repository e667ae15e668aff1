"""The highest number of a version is kept, so that one of a deleted film is not given again."""

from django.db import migrations, models
from django.db.models import Max


def count(apps, _schema_editor):
    for item in apps.get_model("review", "ReviewItem").objects.annotate(newest=Max("versions__number")):
        item.highest = item.newest or 1
        item.save(update_fields=["highest"])


class Migration(migrations.Migration):
    dependencies = [("review", "0001_initial")]
    operations = [
        migrations.AddField("reviewitem", "highest", models.PositiveIntegerField(default=1)),
        migrations.RunPython(count, migrations.RunPython.noop),
    ]
