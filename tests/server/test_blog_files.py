"""All rules and sources of a blog as one file: taken out, compared, and brought in."""

import yaml
from django.db import connection
from django.test import TestCase
from django.test.utils import CaptureQueriesContext
from glyptarch_core.campaign import load_document
from glyptarch_core.item import Right
from glyptarch_core.schedule import Schedule
from glyptarch_server.blog_files.actions import bring_in
from glyptarch_server.blog_files.document import BlogFile, PartKind, read_file, write_file
from glyptarch_server.blog_files.queries import Comparison, PartState, compare, file_of
from glyptarch_server.blogs.actions import add_term_table, add_word_list, change_word_list
from glyptarch_server.blogs.models import Blog, TermTable, WordList
from glyptarch_server.campaigns.actions import archive_campaign, create_campaign, set_blog_defaults, set_schedule
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.campaigns.queries import document_of, latest_revision
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.pages.actions import checked_document, make_reader
from glyptarch_server.pages.models import Reader
from glyptarch_server.platforms.actions import make_connection
from glyptarch_server.sources.access import access_of
from glyptarch_server.sources.actions import change_access, change_many, change_source, remove_source
from glyptarch_server.sources.adding import add_page_source, add_platform_source
from glyptarch_server.sources.models import Source

from tests.server.fixtures import NOW, make_blog, make_source
from tests.server.test_api import ApiCase

SECRET = "a-secret-of-the-vale"  # noqa: S105 - what must not go out
EVERY = Schedule.model_validate({"when": {"kind": "daily", "times": ["07:00"]}})
READER = {"url": "https://ridge.example/", "list_page": {"link": "article > h2 > a"}}


def make_whole(slug: str = "meadow") -> Blog:
    """Make a blog that has each kind of part."""
    blog = make_blog(slug)
    add_word_list(blog, "Storms", ["storm", "hail*"], now=NOW)
    add_term_table(blog, "Names", 'dome,Dome\n"a, b",c,https://a.example/', now=NOW)
    reader = make_reader(blog, "Ridge", checked_document(READER), now=NOW)
    club = make_source(blog)
    change_source(
        club, "The club", right=Right.LINK, words=40, attribution="By the club", full_text_words=20, text_reader="ridge"
    )
    headers = [{"name": "X-Api-Key", "value": SECRET}]
    change_access(
        club, headers=headers, user="mira", password=SECRET, any_certificate=False, pause_ms=500, patience_s=30, tries=3
    )
    change_many(blog, [club], "label", "Clubs", now=NOW)
    add_page_source(blog, reader, "", "Ridge notes", right=Right.FULL, now=NOW)
    address = "https://wire.example/api"
    make_connection(blog, "wire", name="Vale wire", address=address, fields={"key": SECRET}, now=NOW)
    add_platform_source(
        blog,
        "wire",
        "Wire",
        connection="vale-wire",
        parameters={"topic": "comets"},
        search_words=[{"text": "tail"}],
        now=NOW,
    )
    rules = {
        "gather": {"sources": ["club", "wire"]},
        "sift": {"rules": [{"id": "s", "kind": "terms", "mode": "none", "lists": ["storms"]}]},
        "shape": {"steps": [{"id": "t", "kind": "table", "tables": ["names"]}]},
    }
    campaign = create_campaign(blog, "Sky", load_document(rules), by=None, now=NOW)
    set_schedule(campaign, EVERY, paused=False, now=NOW)
    set_blog_defaults(blog, load_document({"place": {"byline": "Night desk"}}))
    return blog


class FileCase(TestCase):
    def setUp(self) -> None:
        self.blog = make_whole()

    def compared(self, file: BlogFile, blog: Blog | None = None) -> Comparison:
        return compare(blog or self.blog, file)

    def states(self, compared: Comparison) -> dict[str, str]:
        return {f"{part.kind.value} {part.key}": part.state.value for part in compared.parts}

    def bring(self, file: BlogFile, blog: Blog | None = None, *keys: str) -> int:
        compared = self.compared(file, blog)
        chosen = {(part.kind, part.key) for part in compared.parts if not keys or part.key in keys}
        return bring_in(blog or self.blog, file, chosen, stamp=compared.stamp, by=None, now=NOW)


class TakenOut(FileCase):
    def test_it_holds_each_part_and_no_secret(self) -> None:
        text = write_file(file_of(self.blog))
        self.assertNotIn(SECRET, text)
        self.assertNotIn("X-Api-Key", text)
        data = yaml.safe_load(text)
        self.assertEqual(
            {name: [part["key"] for part in data[name]] for name in data if isinstance(data[name], list)},
            {
                "word_lists": ["storms"],
                "term_tables": ["names"],
                "readers": ["ridge"],
                "sources": ["club", "ridge-notes", "wire"],
                "campaigns": ["sky"],
            },
        )
        self.assertEqual(data["sources"][0]["access"], {"pause_ms": 500, "patience_s": 30, "tries": 3})
        self.assertEqual(data["sources"][2]["asks"]["connection"], "vale-wire")
        self.assertEqual(data["defaults"]["document"]["place"]["byline"], "Night desk")

    def test_it_comes_back_as_it_went(self) -> None:
        file = file_of(self.blog)
        self.assertEqual(read_file(write_file(file)), file)
        self.assertEqual(set(self.states(self.compared(read_file(write_file(file)))).values()), {"same"})

    def test_what_is_archived_or_removed_is_not_in_it(self) -> None:
        archive_campaign(Campaign.objects.get(), now=NOW)
        remove_source(Source.objects.get(key="wire"), now=NOW)
        file = file_of(self.blog)
        self.assertEqual((file.campaigns, [part.key for part in file.sources]), ((), ["club", "ridge-notes"]))

    def test_the_queries_do_not_grow_with_the_blog(self) -> None:
        with CaptureQueriesContext(connection) as few:
            file_of(self.blog)
        for number in range(12):
            make_source(self.blog, f"more-{number}")
            create_campaign(self.blog, f"More {number}", load_document({}), by=None, now=NOW)
        with CaptureQueriesContext(connection) as many:
            file_of(self.blog)
        self.assertEqual(len(few), len(many))


class BroughtIn(FileCase):
    def test_an_empty_blog_becomes_the_same(self) -> None:
        file, other = read_file(write_file(file_of(self.blog))), make_blog("other")
        make_connection(
            other, "wire", name="Vale wire", address="https://wire.example/api", fields={"key": "k"}, now=NOW
        )
        self.assertEqual(set(self.states(self.compared(file, other)).values()), {"new"})
        self.assertEqual(self.bring(file, other), 8)
        again = file_of(other)
        self.assertEqual(again.model_copy(update={"blog": file.blog}), file)
        self.assertEqual(set(self.states(self.compared(file, other)).values()), {"same"})
        campaign = Campaign.objects.get(blog=other)
        # Nothing runs before somebody has looked at it.
        self.assertEqual((campaign.paused, campaign.next_run_at), (True, None))

    def test_a_change_is_shown_and_the_rest_stays(self) -> None:
        file = file_of(self.blog)
        storms, sky = WordList.objects.get(), Campaign.objects.get()
        change_word_list(storms, "Storms", ["gale"], now=NOW)
        make_source(self.blog, "later")
        states = self.states(self.compared(file))
        self.assertEqual((states["word_list storms"], states["source later"]), ("changed", "stays"))
        self.assertEqual(list(states.values()).count("same"), 7)
        (part,) = [part for part in self.compared(file).parts if part.state is PartState.CHANGED]
        assert part.before is not None and part.after is not None
        self.assertEqual((part.before["words"], part.after["words"]), (["gale"], ["storm", "hail*"]))
        self.assertEqual(self.bring(file), 1)
        storms.refresh_from_db()
        self.assertEqual(storms.words, ["storm", "hail*"])
        self.assertTrue(Source.objects.filter(key="later", removed_at=None).exists())
        self.assertEqual(latest_revision(sky).number, 1)

    def test_rules_become_a_revision_and_secrets_stay(self) -> None:
        data = yaml.safe_load(write_file(file_of(self.blog)))
        data["campaigns"][0] |= {"name": "Night sky", "schedule": {"when": {"kind": "daily", "times": ["09:00"]}}}
        data["campaigns"][0]["document"]["release"]["mode"] = "publish"
        data["sources"][0] |= {"name": "Our club", "labels": ["Vale"], "paused": True, "access": {"pause_ms": 900}}
        file = read_file(yaml.safe_dump(data))
        self.assertEqual(self.bring(file), 2)
        sky, club = Campaign.objects.get(), Source.objects.get(key="club")
        revision = latest_revision(sky)
        self.assertEqual((sky.name, sky.slug, revision.number), ("Night sky", "sky", 2))
        self.assertEqual(document_of(revision).release.mode.value, "publish")
        self.assertEqual((sky.schedule["when"]["times"], sky.paused), (["09:00"], False))
        self.assertEqual(
            (club.title, club.labels, club.paused, club.access.pause_ms), ("Our club", ["Vale"], True, 900)
        )
        kept = access_of(club)
        self.assertEqual((kept.headers, kept.user, kept.password), ((("X-Api-Key", SECRET),), "mira", SECRET))

    def test_only_what_was_chosen_comes(self) -> None:
        file, other = file_of(self.blog), make_blog("other")
        self.assertEqual(self.bring(file, other, "storms", "club", "ridge"), 3)
        self.assertEqual(list(Source.objects.filter(blog=other).values_list("key", flat=True)), ["club"])
        with self.assertRaisesMessage(Invalid, "“Sky”: The rules name sources that this blog does not have"):
            self.bring(file, other, "sky")
        self.assertFalse(TermTable.objects.filter(blog=other).exists())

    def test_a_feed_that_is_there_under_another_key_is_not_taken_twice(self) -> None:
        other = make_blog("other")
        taken = make_source(other, "club")
        Source.objects.filter(pk=taken.pk).update(url="https://another.example/feed")
        mine = make_source(other, "wire")
        Source.objects.filter(pk=mine.pk).update(key="ours", url="https://club.example/feed")
        data = yaml.safe_load(write_file(file_of(self.blog)))
        data["sources"] = [part for part in data["sources"] if part["key"] != "wire"]
        data["campaigns"][0]["document"]["gather"]["sources"] = ["club", "ridge-notes"]
        file = read_file(yaml.safe_dump(data))
        self.bring(file, other)
        document = document_of(latest_revision(Campaign.objects.get(blog=other)))
        self.assertEqual(document.gather.sources, ("ours", "ridge-notes"))
        self.assertEqual(Source.objects.filter(blog=other, removed_at=None).count(), 3)
        self.assertEqual(Source.objects.get(blog=other, key="ours").title, "The club")
        self.assertEqual(Source.objects.get(blog=other, key="club").title, "Club")

    def test_a_key_of_another_feed_or_a_removed_one_gets_a_number(self) -> None:
        file, other = file_of(self.blog), make_blog("other")
        taken = make_source(other, "club")
        Source.objects.filter(pk=taken.pk).update(url="https://another.example/feed")
        gone = make_reader(other, "Ridge", checked_document(READER), now=NOW)
        Reader.objects.filter(pk=gone.pk).update(removed_at=NOW)
        self.bring(file, other, "club", "ridge", "ridge-notes")
        self.assertEqual(Source.objects.get(blog=other, key="club-2").url, "https://club.example/feed")
        self.assertEqual(
            Source.objects.get(blog=other, key="club-2").full_text.reader, Reader.objects.get(key="ridge-2")
        )
        notes = Source.objects.get(blog=other, key="ridge-notes")
        assert notes.reader is not None
        self.assertEqual(notes.reader.key, "ridge-2")


class Refused(FileCase):
    def fault(self, key: str, change: dict[str, object], kind: str = "sources") -> str:
        data = yaml.safe_load(write_file(file_of(self.blog)))
        part = next(part for part in data[kind] if part["key"] == key)
        part |= change
        compared = self.compared(read_file(yaml.safe_dump(data)))
        (faulty,) = [part for part in compared.parts if part.state is PartState.FAULTY]
        self.assertEqual(faulty.key, key)
        return faulty.fault

    def test_what_cannot_be_says_why(self) -> None:
        document = load_document({"gather": {"sources": ["nobody"]}}).model_dump(mode="json")
        self.assertIn("“nobody”", self.fault("sky", {"document": document}, "campaigns"))
        self.assertIn("release.mode", self.fault("sky", {"document": {"release": {"mode": "x"}}}, "campaigns"))
        self.assertIn("when", self.fault("sky", {"schedule": {"when": {"kind": "x"}}}, "campaigns"))
        self.assertIn("no address", self.fault("club", {"address": "club"}))
        self.assertIn("page reader “x”", self.fault("club", {"reader": "x"}))
        self.assertIn("topic", self.fault("wire", {"asks": {"platform": "wire", "parameters": {"topic": 3}}}))
        self.assertIn("needs a connection “x”", self.fault("wire", {"asks": {"platform": "wire", "connection": "x"}}))
        self.assertIn("Line 1", self.fault("names", {"lines": [["dome", "", ""]]}, "term_tables"))
        self.assertIn("“!!”", self.fault("storms", {"words": ["!!"]}, "word_lists"))

    def test_a_faulty_part_that_was_chosen_changes_nothing(self) -> None:
        data = yaml.safe_load(write_file(file_of(self.blog)))
        data["word_lists"][0]["words"] = ["gale"]
        data["campaigns"][0]["document"]["release"]["mode"] = "x"
        file = read_file(yaml.safe_dump(data))
        with self.assertRaisesMessage(Invalid, "“Sky” cannot be brought in. release.mode"):
            self.bring(file)
        self.assertEqual(WordList.objects.get().words, ["storm", "hail*"])
        self.assertEqual(self.bring(file, None, "storms"), 1)

    def test_a_part_that_fails_on_the_way_takes_all_back(self) -> None:
        file, other = file_of(self.blog), make_blog("other")
        with self.assertRaisesMessage(Invalid, "“Sky”: The rules name"):
            self.bring(file, other, "storms", "names", "sky")
        self.assertFalse(WordList.objects.filter(blog=other).exists())

    def test_a_blog_that_has_changed_since_is_compared_again(self) -> None:
        file = file_of(self.blog)
        stamp = self.compared(file).stamp
        change_word_list(WordList.objects.get(), "Storms", ["gale"], now=NOW)
        with self.assertRaisesMessage(Conflict, "Look at the differences again"):
            bring_in(self.blog, file, {(PartKind.WORD_LIST, "storms")}, stamp=stamp, by=None, now=NOW)

    def test_files_that_do_not_hold_name_the_place(self) -> None:
        for text, why in (
            ("", "no file of a blog"),
            ("just words", "no file of a blog"),
            ("a: [", "line 2"),
            ("format: 2", "format"),
            ("format: 1\nsecrets: []", "secrets"),
            ("word_lists: [{key: A B, name: x}]", "word_lists.0.key"),
            ("word_lists: [{key: a, name: x}, {key: a, name: y}]", "two parts “a”"),
            ("sources: [{key: a, name: x, password: y}]", "sources.0.password"),
            ("x: &a [1]\ny: *a", "aliases"),
        ):
            with self.subTest(text), self.assertRaisesMessage(Invalid, why):
                read_file(text)


class OverHttp(ApiCase):
    def test_a_file_goes_out_is_compared_and_comes_in(self) -> None:
        out = self.call(self.editor, "GET", "/blogs/meadow/blog-file")
        self.assertEqual(out["Content-Disposition"], 'attachment; filename="meadow.yaml"')
        text = out.content.decode().replace("name: Sky", "name: Night sky")
        path = "/blogs/meadow/blog-file"
        compared = self.call(self.editor, "POST", f"{path}/comparison", {"yaml": text}).json()
        (changed,) = [part for part in compared["parts"] if part["state"] == "changed"]
        self.assertEqual(
            (changed["key"], changed["before"]["name"], changed["after"]["name"]), ("sky", "Sky", "Night sky")
        )
        body = {"yaml": text, "stamp": compared["stamp"], "chosen": [{"kind": "campaign", "key": "sky"}]}
        self.assertEqual(self.call(self.editor, "POST", path, body).json(), {"brought_in": 1})
        self.assertEqual(self.call(self.editor, "POST", path, body).json(), {"brought_in": 0})
        self.assertEqual(self.call(self.editor, "GET", "/blogs/meadow/campaigns/sky").json()["name"], "Night sky")
