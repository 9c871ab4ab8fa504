"""The memory of Match: in batches of any size, and cached during edits."""

from collections.abc import Sequence
from datetime import timedelta
from unittest.mock import patch

from django.test import TestCase
from glyptarch_core.match import keys_of, near_keys
from glyptarch_core.ports import Candidate, Key, KeyKind, Near, Reach, Scope
from glyptarch_server.items.models import Item
from glyptarch_server.items.queries import as_captured
from glyptarch_server.posts.actions import move_post
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.memory import PostMemory, memory_stamp
from glyptarch_server.posts.models import Post
from glyptarch_server.posts.proof_memory import ProofMemory

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, run

WORDS = (
    "the sky over the valley was dark and clear that night and the club had come out to the old mill to watch".split()
)
BLOG = Reach(scope=Scope.BLOG)


def text_of(number: int) -> str:
    """Return a text whose word runs no other number shares."""
    return " ".join(f"{word}{number}" for word in WORDS)


class MemoryCase(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)
        for number in range(5):
            fill(self.source, [number], body=f"<p>{text_of(number)}</p>")
        self.campaign = make_campaign(self.blog)
        run(self.campaign)
        self.other = make_campaign(self.blog, "Other")
        self.items = as_captured(Item.objects.select_related("source").order_by("pk"))

    @staticmethod
    def seen(found: Sequence[Sequence[Candidate]]) -> list[list[str]]:
        """Return the found posts in comparable form."""
        return [[str(one.seen.ref) for one in some] for some in found]

    def keys(self, *numbers: int) -> list[list[int]]:
        return [near_keys(self.items[number])[Near.TEXT] for number in numbers]


class Remembered(MemoryCase):
    def test_a_post_is_known_by_each_of_its_keys(self) -> None:
        for key in keys_of(self.items[2]):
            with self.subTest(key.kind):
                self.assertEqual(PostMemory(self.other).recall([key], BLOG)[key].link, self.items[2].item.link)

    def test_what_nobody_has_said_is_not_known(self) -> None:
        key = Key(KeyKind.LINK, "https://nowhere.example/")
        self.assertEqual(PostMemory(self.other).recall([key], BLOG), {})

    def test_a_passage_that_very_many_share_does_not_hide_the_rest(self) -> None:
        closing = " ".join(f"closing{number}" for number in range(40))
        for number in range(20, 32):
            fill(self.source, [number], body=f"<p>{text_of(number)} {closing}</p>")
        run(self.campaign)
        oldest = Post.objects.order_by("pk")[5]
        keys = near_keys(as_captured([oldest.item])[0])[Near.TEXT]
        memory = PostMemory(self.other)
        with patch.multiple("glyptarch_server.posts.memory", _MOST_ALIKE=4, _ALIKE_EACH=0, _HOT=3):
            (found,) = memory.resembling(Near.TEXT, [keys], BLOG)
            self.assertEqual(str(found[0].seen.ref), f"post:{oldest.pk}")

    def test_the_same_is_found_however_many_are_asked_at_once(self) -> None:
        memory = PostMemory(self.other)
        alone = [memory.resembling(Near.TEXT, self.keys(number), BLOG)[0] for number in range(5)]
        self.assertEqual([[one.seen.title for one in found] for found in alone],
                         [[self.items[number].item.title] for number in range(5)])  # fmt: skip
        # More lists than one batch has, with some that are empty.
        many = [*self.keys(*range(5)), *([[]] * 3), *self.keys(*(number % 5 for number in range(150)))]
        found = self.seen(memory.resembling(Near.TEXT, many, BLOG))
        expected = self.seen(alone)
        self.assertEqual(found, [*expected, [], [], [], *(expected[number % 5] for number in range(150))])

    def test_nothing_is_asked_where_nothing_is_compared(self) -> None:
        with self.assertNumQueries(0):
            self.assertEqual(PostMemory(self.other).resembling(Near.TEXT, [[], []], BLOG), [[], []])

    def test_the_reach_is_kept_to(self) -> None:
        key = keys_of(self.items[0])[0]
        memory = PostMemory(self.other)
        self.assertEqual(memory.recall([key], Reach(scope=Scope.CAMPAIGN)), {})
        after = Reach(scope=Scope.BLOG, since=NOW + timedelta(days=1))
        self.assertEqual(memory.recall([key], after), {})
        self.assertEqual(memory.resembling(Near.TEXT, self.keys(0), after), [[]])
        move_post(Post.objects.get(item__link=self.items[0].item.link), PostState.REFUSED, now=NOW)
        self.assertIn(key, memory.recall([key], BLOG))
        self.assertEqual(memory.recall([key], Reach(scope=Scope.BLOG, refused=False)), {})

    def test_items_that_are_left_out_do_not_stand_in_their_own_way(self) -> None:
        keys = keys_of(self.items[0])
        item = Item.objects.get(link=self.items[0].item.link).pk
        self.assertEqual(PostMemory(self.campaign, leaving_out=[item]).recall(keys, BLOG), {})
        self.assertNotEqual(PostMemory(self.campaign).recall(keys, BLOG), {})


class KeptForAMoment(MemoryCase):
    def memory(self) -> ProofMemory:
        return ProofMemory(self.other, leaving_out=[])

    def test_what_was_asked_before_is_not_asked_again(self) -> None:
        first, second = keys_of(self.items[0]), keys_of(self.items[1])
        self.memory().recall(first, BLOG)
        again = self.memory()
        with self.assertNumQueries(0):
            self.assertEqual(set(again.recall(first, BLOG)), set(first))
        with self.assertNumQueries(1):
            self.assertEqual(set(again.recall([*first, *second], BLOG)), {*first, *second})

    def test_likes_are_kept_as_well_and_given_in_the_order_asked_for(self) -> None:
        expected = self.seen(PostMemory(self.other).resembling(Near.TEXT, self.keys(3, 1), BLOG))
        self.memory().resembling(Near.TEXT, self.keys(1), BLOG)
        memory = self.memory()
        self.assertEqual(self.seen(memory.resembling(Near.TEXT, self.keys(3, 1), BLOG)), expected)
        with self.assertNumQueries(0):
            found = memory.resembling(Near.TEXT, self.keys(1, 3, 1), BLOG)
        self.assertEqual(self.seen(found), [expected[1], *expected])

    def test_another_reach_is_another_question(self) -> None:
        keys = keys_of(self.items[0])
        self.memory().recall(keys, BLOG)
        memory = self.memory()
        with self.assertNumQueries(1):
            self.assertEqual(memory.recall(keys, Reach(scope=Scope.CAMPAIGN)), {})

    def test_whatever_is_written_makes_it_ask_anew(self) -> None:
        keys = keys_of(self.items[0])
        self.memory().recall(keys, Reach(scope=Scope.BLOG, refused=False))
        stamp = memory_stamp()
        move_post(Post.objects.get(item__link=self.items[0].item.link), PostState.REFUSED, now=NOW + timedelta(hours=1))
        self.assertNotEqual(memory_stamp(), stamp)
        self.assertEqual(self.memory().recall(keys, Reach(scope=Scope.BLOG, refused=False)), {})

    def test_dates_and_what_went_out_are_asked_each_time(self) -> None:
        memory = ProofMemory(self.campaign, leaving_out=[])
        self.assertEqual(len(memory.dates(NOW - timedelta(days=30), NOW)), 5)
        self.assertEqual(len(memory.put_out(NOW - timedelta(hours=1))), 5)
        Post.objects.all()[0].delete()
        self.assertEqual(len(memory.dates(NOW - timedelta(days=30), NOW)), 4)
        self.assertEqual(len(memory.put_out(NOW - timedelta(hours=1))), 4)
