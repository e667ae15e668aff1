"""What caption styles look like, over HTTP."""

from typing import Annotated

from django.http import HttpRequest, HttpResponse
from ninja import Query, Router

from hovvet.core.captions.style import caption_style
from hovvet.core.render.sample import style_sample

router = Router(tags=["captions"])

_DAY = 86_400  # seconds
_MOST_WORDS = 8


@router.get("/styles/{style}/sample", response={200: None})
def sample(request: HttpRequest, style: str, text: Annotated[str, Query(min_length=1, max_length=160)]) -> HttpResponse:
    """A picture (PNG, 480 x 240) of words set in a style, the last of them being spoken; no more than the first eight."""
    words = text.split()[:_MOST_WORDS] or ["…"]
    answer = HttpResponse(style_sample(caption_style(style), words), content_type="image/png")
    answer["Cache-Control"] = f"private, max-age={_DAY}"
    return answer
