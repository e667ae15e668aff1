"""The board: every clip, and how far each of its editions is. Nothing is compiled for it, and it takes the same few queries for one
clip as for hundreds."""

import uuid
from collections import defaultdict
from collections.abc import Iterator, Sequence
from datetime import date, datetime
from typing import cast

from hovvet.core.outbox.states import STATES, UNMADE, Film, Known, Sending, State, state_of
from hovvet.core.plan.outlets import outlet_name
from hovvet.server.accounts.models import Membership, Workspace
from hovvet.server.deliveries.models import Duty
from hovvet.server.delivery.comparing import State as ExportState
from hovvet.server.delivery.comparing import compare_soon, job_states, newest_of_editions
from hovvet.server.delivery.comparing import state_of as state_of_export
from hovvet.server.delivery.models import Export
from hovvet.server.documents.listing import ShownEdition, shown_editions
from hovvet.server.documents.models import Document, DocumentSource, Revision
from hovvet.server.documents.outlets import outlets_of
from hovvet.server.documents.stamps import stamps_of
from hovvet.server.outbox.models import Posting
from hovvet.server.review.verdicts import verdicts_of
from hovvet.server.schema import Schema


class SendingOut(Schema):
    """A post of the newest film of an edition."""

    id: uuid.UUID
    account: str
    """What it is called."""
    state: str
    at: datetime
    told: str
    """Why it is as it is."""


class CellOut(Schema):
    """An edition of a clip."""

    edition: str
    """By id."""
    outlet: str
    """By key."""
    state: State
    to_export: bool
    """Whether a film of it is to be made, for there is none as its clip is now."""
    film: bool
    """Whether there is a finished film of it."""
    sendings: list[SendingOut]


class BoardClip(Schema):
    """A clip, and how far its editions are."""

    id: uuid.UUID
    title: str
    created: datetime
    shows: list[str]
    """What the recordings are of that it shows."""
    person: str
    """Who sees to it; "" where nobody is known to."""
    due: date | None
    cells: list[CellOut]


class ColumnOut(Schema):
    """An outlet that some clip is made for."""

    key: str
    name: str


class BoardOut(Schema):
    """All clips of a workspace, the newest first."""

    columns: list[ColumnOut]
    states: dict[State, str]
    """What they are called, from the first to the last."""
    people: list[str]
    """Who could see to a clip."""
    clips: list[BoardClip]


def board_of(workspace: Workspace) -> BoardOut:
    """All clips of a workspace, and how far they are."""
    clips = list(Document.objects.filter(workspace=workspace, kind=Document.Kind.CLIP).order_by("-created", "pk"))
    editions = {clip.pk: shown_editions(clip) for clip in clips}
    outlets = outlets_of(workspace)
    used = {each.outlet for own in editions.values() for each in own}
    columns = [key for key in outlets if key in used] + sorted(used - outlets.keys())
    films, shows, duties = _Films(workspace, clips), _shows(workspace), _duties(workspace)
    return BoardOut.model_construct(
        columns=[ColumnOut(key=key, name=outlet_name(key, outlets)) for key in columns],
        states=STATES,
        people=list(_people(workspace)),
        clips=[
            BoardClip.model_construct(
                id=clip.pk,
                title=clip.title,
                created=clip.created,
                shows=shows.get(clip.pk, []),
                person=duties[clip.pk][0],
                due=duties[clip.pk][1],
                cells=[films.cell(clip.pk, each) for each in editions[clip.pk]],
            )
            for clip in clips
        ],
    )


class _Films:
    """The newest film of each edition, with what happened to it."""

    def __init__(self, workspace: Workspace, clips: Sequence[Document]) -> None:
        self._newest = {key: row for key, row in newest_of_editions(workspace).items() if row.output.is_film}
        exports = [row.pk for row in self._newest.values()]
        made_of = {clip for clip, _ in self._newest}
        self._stamps = stamps_of([clip for clip in clips if clip.pk in made_of])
        self._jobs = job_states(workspace)
        self._verdicts = verdicts_of(exports)
        self._sendings: dict[tuple[uuid.UUID, str], list[Posting]] = defaultdict(list)
        for row in Posting.objects.filter(workspace=workspace):
            self._sendings[row.document_id, row.edition].append(row)
        if any(row.stamp != self._stamps[clip] for (clip, _), row in self._newest.items()):
            compare_soon(workspace)

    def cell(self, clip: uuid.UUID, edition: ShownEdition) -> CellOut:
        """How far an edition is."""
        row = self._newest.get((clip, edition.id))
        sendings = [each for each in self._sendings[clip, edition.id] if _matters(each, row)]
        known = self._known(row, clip, sendings) if row else Known(sendings=tuple(_states(sendings)))
        state = state_of(known)
        return CellOut.model_construct(
            edition=edition.id,
            outlet=edition.outlet,
            state=state,
            to_export=state in UNMADE,
            film=known.film == "ready",
            sendings=[
                SendingOut.model_construct(
                    id=each.pk, account=each.account_name, state=each.state, at=each.at, told=each.told
                )
                for each in sendings
            ],
        )

    def _known(self, row: Export, clip: uuid.UUID, sendings: Sequence[Posting]) -> Known:
        now = state_of_export(row, self._stamps[clip], self._jobs.get(row.pk))
        return Known.model_construct(
            film=_FILM[now],
            current=now == "ready",
            verdict=self._verdicts.get(row.pk, ""),
            sendings=tuple(_states(sendings)),
        )


def _matters(posting: Posting, newest: Export | None) -> bool:
    """Whether a post says something of an edition as it is now: what went out is of a film, what is still to go is not."""
    return posting.state != Posting.State.SENT or (newest is not None and posting.export_id == newest.pk)


def _states(sendings: Sequence[Posting]) -> Iterator[Sending]:
    return (cast(Sending, each.state) for each in sendings)


_FILM: dict[ExportState, Film] = {
    "none": "", "waiting": "making", "failed": "failed", "cancelled": "", "ready": "ready", "changed": "ready",
}  # fmt: skip


def _shows(workspace: Workspace) -> dict[uuid.UUID, list[str]]:
    """The shows of each clip, by name."""
    rows = DocumentSource.objects.filter(document__workspace=workspace, recording__show__isnull=False)
    found: dict[uuid.UUID, list[str]] = {}
    for clip, name in rows.values_list("document_id", "recording__show__name").distinct():
        found.setdefault(clip, []).append(name)
    return found


def _people(workspace: Workspace) -> list[str]:
    members = Membership.objects.filter(workspace=workspace).order_by("user__username")
    return list(members.values_list("user__username", flat=True))


def _duties(workspace: Workspace) -> dict[uuid.UUID, tuple[str, date | None]]:
    """Who sees to each clip, and by when: whoever made it, unless somebody else was named."""
    made = Revision.objects.filter(document__workspace=workspace, document__kind=Document.Kind.CLIP, parent=None)
    found: dict[uuid.UUID, tuple[str, date | None]] = defaultdict(lambda: ("", None))
    found |= {clip: (name or "", None) for clip, name in made.values_list("document_id", "author__username")}
    agreed = Duty.objects.filter(document__workspace=workspace)
    for clip, name, due in agreed.values_list("document_id", "person__username", "due"):
        found[clip] = (name or found[clip][0], due)
    return found
