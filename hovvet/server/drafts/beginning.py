"""Drafts begin: a text is taken in, and the sentences chosen that a clip of that length is best made of."""

from hovvet.core.draft.choosing import choose
from hovvet.core.draft.laying import CARD
from hovvet.core.draft.written import host_of, link_of, sentences_of, title_of
from hovvet.core.engines.meaning import vectors
from hovvet.core.text import clean
from hovvet.server.accounts.models import Workspace
from hovvet.server.drafts.models import Draft


def begin(workspace: Workspace, text: str, title: str = "", **wanted: object) -> Draft:
    """A draft of a text, called by a ``title`` or as the text is; ``wanted`` are other fields of it. Raises CoreError."""
    text = clean(text)
    title = title.strip() or title_of(text)
    draft = Draft(workspace=workspace, text=text, title=title[:200], **wanted)
    draft.card = (host_of(link_of(text)) or title)[:160]
    chosen = choose(sentences_of(text), draft.seconds - CARD, vectors, draft.pace)
    draft.sentences_json = [each.model_dump(mode="json") for each in chosen]
    draft.save()
    return draft
