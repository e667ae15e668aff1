"""Write down, for recordings that are there already, what the list says of their words and files."""

from pathlib import Path

from django.core.files.storage import default_storage
from django.db import migrations


def describe(apps, _schema_editor):
    Recording = apps.get_model("recordings", "Recording")
    for recording in Recording.objects.iterator(chunk_size=1):
        words = (recording.transcript_json or {}).get("words", [])
        recording.word_count = len(words)
        recording.speaker_names = [
            f"Speaker {key[1:]}" for key in dict.fromkeys(word.get("speaker", "S1") for word in words)
        ]
        original = Path(default_storage.path(f"recordings/{recording.pk}/original"))
        recording.size = original.stat().st_size if original.exists() else 0
        recording.save(update_fields=["word_count", "speaker_names", "size"])


class Migration(migrations.Migration):
    dependencies = [("recordings", "0002_shows")]

    operations = [migrations.RunPython(describe, migrations.RunPython.noop)]
