"""Documents, and outlets of one's own, have an app of their own."""

import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models

import hovvet.server.documents.written


class Migration(migrations.Migration):
    initial = True

    dependencies = [
        ("accounts", "0001_initial"),
        ("recordings", "0010_own_language"),
        ("clips", "0008_written"),
        migrations.swappable_dependency(settings.AUTH_USER_MODEL),
    ]

    # Only what Django knows of it changes: the tables are where they were.
    operations = [
        migrations.SeparateDatabaseAndState(
            state_operations=[
                migrations.CreateModel(
                    name="CustomOutlet",
                    fields=[
                        ("id", models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        ("outlet_json", models.JSONField()),
                        ("created", models.DateTimeField(auto_now_add=True)),
                        (
                            "workspace",
                            models.ForeignKey(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="outlets",
                                to="accounts.workspace",
                            ),
                        ),
                    ],
                    options={
                        "db_table": "clips_customoutlet",
                        "ordering": ["created"],
                    },
                ),
                migrations.CreateModel(
                    name="Document",
                    fields=[
                        ("id", models.UUIDField(default=uuid.uuid4, editable=False, primary_key=True, serialize=False)),
                        ("kind", models.CharField(choices=[("desk", "Desk"), ("clip", "Clip")], max_length=8)),
                        ("title", models.CharField(max_length=200)),
                        ("version", models.PositiveIntegerField(default=1)),
                        ("listed_json", models.JSONField(encoder=hovvet.server.documents.written.Encoder, null=True)),
                        ("created", models.DateTimeField(auto_now_add=True)),
                        (
                            "recording",
                            models.ForeignKey(
                                null=True,
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="documents",
                                to="recordings.recording",
                            ),
                        ),
                        (
                            "workspace",
                            models.ForeignKey(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="documents",
                                to="accounts.workspace",
                            ),
                        ),
                    ],
                    options={
                        "verbose_name": "clip",
                        "db_table": "clips_document",
                        "ordering": ["created"],
                    },
                ),
                migrations.CreateModel(
                    name="Revision",
                    fields=[
                        (
                            "id",
                            models.BigAutoField(
                                auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                            ),
                        ),
                        ("depth", models.PositiveIntegerField(default=0)),
                        ("sheet", models.JSONField(encoder=hovvet.server.documents.written.Encoder, null=True)),
                        ("edit", models.JSONField(encoder=hovvet.server.documents.written.Encoder, null=True)),
                        ("created", models.DateTimeField(auto_now_add=True)),
                        (
                            "author",
                            models.ForeignKey(
                                null=True, on_delete=django.db.models.deletion.SET_NULL, to=settings.AUTH_USER_MODEL
                            ),
                        ),
                        (
                            "corrected",
                            models.ForeignKey(
                                null=True,
                                on_delete=django.db.models.deletion.SET_NULL,
                                related_name="+",
                                to="documents.revision",
                            ),
                        ),
                        (
                            "document",
                            models.ForeignKey(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="revisions",
                                to="documents.document",
                            ),
                        ),
                        (
                            "parent",
                            models.ForeignKey(
                                null=True,
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="children",
                                to="documents.revision",
                            ),
                        ),
                    ],
                    options={
                        "db_table": "clips_revision",
                        "ordering": ["pk"],
                    },
                ),
                migrations.AddField(
                    model_name="document",
                    name="head",
                    field=models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.SET_NULL,
                        related_name="+",
                        to="documents.revision",
                    ),
                ),
                migrations.CreateModel(
                    name="DocumentSource",
                    fields=[
                        (
                            "id",
                            models.BigAutoField(
                                auto_created=True, primary_key=True, serialize=False, verbose_name="ID"
                            ),
                        ),
                        (
                            "document",
                            models.ForeignKey(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="sources",
                                to="documents.document",
                            ),
                        ),
                        (
                            "recording",
                            models.ForeignKey(
                                on_delete=django.db.models.deletion.CASCADE,
                                related_name="shown_in",
                                to="recordings.recording",
                            ),
                        ),
                    ],
                    options={
                        "db_table": "clips_documentsource",
                        "ordering": ["pk"],
                        "constraints": [
                            models.UniqueConstraint(fields=("document", "recording"), name="one_source_of_a_recording")
                        ],
                    },
                ),
                migrations.AddConstraint(
                    model_name="document",
                    constraint=models.UniqueConstraint(
                        condition=models.Q(("kind", "desk")), fields=("recording",), name="one_desk"
                    ),
                ),
                migrations.AddConstraint(
                    model_name="document",
                    constraint=models.CheckConstraint(
                        condition=models.Q(
                            models.Q(("kind", "desk"), ("recording__isnull", False)),
                            models.Q(("kind", "clip"), ("recording__isnull", True)),
                            _connector="OR",
                        ),
                        name="only_a_desk_is_a_recordings_own",
                    ),
                ),
            ],
        ),
    ]
