"""The schema, asked at random for a bounded minute: whatever is sent, the server never makes a mistake of its own."""

import json
import time
from contextlib import suppress
from urllib.parse import urlencode

import schemathesis
from django.db import transaction
from django.test import Client
from hypothesis import HealthCheck, given, settings
from hypothesis.errors import Unsatisfiable
from schemathesis import GenerationMode
from schemathesis.core import NotSet

from hovvet.server.documents.making import desk_of, make_clip
from hovvet.server.jobs.running import start_job
from tests.e2e.base import ROOT
from tests.server.base import ServerCase

SECONDS = 40.0
_MOST = 60  # requests for one operation and mode


class _Enough(BaseException):
    """The time of an operation is over. No Exception: what is thought up after it would be thrown away, and takes longer
    than asking."""


class RandomRequests(ServerCase):
    def setUp(self) -> None:
        super().setUp()
        self.row = self.recording()
        clip = make_clip(self.row, 3, 14)
        job = start_job(self.workspace, "prepare", self.row.pk)
        show = self.post("/api/shows", {"name": "Bench Notes"}).json()
        # Half of the requests are for things that are there.
        self.known = {
            "recording_id": [str(self.row.pk)],
            "document_id": [str(clip.pk), str(desk_of(self.row).pk)],
            "revision_id": [str(clip.head_id)],
            "job_id": [str(job.pk)],
            "show_id": [show["id"]],
            "draft_id": [self.post("/api/drafts", {"text": "We mend a lamp. It is old."}).json()["id"]],
        }
        self.asker = Client(raise_request_exception=False)
        self.asker.force_login(self.user)

    def test_no_request_makes_a_server_error(self):
        schema = schemathesis.openapi.from_dict(json.loads((ROOT / "docs" / "openapi.json").read_text()))
        operations = [found.ok() for found in schema.get_all_operations()]
        modes = (GenerationMode.POSITIVE, GenerationMode.NEGATIVE)
        share = SECONDS / (len(operations) * len(modes))
        asked: dict[str, int] = {}
        for operation in operations:
            for mode in modes:
                count = self.ask(operation, mode, share)
                asked[f"{operation.method} {operation.path}"] = (
                    asked.get(f"{operation.method} {operation.path}", 0) + count
                )
        self.assertEqual([name for name, count in asked.items() if count == 0], [], "every operation was asked")
        self.assertGreater(sum(asked.values()), 500)

    def ask(self, operation, mode: GenerationMode, seconds: float) -> int:
        until = time.monotonic() + seconds
        count = 0

        @settings(max_examples=_MOST, database=None, suppress_health_check=list(HealthCheck))
        @given(operation.as_strategy(generation_mode=mode))
        def send(case) -> None:
            nonlocal count
            if time.monotonic() > until and count:
                raise _Enough
            count += 1
            if count % 2:
                case.path_parameters |= {
                    name: values[count // 2 % len(values)]
                    for name, values in self.known.items()
                    if name in case.path_parameters
                }
            point = transaction.savepoint()
            try:
                answer = self.sent(case)
            finally:
                transaction.savepoint_rollback(point)  # what one request deletes the next one finds again
            told = f"{case.method} {case.formatted_path} {case.query} {case.body}: {answer.status_code}"
            self.assertNotIn(answer.status_code, range(500, 600), told)

        with suppress(Unsatisfiable, _Enough):  # nothing can be wrong with a request that has nothing in it
            send()
        return count

    def sent(self, case):
        query = urlencode(dict(case.query or {}), doseq=True)
        path = case.formatted_path + (f"?{query}" if query else "")
        body = b"" if isinstance(case.body, NotSet) else json.dumps(case.body, default=repr).encode("utf-8", "replace")
        kind = "application/json" if case.media_type in (None, "application/json") else "application/octet-stream"
        return self.asker.generic(case.method, path, body, content_type=kind)
