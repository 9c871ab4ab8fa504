"""Posts of one item in several languages name each other."""

from django.test import TestCase
from glyptarch_server.posts.for_readers import editions_of
from glyptarch_server.posts.models import Post

from tests.server.fixtures import fill, make_blog, make_campaign, make_source, run, text_of


class Editions(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        fill(make_source(self.blog), [1, 2], language="en")
        for name, language in (("Here", ""), ("German", "de"), ("Japanese", "ja")):
            place = {"language": language} if language else {}
            run(make_campaign(self.blog, name, match={"against": "campaign"}, place=place))

    def post(self, campaign: str) -> Post:
        return Post.objects.filter(campaign__name=campaign).order_by("item").first()  # type: ignore[return-value]

    def page(self, post: Post) -> str:
        return text_of(self.client.get(f"/blog/meadow/{post.slug}/"))

    def test_each_names_the_others_and_itself(self) -> None:
        german = self.post("German")
        page = self.page(german)
        for post, language in ((self.post("Here"), "en"), (german, "de"), (self.post("Japanese"), "ja")):
            address = f"http://testserver/blog/meadow/{post.slug}/"
            self.assertIn(f'<link rel="alternate" hreflang="{language}" href="{address}">', page)
        self.assertIn(f'hreflang="x-default" href="http://testserver/blog/meadow/{self.post("Here").slug}/"', page)
        self.assertIn('<span aria-current="page" lang="de">Deutsch</span>', page)
        self.assertIn(">日本語</a>", page)

    def test_a_post_without_others_has_no_switcher(self) -> None:
        Post.objects.exclude(campaign__name="Here").update(state="held")
        page = self.page(self.post("Here"))
        self.assertNotIn("hreflang", page)
        self.assertNotIn('class="editions"', page)

    def test_what_is_not_public_is_not_named(self) -> None:
        Post.objects.filter(campaign__name="Japanese").update(visibility="private")
        self.assertEqual([one.language for one in editions_of(self.blog, self.post("Here"))], ["de"])

    def test_the_newest_of_a_language_counts(self) -> None:
        run(make_campaign(self.blog, "German again", match={"against": "campaign"}, place={"language": "de"}))
        again = self.post("German again")
        self.assertEqual(
            [one.slug for one in editions_of(self.blog, self.post("Here")) if one.language == "de"], [again.slug]
        )

    def test_it_costs_one_query(self) -> None:
        post = self.post("Here")
        with self.assertNumQueries(1):
            editions_of(self.blog, post)
        by_hand = Post(blog=self.blog, item=None)
        with self.assertNumQueries(0):
            editions_of(self.blog, by_hand)
