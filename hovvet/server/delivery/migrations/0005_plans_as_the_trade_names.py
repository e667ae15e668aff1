"""Exports are compared with their clips by what their plans say: those that are kept say it as it is said now."""

from hashlib import sha256

from django.db import migrations

from hovvet.core.errors import CoreError
from hovvet.core.plan.upgrade import read_plan
from hovvet.core.render.encoding import Encoding
from hovvet.core.render.output import Output


def forwards(apps, schema_editor):
    for row in apps.get_model("delivery", "Export").objects.all().iterator(chunk_size=50):
        try:
            plan = read_plan(row.plan)
        except (CoreError, ValueError):
            continue  # of a release before exports were compared
        output, encoding = Output.model_validate(row.output_json), Encoding(**row.encoding_json)
        told = f"{plan.digest} {output.model_dump_json()} {encoding}"
        row.plan, row.digest = plan.model_dump(mode="json"), sha256(told.encode()).hexdigest()
        row.save(update_fields=["plan", "digest"])


class Migration(migrations.Migration):
    dependencies = [("delivery", "0004_compared")]
    operations = [migrations.RunPython(forwards, migrations.RunPython.noop)]
