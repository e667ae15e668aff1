"""Reviews: links, versions, comments where their words now are, and what is thought of a version."""

import uuid
from collections.abc import Sequence
from datetime import date

from django.db import IntegrityError, transaction
from django.http import Http404, HttpRequest

from hovvet.core.plan.model import Plan
from hovvet.core.plan.upgrade import read_plan
from hovvet.core.review.carried import Place, Spot, spot_of
from hovvet.server.accounts.throttle import one_try
from hovvet.server.delivery.models import Export
from hovvet.server.documents.models import Document
from hovvet.server.notices.models import Notice
from hovvet.server.notices.telling import tell
from hovvet.server.problems import Problem
from hovvet.server.review.models import Comment, ReviewItem, ReviewLink, ReviewVersion, Verdict

MOST_LINKS = 50  # of a clip
MOST_COMMENTS = 2_000  # under a link
_OPENED = "reviews"  # in the session: the links whose password somebody knew, with what it was
_DELETED = "This film has been deleted. Ask whoever sent you the link for another one."
_GONE = "This link is not valid, or not any more. Ask whoever sent it to you for another one."
_TOLD = {
    Verdict.Says.APPROVED: (Notice.Kind.APPROVED, "approves"),
    Verdict.Says.CHANGES: (Notice.Kind.CHANGES, "wants changes to"),
}


def link_of(request: HttpRequest, token: str, locked: bool = False) -> ReviewLink:
    """The link of a token, for somebody who may look; ``locked``: also for somebody who does not know its password yet. Raises
    Http404, Problem."""
    link = ReviewLink.objects.select_related("document", "workspace").filter(token=token[:64]).first()
    if link is None or not link.holds:
        raise Http404(_GONE)
    if not locked and not is_open(request, link):
        raise Problem(401, "This link has a password. Type it to go on.")
    return link


def is_open(request: HttpRequest, link: ReviewLink) -> bool:
    """Whether somebody may look: there is no password, or they knew the one there is now."""
    return not link.password or request.session.get(_OPENED, {}).get(str(link.pk)) == link.password[-16:]


def open_with(request: HttpRequest, link: ReviewLink, password: str) -> None:
    """Let somebody in who knows the password. Raises Problem; wrong tries are slowed down."""
    with one_try(request, f"review {link.pk}") as attempt:
        if not link.is_password(password):
            attempt.failed()
            raise Problem(403, "That is not the password of this link.")
        attempt.succeeded()
    request.session[_OPENED] = request.session.get(_OPENED, {}) | {str(link.pk): link.password[-16:]}


def newest_export(document: Document, edition: str) -> Export | None:
    """The newest finished film of an edition."""
    rows = document.exports.filter(edition=edition)
    return next((row for row in rows if row.output.is_film and row.main.exists()), None)


def make_link(
    document: Document, editions: Sequence[str], by: int | None, password: str, until: date | None, download: bool
) -> ReviewLink:
    """A link to the newest films of editions. Raises Problem where one is not exported yet."""
    if document.reviews.count() >= MOST_LINKS:
        raise Problem(409, f"This clip has {MOST_LINKS} review links already. Delete one that is not used.")
    found = {edition: newest_export(document, edition) for edition in dict.fromkeys(editions)}
    if missing := [edition for edition, export in found.items() if export is None]:
        raise Problem(409, f"{len(missing)} of these editions is not exported yet. Export it, then share it.")
    with transaction.atomic():
        link = ReviewLink(
            workspace=document.workspace, document=document, until=until, download=download, made_by_id=by
        )
        link.set_password(password)
        link.save()
        for edition, export in found.items():
            assert export is not None
            item = ReviewItem.objects.create(link=link, edition=edition, name=export.name)
            ReviewVersion.objects.create(item=item, number=1, export=export)
    return link


def publish(link: ReviewLink) -> int:
    """Show the newest films under a link; how many are newer than what was shown."""
    count = 0
    for item in link.items.all():
        export, shown = newest_export(link.document, item.edition), item.versions.first()
        if export is None or (shown is not None and shown.export_id == export.pk):
            continue
        try:
            with transaction.atomic():
                ReviewVersion.objects.create(item=item, number=item.highest + 1, export=export)
                ReviewItem.objects.filter(pk=item.pk).update(highest=item.highest + 1)
        except IntegrityError:
            continue  # somebody else has published at the same moment
        count += 1
    return count


def shown_items(link: ReviewLink) -> list[ReviewItem]:
    """The editions under a link of which there is a film (still). Raises Http404 where there is none."""
    items = [item for item in link.items.select_related("link") if item.versions.exists()]
    if not items:
        raise Http404(_DELETED)
    return items


def shown_version(item: ReviewItem) -> ReviewVersion:
    """What is looked at: the newest version. Raises Http404 when its film was deleted."""
    version = item.versions.select_related("export").first()
    if version is None or not version.export.main.exists():
        raise Http404(_DELETED)
    return version


def plan_of(version: ReviewVersion) -> Plan:
    """What is seen and heard in a version."""
    return read_plan(version.export.plan)


def say(
    item: ReviewItem,
    name: str,
    text: str,
    number: int,
    about: tuple[int, int] | None = None,
    seconds: float | None = None,
    place: Place | None = None,
    answers: uuid.UUID | None = None,
    user_id: int | None = None,
) -> Comment:
    """A comment on a version, or an answer (which is where what it answers is). Raises Problem."""
    if Comment.objects.filter(item__link=item.link_id).count() >= MOST_COMMENTS:
        raise Problem(409, f"There are {MOST_COMMENTS:,} comments under this link already, the most there may be.")
    above = None
    if answers is not None:
        above = item.comments.filter(pk=answers, answers=None).first()
        if above is None:
            raise Problem(404, "What you answer has been deleted.")
    version = item.versions.select_related("export").filter(number=number).first()
    if version is None:
        raise Problem(404, "That version is no longer there. Reload the page.")
    spot = above.spot if above else Spot(place=place)
    if above is None and about is not None:
        try:
            spot = spot_of(plan_of(version), *about, seconds, place)
        except IndexError:
            raise Problem(422, "Those words are not in this version. Reload the page.") from None
    comment = Comment.objects.create(
        item=item,
        version=number,
        answers=above,
        name=name,
        user_id=user_id,
        text=text,
        spot_json=spot.model_dump(mode="json"),
    )
    clip = item.link.document
    tell(clip.workspace, Notice.Kind.COMMENTED, f"{name} on “{clip.title}”: {text}", clip, place="review", by=user_id)
    return comment


def judge(item: ReviewItem, name: str, says: str, number: int) -> Verdict:
    """Approve a version, or want changes. Raises Problem where a newer one has come meanwhile: nobody approves what they have not
    seen."""
    version = shown_version(item)
    if version.number != number:
        raise Problem(409, "A newer version has come in the meantime. Watch that one first.")
    verdict = Verdict.objects.create(version=version, name=name, says=says)
    kind, does = _TOLD[Verdict.Says(says)]
    clip = item.link.document
    tell(clip.workspace, kind, f"{name} {does} “{clip.title}”, {item.name}.", clip, place="review")
    return verdict
