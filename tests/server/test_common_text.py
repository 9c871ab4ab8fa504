"""Common passages of a blog are computed from its posts and weigh little in Match."""

from datetime import timedelta

from django.test import TestCase
from glyptarch_core.text import NOTHING_COMMON
from glyptarch_server.blogs.models import CommonText
from glyptarch_server.blogs.queries import blog_context_of, common_text_of
from glyptarch_server.posts.actions import learn_common_text
from glyptarch_server.posts.models import Post
from glyptarch_server.posts.queries import blogs_to_learn_from
from glyptarch_server.posts.tasks import learn_common_text as job

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, run

STOCK = "Read on at the site of the club for pictures and the full account of the night."


class CommonTextOfABlog(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)
        for number in range(4):
            self.fill(number)
        self.campaign = make_campaign(self.blog)
        run(self.campaign)

    def fill(self, number: int) -> None:
        fill(self.source, [number], title=f"Quite another {number} title", body=f"<p>Night {number} of it. {STOCK}</p>")

    def test_nothing_is_common_before_it_is_learned(self) -> None:
        self.assertEqual(common_text_of(self.blog.pk), NOTHING_COMMON)

    def test_what_many_posts_say_is_common_and_known_to_the_rules(self) -> None:
        learn_common_text(self.blog.pk, now=NOW)
        common = blog_context_of(self.blog, []).common
        self.assertIn(4, common.counts.values())
        self.assertEqual(common_text_of(make_blog("other").pk), NOTHING_COMMON)

    def test_refused_posts_teach_nothing(self) -> None:
        Post.objects.update(state="refused")
        learn_common_text(self.blog.pk, now=NOW)
        self.assertEqual(common_text_of(self.blog.pk), NOTHING_COMMON)

    def test_it_is_learned_anew_when_posts_have_changed_and_not_otherwise(self) -> None:
        self.assertEqual(blogs_to_learn_from(), [self.blog.pk])
        job(0)
        self.assertEqual(blogs_to_learn_from(), [])
        before = common_text_of(self.blog.pk)
        CommonText.objects.update(learned_at=NOW - timedelta(days=1))
        Post.objects.filter(pk=Post.objects.values("pk")[:1]).update(state="refused", changed_at=NOW)
        self.assertEqual(blogs_to_learn_from(), [self.blog.pk])
        job(0)
        self.assertNotEqual(common_text_of(self.blog.pk), before)
