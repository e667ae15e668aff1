"""What the page needs to know of the core, once, at its start: choices, limits, palettes, thresholds, defaults."""

from django.conf import settings
from django.http import HttpRequest
from ninja import Router, Schema

from hovvet.core.captions.style import FALLBACK_FILE, STYLES
from hovvet.core.media.peaks import PEAKS_PER_SECOND
from hovvet.core.media.working import THUMBS_ACROSS, THUMBS_DOWN
from hovvet.core.plan.outlets import OUTLETS, Outlet
from hovvet.core.sweep.finds import FindKind
from hovvet.core.sweep.settings import DEFAULT_KINDS
from hovvet.core.words.languages import LANGUAGES
from hovvet.core.words.speakers import MOST_SPEAKERS
from hovvet.core.words.transcript import COLOURS, DOUBTFUL, SPOKEN_FOR

router = Router(tags=["choices"])


class Choices(Schema):
    """``fonts`` are the files that captions need; ``doubtful`` the confidence under which a word is to be looked at;
    ``spoken_for`` how many seconds after its end a word is still the one that is heard."""

    outlets: list[Outlet]
    captions: dict[str, str]
    fonts: list[str]
    languages: dict[str, str]
    speaker_colours: list[str]
    most_speakers: int
    doubtful: float
    spoken_for: float
    peaks_per_second: int
    thumbs_across: int
    thumbs_down: int
    sweep_kinds: list[FindKind]
    upload_hours: int


@router.get("", response=Choices)
def choices(request: HttpRequest) -> Choices:
    """All that does not change while the server runs."""
    return Choices(
        outlets=list(OUTLETS.values()),
        captions={style.key: style.name for style in STYLES.values()},
        fonts=[*(style.file for style in STYLES.values()), FALLBACK_FILE],
        languages=LANGUAGES,
        speaker_colours=list(COLOURS),
        most_speakers=MOST_SPEAKERS,
        doubtful=DOUBTFUL,
        spoken_for=SPOKEN_FOR,
        peaks_per_second=PEAKS_PER_SECOND,
        thumbs_across=THUMBS_ACROSS,
        thumbs_down=THUMBS_DOWN,
        sweep_kinds=list(DEFAULT_KINDS),
        upload_hours=settings.UPLOAD_HOURS,
    )
