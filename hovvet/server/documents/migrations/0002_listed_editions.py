"""What lists show of a clip is worked out anew: its editions are part of it now."""

from django.db import migrations


def forget(apps, _schema_editor):
    apps.get_model("documents", "Document").objects.filter(kind="clip").update(listed_json=None)


class Migration(migrations.Migration):
    dependencies = [("documents", "0001_initial")]
    operations = [migrations.RunPython(forget, migrations.RunPython.noop)]
