"""Word lists of a blog, and the campaigns that share them."""

from django.test import TestCase
from glyptarch_core.campaign import load_document
from glyptarch_server.blogs.actions import add_term_table, add_word_list, change_term_table, change_word_list
from glyptarch_server.campaigns.actions import drop_term_table, drop_word_list, save_revision
from glyptarch_server.campaigns.queries import library_uses
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.posts.models import Post
from glyptarch_server.proofs.prove import make_proof
from glyptarch_server.runs.models import Decision, RuleUse

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, run

RULE = {"id": "r", "kind": "terms", "mode": "none", "lists": ["bad-words"]}


class WordLists(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        fill(make_source(self.blog), range(3))
        self.list = add_word_list(self.blog, "Bad words", [" 1 ", "1", ""], now=NOW)

    def test_terms_are_cleaned_and_each_must_hold_a_word(self) -> None:
        self.assertEqual((self.list.key, self.list.words), ("bad-words", ["1"]))
        with self.assertRaises(Invalid):
            change_word_list(self.list, "Bad words", ["***"], now=NOW)

    def test_a_run_takes_terms_from_the_list_as_it_stands(self) -> None:
        change_word_list(self.list, "Bad words", ["1", "2"], now=NOW)
        run(make_campaign(self.blog, sift={"rules": [RULE]}))
        self.assertEqual(Decision.objects.filter(verdict="refused").count(), 2)

    def test_a_proof_follows_a_change_of_the_list(self) -> None:
        campaign = make_campaign(self.blog, sift={"rules": [RULE]})
        document = load_document({"gather": {"sources": ["club"]}, "sift": {"rules": [RULE]}})
        refused = []
        for second, words in enumerate((["1"], ["1", "2"])):
            change_word_list(self.list, "Bad words", words, now=NOW)
            proof = make_proof(campaign, document, now=NOW.replace(second=second))
            refused.append(sum(item.decision.left_at is not None for item in proof.items))
        self.assertEqual(refused, [1, 2])

    def test_a_list_that_rules_name_is_not_removed(self) -> None:
        campaign = make_campaign(self.blog, sift={"rules": [{"id": "g", "kind": "group", "rules": [RULE]}]})
        with self.assertRaisesRegex(Conflict, "Sky"):
            drop_word_list(self.blog, "bad-words")
        save_revision(campaign, load_document({}), base=1, by=None, note="", now=NOW)
        drop_word_list(self.blog, "bad-words")

    def test_each_list_and_table_knows_the_campaigns_that_use_it(self) -> None:
        add_term_table(self.blog, "Own", "dome,Dome", now=NOW)
        steps = [{"id": "t", "kind": "table", "tables": ["own"]}]
        make_campaign(self.blog, "Sky", sift={"rules": [RULE]}, shape={"steps": steps})
        make_campaign(self.blog, "Club", sift={"rules": [RULE]})
        make_campaign(self.blog, "None")
        with self.assertNumQueries(1):
            uses = library_uses(self.blog)
        self.assertEqual([word.name for word in uses.lists["bad-words"]], ["Club", "Sky"])
        self.assertEqual({key: [one.slug for one in using] for key, using in uses.tables.items()}, {"own": ["sky"]})

    def test_rules_that_name_a_list_that_is_not_there_are_refused(self) -> None:
        with self.assertRaisesRegex(Invalid, "no-such"):
            make_campaign(self.blog, sift={"rules": [{**RULE, "lists": ["no-such"]}]})


class IdleRules(TestCase):
    def test_a_rule_is_idle_since_it_last_spoke_or_was_first_asked(self) -> None:
        blog = make_blog()
        fill(make_source(blog), range(3))
        rules = [
            {"id": "busy", "kind": "terms", "mode": "none", "terms": ["1"]},
            {"id": "idle", "kind": "number", "at_least": 1},
        ]
        run(make_campaign(blog, sift={"rules": rules}))
        uses = {use.rule: (use.since, use.last) for use in RuleUse.objects.all()}
        self.assertEqual(uses["sift.busy"], (NOW, NOW))
        self.assertEqual(uses["sift.idle"], (NOW, None))


class TermTables(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)
        self.table = add_term_table(
            self.blog, "House words", 'dome,"the dome, our own"\n\nfield,,https://f.example/', now=NOW
        )

    def test_a_first_line_may_name_the_columns(self) -> None:
        for header in ("what,by,link", "Term,Replacement", "word,with,URL", "from,to,"):
            with self.subTest(header):
                table = add_term_table(self.blog, header, f"{header}\ndome,the dome", now=NOW)
                self.assertEqual(table.rows, [["dome", "the dome", ""]])
        words = add_term_table(self.blog, "Words", "word,Wort\nfrom,of", now=NOW)
        self.assertEqual(
            [row[0] for row in words.rows], ["word", "from"], "words that columns are called by, but no header"
        )

    def test_lines_are_read_as_csv(self) -> None:
        self.assertEqual(self.table.rows, [["dome", "the dome, our own", ""], ["field", "", "https://f.example/"]])

    def test_a_bad_line_is_named(self) -> None:
        for text, said in [
            ("a,b\n***,c", "Line 2"),
            ("a", "say what replaces"),
            ("a,b,ftp://x", "no address"),
            ("a,b,https://x.example,d", "4 columns"),
        ]:
            with self.subTest(text), self.assertRaisesRegex(Invalid, said):
                change_term_table(self.table, "House words", text, now=NOW)

    def test_a_run_goes_by_it_and_it_stays_while_rules_name_it(self) -> None:
        fill(self.source, [1])
        steps = [{"id": "t", "kind": "table", "tables": ["house-words"]}]
        campaign = make_campaign(self.blog, shape={"steps": steps})
        run(campaign)
        body = Post.objects.get().body
        self.assertIn("the dome, our own", body)
        self.assertIn('<a href="https://f.example/">field</a>', body)
        with self.assertRaisesRegex(Conflict, "Sky"):
            drop_term_table(self.blog, "house-words")
        save_revision(campaign, load_document({}), base=1, by=None, note="", now=NOW)
        drop_term_table(self.blog, "house-words")
