"""How the stand-in for outlets takes a post: as its account is in the mood to."""

import shutil
import time
from datetime import datetime
from pathlib import Path
from typing import NamedTuple

from django.db import transaction

from hovvet.core.media.checked import published
from hovvet.core.outbox.fitting import Limits, Outgoing, unfit
from hovvet.core.plan.outlets import Outlet
from hovvet.server.documents.outlets import outlets_of
from hovvet.server.outside.models import OutsideAccount, OutsidePost

Mood = OutsideAccount.Mood
_SLOW = 3.0  # seconds
ASKS = 120.0  # seconds after which it wants to be asked again
KINDS = ("mp4", "webm")


class Refusal(Exception):
    """It does not take this, and will not."""


class NotNow(Exception):
    """It takes nothing at present; ``seconds`` after which it may."""

    def __init__(self, seconds: float) -> None:
        super().__init__("come again later")
        self.seconds = seconds


class Taken(NamedTuple):
    """It has been taken: what it is called there, and since when."""

    name: str
    at: datetime


def limits_of(account: OutsideAccount) -> Limits:
    """What an account takes: as the outlet of its sort."""
    outlet = _outlet(account)
    return Limits(
        longest=outlet.longest,
        bytes=outlet.file_limit,
        letters=outlet.post_letters,
        hashtags=outlet.post_hashtags,
        kinds=KINDS,
    )


def _outlet(account: OutsideAccount) -> Outlet:
    outlets = outlets_of(account.workspace)
    return outlets.get(account.sort) or next(iter(outlets.values()))


def take(account: OutsideAccount, key: str, post: Outgoing, film: Path, cover: bytes | None) -> Taken:
    """Take a post. Raises Refusal, NotNow, TimeoutError (of which nobody knows whether it was taken)."""
    if account.mood == Mood.REFUSES:
        raise Refusal("This account may not post at present.")
    if account.mood == Mood.LATER:
        raise NotNow(ASKS)
    if account.mood == Mood.DROPS:
        raise TimeoutError
    if account.mood == Mood.SLOW:
        time.sleep(_SLOW)
    if told := unfit(post, limits_of(account)):
        raise Refusal(" ".join(told))
    there = _keep(account, key, post, film, cover)
    if account.mood == Mood.SILENT:
        raise TimeoutError
    return there


def found(account: OutsideAccount, key: str) -> Taken | None:
    """What was taken under a key, if anything."""
    row = account.posts.filter(key=key).first()
    return Taken(str(row.pk), row.created) if row else None


def _keep(account: OutsideAccount, key: str, post: Outgoing, film: Path, cover: bytes | None) -> Taken:
    """Keep a post with its files; one that is known already stays as it is."""
    row = OutsidePost(
        account=account, key=key, title=post.title, text=post.text, kind=post.kind, seconds=post.seconds,
        width=post.width, height=post.height,
    )  # fmt: skip
    row.folder.mkdir(parents=True)
    with published(row.film) as part:
        shutil.copyfile(film, part)
    if cover is not None:
        with published(row.cover) as part:
            part.write_bytes(cover)
    with transaction.atomic():
        there = found(account, key) if account.knows_keys else None
        if there is None:
            row.save(force_insert=True)
    if there is not None:
        shutil.rmtree(row.folder, ignore_errors=True)
        return there
    return Taken(str(row.pk), row.created)
