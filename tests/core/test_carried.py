"""Data that a page carries for its own scripts."""

import json

from django.test import SimpleTestCase
from glyptarch_core.pages.carried import article_in_data, carried_data, entries_in_data, lists_in_data
from glyptarch_core.pages.desk import RawPage, look_at, mended
from glyptarch_core.pages.document import ArticlePage, DataList, ListPage, ReaderDocument
from glyptarch_core.pages.drift import Known
from glyptarch_core.pages.kinds import PageKind
from glyptarch_core.pages.page import Page
from glyptarch_core.pages.reading import read_article, read_list

URL = "https://ridge.example/visits/"
NOTES = [
    {"link": f"/notes/{number}", "headline": f"Note {number} of the &lt;ridge&gt;", "published": "2026-11-24",
     "image": {"url": f"/p/{number}.jpg"}, "teaser": "<p>Short.</p>"}
    for number in range(1, 6)
]  # fmt: skip
LONG = " ".join(["The comet stood above the reservoir wall, faint and low."] * 12)


def page(*scripts: str, body: str = '<div id="app"></div>') -> RawPage:
    text = f"<!doctype html><html><head><title>Visits</title></head><body>{body}{''.join(scripts)}</body></html>"
    return RawPage(body=text.encode(), url=URL, content_type="text/html")


def typed(data: object, kind: str = "application/json", name: str = "held") -> str:
    held = json.dumps(data).replace("<", "\\u003c")
    return f'<script type="{kind}" id="{name}">{held}</script>'


def assigned(code: str) -> str:
    return f"<script>{code}</script>"


def loaded(*scripts: str) -> Page:
    return page(*scripts).load()


class CarriedData(SimpleTestCase):
    def test_json_of_script_elements_and_assignments_is_found_by_name(self) -> None:
        found = carried_data(
            loaded(
                typed({"a": 1}),
                assigned('window.STATE = {"b": [1, "}"]}; var other={"c":2}; window["third"] = [1]; x = {y: 2};'),
                typed({"never": 1}, kind="application/ld+json", name="linked"),
                assigned('const broken = {"d": '),
            )
        )
        self.assertEqual(found, {"held": {"a": 1}, "STATE": {"b": [1, "}"]}, "other": {"c": 2}, "third": [1]})

    def test_deep_and_odd_data_harms_nothing(self) -> None:
        for code in ("[" * 100_000, '{"a":' * 50_000, "[" * 900 + "]" * 900):
            carried = loaded(typed({"ok": 1}), assigned(f"window.deep = {code}"))
            self.assertIn("held", carried_data(carried))
            self.assertEqual((lists_in_data(carried), article_in_data(carried)), ([], {}))

    def test_a_list_behind_a_longer_path_than_can_be_kept_is_not_proposed(self) -> None:
        carried = loaded(typed({"a" * 200: {"b" * 200: NOTES}}), typed({"c": NOTES}, name="short"))
        self.assertEqual([where.list for where, _ in lists_in_data(carried)], ["short.c"])

    def test_a_list_of_articles_is_proposed_with_the_names_of_its_fields(self) -> None:
        ((where, titles),) = lists_in_data(loaded(typed({"page": {"notes": NOTES, "menu": [{"url": "/a"}] * 5}})))
        names = {"url": "link", "title": "headline", "date": "published", "picture": "image", "excerpt": "teaser"}
        self.assertEqual(where, DataList(list="held.page.notes", **names))
        self.assertEqual(titles[0], "Note 1 of the <ridge>")

    def test_a_list_is_read_at_its_path(self) -> None:
        names = {"url": "link", "title": "headline", "date": "published", "picture": "image.url", "excerpt": "teaser"}
        held = [{"notes": [*NOTES, {"headline": "No address"}, 7]}]
        carried = loaded(assigned(f"window.STATE = {json.dumps(held)}"))
        read = read_list(carried, ListPage(data=DataList(list="STATE.0.notes", **names)))
        self.assertEqual(len(read.entries), 5)
        first = read.entries[0]
        self.assertEqual((first.url, first.title), ("https://ridge.example/notes/1", "Note 1 of the <ridge>"))
        self.assertEqual((first.picture, first.excerpt), ("https://ridge.example/p/1.jpg", "Short."))
        assert first.date is not None
        self.assertEqual((first.date.date().isoformat(), read.counts["link"]), ("2026-11-24", 5))

    def test_a_path_that_leads_nowhere_gives_nothing(self) -> None:
        for path in ("held", "held.page", "held.page.notes.9", "none", "held..notes", "held.page.notes.0.link"):
            self.assertEqual(entries_in_data(loaded(typed({"page": {"notes": {}}})), DataList(list=path)), (), path)

    def test_a_page_drawn_by_scripts_offers_what_it_carries_first(self) -> None:
        menu = "".join(f'<a href="/{name}/">{name} of the club</a>' for name in ("sky", "dome", "gear", "visits"))
        looked = look_at(page(typed({"notes": NOTES}), body=f'<nav>{menu}</nav><div id="app"></div>'))
        self.assertEqual(looked.kind, PageKind.SCRIPTED)
        self.assertEqual([one.settings.data is not None for one in looked.lists], [True])

    def test_an_article_is_read_from_what_its_page_carries(self) -> None:
        note = {"title": "A comet", "body": f"<p>{LONG}</p><script>x</script>", "author": {"name": "Ida"}}
        read = read_article(loaded(typed({"other": {"text": "short"}, "note": note})), ArticlePage())
        self.assertEqual((read.kind, read.fields["title"], read.fields["author"]), (PageKind.ARTICLE, "A comet", "Ida"))
        self.assertEqual((read.ways["text"], read.words > 90), ("carried", True))
        self.assertNotIn("script", read.fields["text"])

    def test_what_one_sees_goes_before_what_is_carried(self) -> None:
        seen = "".join(f"<p>{LONG} Part {number}.</p>" for number in range(3))
        text = page(typed({"note": {"body": "Other words. " * 60}}), body=f"<article><h1>Seen</h1>{seen}</article>")
        read = read_article(text.load(), ArticlePage())
        self.assertIn("Part 2", read.fields["text"])
        self.assertNotIn("Other words", read.fields["text"])

    def test_data_that_moves_is_found_again(self) -> None:
        settings = ListPage(data=DataList(list="held.notes", url="link", title="headline"))
        results = [Known(url=f"https://ridge.example/notes/{number}", title="", fields={}) for number in range(1, 6)]
        moved = page(typed({"page": {"rows": NOTES}}, name="kept"))
        made, mend = mended(moved, None, ReaderDocument(url=URL, list_page=settings), results)
        assert mend is not None
        assert made.list_page.data is not None
        self.assertEqual((made.list_page.data.list, mend.found, mend.sure), ("kept.page.rows", 5, True))
