"""Making share pages, and what is known of one."""

import logging
from xml.sax.saxutils import escape, quoteattr

from django.db import IntegrityError, transaction
from django.http import HttpRequest

from hovvet.core.errors import CoreError
from hovvet.core.media.checked import published
from hovvet.core.plan.model import Plan
from hovvet.core.plan.upgrade import read_plan
from hovvet.server.changing import change_row
from hovvet.server.delivery.covers import cover_of, picture_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import opened
from hovvet.server.problems import Problem
from hovvet.server.review.reviewing import newest_export
from hovvet.server.share.models import SharePage

logger = logging.getLogger("hovvet.share")
COVER_LINES = 720  # of its shorter side
SMALLEST_FRAME, LARGEST_FRAME = 64, 4_096  # pixels of an embedded player
_USUAL_SIDE = 640  # pixels of its longer side, unless somebody asks for another


def make_page(document: Document, edition: str) -> SharePage:
    """A private page of the newest film of an edition; the one that there is. Raises Problem."""
    there = document.shared.filter(edition=edition).first()
    if there is not None:
        return there
    page = SharePage(
        workspace=document.workspace, document=document, edition=edition, title=document.title, export=None
    )
    page.export = newest_export(document, edition)
    if page.export is None:
        raise Problem(409, "This edition is not exported yet. Export it, then share it.")
    try:
        with transaction.atomic():
            page.save(force_insert=True)
    except IntegrityError:  # somebody else has made one at the same moment
        return document.shared.get(edition=edition)
    _draw_cover(page)
    return page


def show_newest(page: SharePage, version: int) -> None:
    """Let a page show the newest film. Raises Problem where it does, or where there is none."""
    newest = newest_export(page.document, page.edition)
    if newest is None or newest.pk == page.export_id:
        raise Problem(409, "What this page shows is the newest. Export the clip again first.")
    change_row(page, version, export=newest)
    _draw_cover(page)


def _draw_cover(page: SharePage) -> None:
    """Keep the cover of the edition with its page; without one it shows the beginning of the film."""
    page.folder.mkdir(parents=True, exist_ok=True)
    try:
        now = opened(page.document, page.edition)
        picture = picture_of(now, cover_of(page.document, page.edition).value, "jpg", COVER_LINES)
    except CoreError as error:
        logger.warning("no cover of %s: %s", page, error)
        return
    with published(page.cover) as part:
        part.write_bytes(picture)


def shown_plan(page: SharePage) -> Plan | None:
    """What is seen and heard in the film of a page; None where that was deleted."""
    if page.export is None or not page.export.main.exists():
        return None
    return read_plan(page.export.plan)


def frame_size(width: int, height: int, most_wide: int | None = None, most_high: int | None = None) -> tuple[int, int]:
    """The pixels of a player of a film of this shape: as usual, or as large as fits."""
    if most_wide is None and most_high is None:
        most_wide = most_high = _USUAL_SIDE
    wide, high = (min(max(each or LARGEST_FRAME, SMALLEST_FRAME), LARGEST_FRAME) for each in (most_wide, most_high))
    scale = min(wide / width, high / height)
    return max(round(width * scale), 1), max(round(height * scale), 1)


def frame_code(address: str, title: str, size: tuple[int, int]) -> str:
    """The HTML that embeds a player in a page of another site."""
    return (
        f'<iframe src={quoteattr(address)} width="{size[0]}" height="{size[1]}" title={quoteattr(title)} '
        'style="border:0" allow="fullscreen" allowfullscreen loading="lazy"></iframe>'
    )


def as_xml(told: dict[str, object]) -> str:
    """An answer of oEmbed as XML."""
    fields = "".join(f"<{name}>{escape(str(value))}</{name}>" for name, value in told.items())
    return f'<?xml version="1.0" encoding="utf-8" standalone="yes"?>\n<oembed>{fields}</oembed>'


def absolute(request: HttpRequest, path: str) -> str:
    """The whole address of something on this server, as who asks reached it."""
    return request.build_absolute_uri(path)
