from django.db import migrations, models


def one_of_each(apps, _schema_editor):
    """What was queued twice is done once: the older row is given up."""
    known = set()
    jobs = apps.get_model("jobs", "Job").objects.filter(state__in=("queued", "running"), cancel_requested=False)
    for job in jobs.order_by("-created"):
        if (job.kind, job.target) in known:
            job.state = "cancelled"
            job.save(update_fields=["state"])
        known.add((job.kind, job.target))


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0001_initial"),
        ("jobs", "0004_after_another"),
    ]

    operations = [
        migrations.CreateModel(
            name="Turn",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("name", models.CharField(max_length=40, unique=True)),
                ("until", models.DateTimeField()),
            ],
        ),
        migrations.RunPython(one_of_each, migrations.RunPython.noop),
        migrations.AddConstraint(
            model_name="job",
            constraint=models.UniqueConstraint(
                condition=models.Q(("cancel_requested", False), ("state__in", ("queued", "running"))),
                fields=("kind", "target"),
                name="one_active_job",
            ),
        ),
    ]
