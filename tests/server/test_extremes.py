"""Requests at the edges of the schema and beyond: answered soon, in plain words, and what is taken opens and is undone."""

import json
import time
from urllib.parse import urlencode
from zlib import crc32

from django.apps import apps
from django.db import models
from django.test import Client
from pydantic import ValidationError

from hovvet.core.text import clean
from hovvet.server.documents.api import Asking, Change
from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.documents.models import Document
from tests.extremes import NASTY, Asked, Extremes
from tests.server.base import ServerCase

SAMPLE = 700  # requests that are asked here; ``make fuzz`` asks all of a server at work
SOON = 2.0  # seconds of this thread: others may be busy on the machine
APART = (
    "/api/session",
    "/api/recordings/links",
    "/api/assets/links",
    "/api/stock/",
    "/api/documents/{document_id}/shapes/picture",
)


class AtTheEdges(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording()
        self.clip = make_clip(self.row, 3, 14)
        self.desk = desk_of(self.row)
        self.asker = Client(raise_request_exception=False)
        self.asker.force_login(self.user)
        key = str(self.row.pk)
        self.known = {
            "document_id": [str(self.clip.pk)], "recording_id": [key], "recording": [key, "gone"], "media": [key, ""],
            "piece": ["p1", "p9"], "origin": ["p1", "p9"], "word": [6, None, 99], "words": [6], "edition": ["e1", None], "outlet": ["tall"],
            "clip": [str(self.clip.pk)], "onto": [str(self.clip.pk)], "first": [{"origin": "p1", "word": 6}, None, 6],
            "last": [{"origin": "p1", "word": 8}, None, 8], "start": [2.0, 0, 5.0], "end": [3.0, 4.8, 2.0], "at": [3.1, 0], "template": ["headline"],
        }  # fmt: skip

    def head(self) -> int | None:
        return Document.objects.get(pk=self.clip.pk).head_id

    def version(self) -> int:
        return Document.objects.get(pk=self.clip.pk).version

    def asked(self, each: Asked):
        """The answer, and the seconds of this thread that it took."""
        body = (
            each.body | {"version": self.version()}
            if isinstance(each.body, dict) and "version" in each.body
            else each.body
        )
        data = b"" if body is None else json.dumps(body).encode("utf-8", "surrogatepass")
        path = each.path + (f"?{urlencode(each.query, doseq=True, errors='replace')}" if each.query else "")
        began = time.thread_time()
        answer = self.asker.generic(each.method, path, data, content_type="application/json")
        return answer, time.thread_time() - began

    def test_a_sample_of_all_extremes(self):
        requests = sorted(Extremes(self.known).requests(APART), key=lambda each: crc32(repr(each).encode()))
        # As many of the edits that fit the schema as of all others: most of what is extreme is refused by it.
        fits = [each for each in requests if each.path.endswith(("/edits", "/asks")) and self.fits(each)]
        known = set(map(id, fits))
        requests = [*fits[: SAMPLE // 2], *[each for each in requests if id(each) not in known][: SAMPLE // 2]]
        taken = 0
        own = f"/api/documents/{self.clip.pk}"
        for each in requests:
            before = self.head()
            answer, spent = self.asked(each)
            told = f"{each.about}: {answer.status_code} {answer.content[:300]!r}"
            self.assertLess(answer.status_code, 500, told)
            self.assertLess(spent, SOON, told)
            if answer.status_code >= 400 and answer.get("Content-Type", "").startswith("application/json"):
                self.assertIsInstance(answer.json()["detail"], str, told)
            if self.head() == before:  # a title is changed without a revision
                continue
            taken += 1
            opened = self.asker.get(own)
            self.assertEqual(opened.status_code, 200, f"{told}: it does not open")
            undone = self.post(f"{own}/undo", {"version": self.version()}, self.asker)
            self.assertEqual(undone.status_code, 200, f"{told}: it is not undone")
        self.assertGreater(taken, 3)
        self.check_texts()

    def fits(self, each: Asked) -> bool:
        try:
            (Change if each.path.endswith("/edits") else Asking).model_validate(each.body)
        except (ValidationError, TypeError):
            return False
        return True

    def check_texts(self) -> None:
        """Nothing that was kept has anything in it that does something unseen."""
        for model in apps.get_models():
            if not model.__module__.startswith("hovvet."):
                continue
            fields = [
                field.name
                for field in model._meta.fields
                if isinstance(field, (models.CharField, models.TextField, models.JSONField))
            ]
            for row in model._default_manager.values_list(*fields):
                for text in (each for value in row for each in texts_in(value)):
                    self.assertEqual(text, clean(text), model)

    def test_every_text_of_the_schema_is_cleaned_before_it_is_kept(self):
        asked = {each.about: each for each in Extremes(self.known).requests(APART) if NASTY in texts_in(each.body)}
        for each in asked.values():
            answer, _ = self.asked(each)
            self.assertLess(answer.status_code, 500, each.about)
        self.assertGreater(len(asked), 100)
        self.check_texts()


def texts_in(value):
    if isinstance(value, str):
        yield value
    elif isinstance(value, dict):
        for key, each in value.items():
            yield key
            yield from texts_in(each)
    elif isinstance(value, list):
        for each in value:
            yield from texts_in(each)
