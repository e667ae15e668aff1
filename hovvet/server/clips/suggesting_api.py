"""What could be seen while something is said, over HTTP."""

import uuid
from typing import Literal

from django.http import HttpRequest
from ninja import Router

from hovvet.core.plan.model import PlanWord
from hovvet.core.sheet.model import WordRef
from hovvet.server.accounts.access import find
from hovvet.server.assets.api import AssetOut, asset_out
from hovvet.server.assets.models import Asset
from hovvet.server.assets.stock_api import StockItemOut, stock_out
from hovvet.server.clips.suggesting import suggestions_at_cuts, suggestions_for
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import documents, opened
from hovvet.server.schema import Schema

router = Router(tags=["documents"])


class SuggestionOut(Schema):
    """Words of a clip, when they are said (seconds of the output), whether a picture lies over some of them already, and
    up to three things that could. ``shot``: where they hide a cut, the words from there to the next cut."""

    first: WordRef
    last: WordRef
    text: str
    start: float
    end: float
    covered: bool
    things: list[AssetOut | StockItemOut]
    shot: tuple[WordRef, WordRef] | None


@router.get("/{document_id}/suggestions", response=list[SuggestionOut])
def list_suggestions(
    request: HttpRequest, document_id: uuid.UUID, edition: str | None = None, over: Literal["words", "cuts"] = "words"
) -> list[SuggestionOut]:
    """What could be seen while the words of a clip are said, stretch by stretch; or only over its cuts. Nothing is laid."""
    document = find(request, documents().filter(kind=Document.Kind.CLIP), pk=document_id)
    now = opened(document, edition)
    return [
        SuggestionOut(
            first=_ref(each.first),
            last=_ref(each.last),
            text=each.text,
            start=each.first.start,
            end=each.last.end,
            covered=each.covered,
            things=[asset_out(thing) if isinstance(thing, Asset) else stock_out(thing) for thing in each.things],
            shot=(_ref(each.shot[0]), _ref(each.shot[1])) if each.shot else None,
        )
        for each in (suggestions_at_cuts(now) if over == "cuts" else suggestions_for(now))
    ]


def _ref(word: PlanWord) -> WordRef:
    return WordRef(origin=word.origin, word=word.id)
