"""What the list of recordings says of their words."""

from hovvet.core.words.transcript import Transcript
from hovvet.server.recordings.models import Recording


def describe_words(recording: Recording, transcript: Transcript) -> None:
    """Write down how many words there are and who speaks."""
    speakers = [transcript.speaker_name(key) for key in transcript.speaker_keys]
    Recording.objects.filter(pk=recording.pk).update(word_count=len(transcript.words), speaker_names=speakers)
