"""Errors as the API gives them, pages of a list, and what never leaves the server."""

import json
from typing import Any

from django.db import connection
from django.http import HttpRequest
from django.test import Client, SimpleTestCase, TestCase
from glyptarch_core.errors import DocumentError, Fault
from glyptarch_server.common.lookups import by_index
from glyptarch_server.common.paging import page_of
from glyptarch_server.common.problems import (
    Conflict,
    Forbidden,
    Invalid,
    NotFound,
    ProblemError,
    TooMany,
    install_problem_handlers,
)
from glyptarch_server.posts.models import Post
from ninja import NinjaAPI
from ninja.errors import HttpError

from tests.server.fixtures import make_blog, make_campaign, make_source, run


class Problems(SimpleTestCase):
    def setUp(self) -> None:
        self.api = NinjaAPI(urls_namespace=f"problems-{self.id()}")
        install_problem_handlers(self.api)

    def answer(self, error: Exception) -> tuple[int, dict[str, Any]]:
        response = self.api.on_exception(HttpRequest(), error)
        self.assertEqual(response["Content-Type"], "application/problem+json")
        return response.status_code, json.loads(response.content)

    def test_each_kind_has_its_status_and_says_what_happened(self) -> None:
        for kind, status in ((NotFound, 404), (Forbidden, 403), (Conflict, 409), (Invalid, 422), (TooMany, 429)):
            with self.subTest(kind.__name__):
                code, problem = self.answer(kind("Look at revision 4 first."))
                self.assertEqual(
                    (code, problem["status"], problem["detail"]), (status, status, "Look at revision 4 first.")
                )
                self.assertEqual(problem["title"], kind.title)
                self.assertEqual(problem["type"], "about:blank")

    def test_faults_come_with_their_paths_and_remedies(self) -> None:
        fault = Fault(path="sift.rules[0].terms", message="must be a list", hint="Write [comet].")
        for error, title in (
            (Invalid("no", faults=[fault]), "Something is not right"),
            (DocumentError([fault]), "The rules do not hold"),
        ):
            with self.subTest(title):
                code, problem = self.answer(error)
                self.assertEqual((code, problem["title"]), (422, title))
                self.assertEqual(
                    problem["faults"],
                    [{"path": "sift.rules[0].terms", "message": "must be a list", "hint": "Write [comet]."}],
                )

    def test_what_the_framework_refuses_is_worded_in_the_same_way(self) -> None:
        code, problem = self.answer(HttpError(400, "Cannot parse request body"))
        self.assertEqual((code, problem["detail"], problem["faults"]), (400, "Cannot parse request body", []))

    def test_a_problem_is_an_error_with_its_words(self) -> None:
        self.assertEqual(str(ProblemError("It cannot be.")), "It cannot be.")


class OverHttp(TestCase):
    def test_an_address_that_leads_nowhere_is_a_problem_as_well(self) -> None:
        for path in ("/api/nowhere", "/api/blogs/meadow/nowhere"):
            answer = Client().get(path)
            self.assertEqual((answer.status_code, answer["Content-Type"]), (404, "application/problem+json"))
            self.assertEqual(answer.json()["detail"], "There is nothing at this address.")

    def test_a_stranger_is_told_to_sign_in(self) -> None:
        answer = Client().get("/api/blogs")
        self.assertEqual((answer.status_code, answer.json()["detail"]), (401, "Sign in first."))

    def test_what_is_no_json_names_that(self) -> None:
        answer = Client().post("/api/session", "{", "application/json")
        self.assertEqual(answer.status_code, 400)
        self.assertTrue(answer.json()["detail"])


class Pages(TestCase):
    def setUp(self) -> None:
        make_source(blog := make_blog(), stories=5)
        run(make_campaign(blog))
        self.rows = Post.objects.order_by("pk")

    def test_a_page_comes_with_the_whole_count(self) -> None:
        page, total = page_of(self.rows, limit=2, offset=2)
        self.assertEqual(([row.pk for row in page], total), ([row.pk for row in self.rows[2:4]], 5))

    def test_beyond_the_end_there_is_nothing(self) -> None:
        self.assertEqual(page_of(self.rows, limit=2, offset=10), ([], 5))

    def test_to_ask_by_an_index_leaves_the_connection_as_it_was(self) -> None:
        before = self.setting()
        with by_index():
            self.assertEqual(self.setting(), "off")
            self.assertEqual(self.rows.count(), 5)
        self.assertEqual(self.setting(), before)

    @staticmethod
    def setting() -> str:
        with connection.cursor() as cursor:
            cursor.execute("SHOW enable_seqscan")
            return str(cursor.fetchone()[0])
