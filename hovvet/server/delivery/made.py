"""What the editions of a clip would be as files, made of it as it stands."""

from dataclasses import dataclass, replace
from functools import cached_property
from hashlib import sha256

from hovvet.core.compile.kit import Kit
from hovvet.core.compile.steps import planned, staged
from hovvet.core.compile.target import target_of
from hovvet.core.errors import CoreError
from hovvet.core.plan.model import Plan
from hovvet.core.plan.outlets import Outlet
from hovvet.core.proof.looked import Looked
from hovvet.core.render.encoding import Encoding
from hovvet.core.render.output import Output, encoding_of, sized
from hovvet.core.sheet.model import Sheet
from hovvet.server.documents.kit import kit_of
from hovvet.server.documents.models import Document
from hovvet.server.documents.opening import sheet_of
from hovvet.server.documents.sources import Sources, sources_of
from hovvet.server.problems import Problem


@dataclass(frozen=True)
class Made:
    """An edition of a clip as a file of some kind would be made of it now."""

    looked: Looked
    encoding: Encoding
    digest: str

    @property
    def plan(self) -> Plan:
        """What is seen and heard."""
        return self.looked.plan

    @property
    def outlet(self) -> Outlet:
        """Where it goes, in the size that the file is to have."""
        return self.looked.target.outlet


class ClipNow:
    """A clip as it stands, to look at its editions."""

    def __init__(self, document: Document) -> None:
        self.document = document
        self._made: dict[tuple[str, str], Made | None] = {}

    @cached_property
    def sheet(self) -> Sheet:
        """It as it stands."""
        return sheet_of(self.document)

    @cached_property
    def _sources(self) -> Sources:
        return sources_of(self.document, self.sheet)

    @cached_property
    def _kit(self) -> Kit:
        return kit_of(self.document.workspace)

    def made(self, edition: str, output: Output) -> Made | None:
        """What an edition would be; None where there is no such edition, or it cannot be compiled now."""
        key = edition, output.model_dump_json()
        if key not in self._made:
            try:
                self._made[key] = self._make(edition, output)
            except (CoreError, Problem):
                self._made[key] = None
        return self._made[key]

    def _make(self, edition: str, output: Output) -> Made | None:
        chosen = self.sheet.edition(edition)
        if chosen.id != edition:
            return None
        target = target_of(self.sheet, chosen, self._kit)
        target = replace(target, outlet=sized(target.outlet, output.lines))
        scene = staged(self.sheet, self._sources.sources, target)
        plan = planned(scene, target)
        encoding = encoding_of(output, target.outlet, plan.seconds)
        told = f"{plan.digest} {output.model_dump_json()} {encoding}"
        looked = Looked(self.sheet, chosen, self._kit, self._sources.sources, target, scene, plan)
        return Made(looked, encoding, sha256(told.encode()).hexdigest())
