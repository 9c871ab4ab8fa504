"""Hostile requests are refused with a reason and break nothing."""

import base64
import json
from typing import Any

from glyptarch_server.common.border import holds_no_text

from tests.server.fixtures import comment_form
from tests.server.test_api import RULES, ApiCase

FAR = 10**30


class Requests(ApiCase):
    """Each of these once gave an answer 500."""

    def refused(
        self, status: int, method: str, path: str, body: object = None, *, raw: bytes | None = None
    ) -> dict[str, Any]:
        content = raw if raw is not None else json.dumps(body) if body is not None else ""
        answer = self.as_(self.owner).generic(method, f"/api{path}", content, "application/json")
        self.assertEqual(answer.status_code, status, answer.content[:300])
        self.assertEqual(answer["Content-Type"], "application/problem+json")
        problem: dict[str, Any] = answer.json()
        return problem

    def test_nul_in_a_path_is_nothing_anybody_has(self) -> None:
        self.refused(404, "GET", "/blogs/mea%00dow")
        self.refused(404, "GET", "/blogs/meadow/campaigns/%00")
        self.assertEqual(self.client.get("/blog/mea%00dow/").status_code, 404)
        self.assertEqual(self.client.get("/blog/meadow/a%00/").status_code, 404)

    def test_nul_in_a_search_is_named(self) -> None:
        for path in ("posts", "sources", "comments", "campaign-overview"):
            problem = self.refused(422, "GET", f"/blogs/meadow/{path}?search=a%00b")
            self.assertEqual(problem["faults"][0]["path"], "search")

    def test_nul_and_lone_surrogates_in_a_body_are_named_with_their_place(self) -> None:
        note = {"document": RULES, "base": 1, "note": "a\x00"}
        self.assertEqual(
            self.refused(422, "POST", "/blogs/meadow/campaigns/sky/revisions", note)["faults"][0]["path"], "note"
        )
        words = {"name": "W", "words": ["fine", "\ud800"]}
        self.assertEqual(self.refused(422, "POST", "/blogs/meadow/word-lists", words)["faults"][0]["path"], "words.1")
        self.refused(422, "POST", "/session", {"name": "a\x00", "password": "b"})

    def test_nul_in_a_form_or_a_cookie_breaks_nothing(self) -> None:
        path = f"/blog/meadow/{self.post.slug}/"
        self.post.comments = True
        self.post.save()
        said = self.client.post(f"{path}comments/", comment_form(self.post, name="I\x00da", comment="Se\x00en."))
        self.assertEqual(said.status_code, 303)
        self.client.cookies["sessionid"] = "a\x00b"
        self.assertEqual(self.client.get(path).status_code, 200)
        self.assertEqual(self.client.get("/api/session").status_code, 200)

    def test_what_is_no_json_says_where(self) -> None:
        for raw in (
            b"{",
            b'{"a": NaN}',
            b'{"a": Infinity}',
            b"\xff\xfe",
            b"[" * 100_000,
            b'{"a": ' + b"9" * 5000 + b"}",
        ):
            with self.subTest(raw[:10]):
                self.refused(400, "PATCH", "/blogs/meadow/campaigns/sky", raw=raw)

    def test_numbers_and_times_that_nothing_can_hold_are_refused(self) -> None:
        proof = "/blogs/meadow/campaigns/sky/proof"
        self.refused(422, "POST", proof, {"document": RULES, "over": {"items": [FAR]}})
        self.refused(422, "POST", proof, {"document": RULES, "over": {"sample": FAR}})
        self.refused(422, "POST", proof, {"document": RULES, "against": 2**31})
        self.refused(422, "POST", "/blogs/meadow/campaigns/sky/revisions", {"document": RULES, "base": 2**31})
        item = {"document": RULES, "item": self.post.item_id}
        for moment in ("2026-11-24T12:00:00", "0001-01-01T00:00:00Z", "9999-12-31T23:59:59-12:00", "now"):
            self.refused(422, "POST", f"{proof}/item", {**item, "as_of": moment})
        for path in (f"/blogs/meadow/posts/{FAR}", f"/blogs/meadow/runs/{FAR}", f"/blogs/meadow/decisions/{2**63}"):
            self.refused(404, "GET", path)
        self.refused(404, "GET", f"/blogs/meadow/campaigns/sky/revisions/{FAR}")

    def test_a_cell_that_csv_does_not_take_names_its_line(self) -> None:
        table = {"name": "T", "text": 'a,b\n"' + "x" * 131_073 + '",c'}
        self.assertIn("Line 2", self.refused(422, "POST", "/blogs/meadow/term-tables", table)["detail"])

    def test_a_revision_is_saved_on_top_of_the_latest_and_of_no_other(self) -> None:
        other = {**RULES, "release": {"mode": "hold"}}
        path = "/blogs/meadow/campaigns/sky/revisions"
        self.assertIn("no revision 40", self.refused(409, "POST", path, {"document": other, "base": 40})["detail"])
        self.assertEqual(self.call(self.owner, "POST", path, {"document": other, "base": 1}).json()["revision"], 2)
        third = {**RULES, "release": {"mode": "draft"}}
        self.assertIn("saved meanwhile", self.refused(409, "POST", path, {"document": third, "base": 1})["detail"])

    def test_a_sample_of_four_megabytes_is_taken_and_a_larger_body_says_what_is_too_much(self) -> None:
        filler = b"<!--" + b"x" * 3_900_000 + b"-->"
        feed = (
            b'<rss version="2.0"><channel><title>C</title>'
            + filler
            + b"<item><title>One</title></item></channel></rss>"
        )
        self.assertEqual(self.call(self.owner, "POST", "/blogs/meadow/samples", self.sample(feed)).status_code, 200)
        self.assertIn("6 MB", self.refused(413, "POST", "/blogs/meadow/samples", raw=b" " * (7 << 20))["detail"])

    @staticmethod
    def sample(feed: bytes) -> dict[str, str]:
        return {"content": base64.b64encode(feed).decode()}

    def test_texts_that_can_be_kept_are_told_from_those_that_cannot(self) -> None:
        self.assertEqual(
            [holds_no_text(text) for text in ("a", "彗星 🌠", "\x07", "a\x00", "\ud83c")], [False] * 3 + [True] * 2
        )
