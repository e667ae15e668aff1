"""The job that suggests who speaks when."""

from hovvet.core.media.wav import open_wav
from hovvet.core.words.corrections import SuggestSpeakers
from hovvet.core.words.speakers import suggest_speakers
from hovvet.server.documents.changing import correct_now
from hovvet.server.documents.transcripts import transcript_of
from hovvet.server.jobs.running import Report, handles
from hovvet.server.recordings.models import Recording

SPEAKERS = "speakers"


@handles(SPEAKERS, priority=5)
def suggest(report: Report) -> None:
    """Suggest who speaks when; what a person has set by hand stays."""
    recording = Recording.objects.get(pk=report.target)
    report.stage("Listening to the voices", 0, 1)
    transcript = transcript_of(recording)
    sound = open_wav(recording.folder / "speech.wav")
    turns = suggest_speakers(sound, transcript.words, report.job.wanted["count"], report)
    correct_now(recording, SuggestSpeakers(turns=tuple(turns)), report.job.wanted.get("by"))
