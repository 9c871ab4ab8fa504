"""Any request, valid by the schema or not: no answer is 500, and all are as described."""

import json
import os
from typing import Any
from unittest.mock import patch

import jsonschema_rs
import schemathesis
from django.db import transaction
from glyptarch_server import wiring
from glyptarch_server.config.management.commands.export_schema import schema_text
from hypothesis import HealthCheck, Phase, given, seed, settings
from hypothesis import strategies as st
from schemathesis.generation import GenerationMode

from tests.server.fixtures import CannedPortal
from tests.server.test_api import ApiCase
from tests.server.test_runs import FEED

EXAMPLES = int(os.environ.get("GLYPTARCH_EXAMPLES", "12"))
REAL = 8
"""In how many of ten requests a part of the address names what exists."""

TEXTS = st.text(max_size=20) | st.sampled_from(["\x00", "\ud800", "%00", "a" * 3000, "٣", "İ"])
BILLION = "\n".join(["a0: &a0 x", *(f"a{n}: &a{n} [{', '.join([f'*a{n - 1}'] * 9)}]" for n in range(1, 12))])
# Texts that are parsed as documents, lists or schedules.
DOCUMENTS = st.sampled_from(
    [
        *("name: [", "? {a: b}\n: c", "!!python/object:os.system x", "&a [*a]", BILLION, "a: 1" + "0" * 400),
        *("{" * 2000, "[1e400]", '{"a": NaN}', "1" + "0" * 400, '"\\ud800"', "null", "[]"),
        *('a,b\n"c', "\x00,\r\r", ";" * 5000, "a;b\n" * 3000),
        *("<a><b></a>", '<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>', "<opml version='2.0'/>", "<?xml version='1.0'?>"),
        *("* * * * *", "*/0 * * * *", "0 0 31 2 *", "99999999999 * * * *", "0 0 1-9999999 * *", "@never"),
        *("9999-12-31T23:59:59Z", "0000-00-00", "2355-01-01", "P99999999999D", "Mars/Olympus"),
    ]
)
NUMBERS = st.sampled_from([0, -1, 2**31, 2**63, 10**30])


SCHEMA = json.loads(schema_text())
TAGS = sorted({tag for path in SCHEMA["paths"].values() for method in path.values() for tag in method["tags"]})


def with_documents(value: Any, data: st.DataObject) -> Any:  # noqa: ANN401
    """Return a body with documents in place of some of its texts."""
    if isinstance(value, dict):
        return {name: with_documents(inside, data) for name, inside in value.items()}
    if isinstance(value, list):
        return [with_documents(inside, data) for inside in value]
    return data.draw(DOCUMENTS) if isinstance(value, str) and data.draw(st.integers(0, 3)) == 0 else value


class AnyRequest(ApiCase):
    """Requests to the operations of one tag: a class for each, so that processes share them out."""

    tag = ""

    def setUp(self) -> None:
        super().setUp()
        self.real = {
            "blog": "meadow",
            "slug": "sky",
            "number": self.comment.pk,
            "post_id": self.post.pk,
            "run_id": self.first_run.pk,
            "decision_id": self.post.decision.pk,  # type: ignore[attr-defined]
        }
        portal = CannedPortal({"https://club.example/feed": FEED})
        standing = patch.object(wiring, "fetcher", return_value=portal)
        standing.start()
        self.addCleanup(standing.stop)

    def no_answer_is_500_and_every_answer_is_as_described(self) -> None:
        for result in schemathesis.openapi.from_dict(SCHEMA).include(tag=self.tag).get_all_operations():
            operation = result.ok()
            with self.subTest(f"{operation.method} {operation.path}"):
                self.try_out(operation)

    def try_out(self, operation: Any) -> None:  # noqa: ANN401
        self.desk = self.as_(self.owner)
        self.desk.raise_request_exception = False
        cases = st.one_of(operation.as_strategy(generation_mode=mode) for mode in GenerationMode)

        @seed(8)
        @settings(
            max_examples=EXAMPLES,
            database=None,
            deadline=None,
            phases=[Phase.generate],
            suppress_health_check=list(HealthCheck),
        )
        @given(cases, st.data())
        def each(case: Any, data: st.DataObject) -> None:  # noqa: ANN401
            path = operation.path
            for name in case.path_parameters or {}:
                real = self.real.get(name, "club" if "/sources/" in path else "unused")
                if name == "number" and "/revisions/" in path:
                    real = 1
                chosen = real if data.draw(st.integers(0, 9)) < REAL else data.draw(TEXTS | NUMBERS)
                path = path.replace("{" + name + "}", str(chosen).encode("utf-8", "replace").decode())
            query = {name: str(value).encode("utf-8", "replace").decode() for name, value in (case.query or {}).items()}
            self.ask(operation, path, query, with_documents(case.body, data))

        each()

    def ask(self, operation: Any, path: str, query: dict[str, str], body: Any) -> None:  # noqa: ANN401
        content = "" if not isinstance(body, dict | list | str | int | float) else json.dumps(body)
        with transaction.atomic():
            answer = self.desk.generic(operation.method.upper(), path, content, "application/json", query_params=query)
            transaction.set_rollback(True)
        self.assertLess(answer.status_code, 500, (path, query, content[:500]))
        described = SCHEMA["paths"][operation.path][operation.method]["responses"]
        kind = str(answer.status_code) if answer.status_code < 400 else "4XX"
        self.assertIn(kind, described, (path, answer.status_code))
        for media, wanted in described[kind].get("content", {}).items():
            if answer.status_code == 405:
                break
            self.assertEqual(answer["Content-Type"].partition(";")[0], media, (path, answer.status_code))
            whole = {"components": SCHEMA["components"], **wanted.get("schema", {})}
            jsonschema_rs.validate(whole, answer.json())


for tag in TAGS:
    name = f"AnyRequestTo{tag.title()}"
    test = {
        "test_no_answer_is_500_and_every_answer_is_as_described": AnyRequest.no_answer_is_500_and_every_answer_is_as_described
    }
    globals()[name] = type(name, (AnyRequest,), {"__module__": __name__, "tag": tag, **test})
