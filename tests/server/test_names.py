"""Categories, tags and bylines: renamed and made one, and rules that say an old name go on."""

from glyptarch_server.blogs.actions import categories_named, tags_named
from glyptarch_server.blogs.models import Category, FormerName, NameKind, Tag
from glyptarch_server.campaigns.queries import document_of, latest_revision
from glyptarch_server.names.actions import add_name, merge, rename
from glyptarch_server.posts.context import context_for
from glyptarch_server.posts.models import Post

from tests.server.fixtures import fill, make_campaign, run
from tests.server.test_api import ApiCase


class Names(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        self.planets, self.moon = (add_name(self.blog, NameKind.CATEGORY, name) for name in ("Planets", "Moon"))
        self.posts = list(Post.objects.order_by("pk"))
        for post in self.posts:
            post.categories.set([self.planets])
            Post.objects.filter(pk=post.pk).update(category=self.planets)

    def listed(self, kind: str = "category") -> dict[str, int]:
        rows = self.call(self.viewer, "GET", f"/blogs/meadow/names/{kind}").json()["rows"]
        return {row["name"]: row["posts"] for row in rows}

    def test_each_is_listed_with_the_posts_that_bear_it(self) -> None:
        self.assertEqual(self.listed(), {"Moon": 0, "Planets": 3})

    def test_they_stand_by_name_or_by_their_posts(self) -> None:
        add_name(self.blog, NameKind.CATEGORY, "Stars")
        orders = {
            sort: [
                row["name"]
                for row in self.call(self.viewer, "GET", f"/blogs/meadow/names/category?sort={sort}").json()["rows"]
            ]
            for sort in ("name", "posts", "unused")
        }
        self.assertEqual(
            orders,
            {
                "name": ["Moon", "Planets", "Stars"],
                "posts": ["Planets", "Moon", "Stars"],
                "unused": ["Moon", "Stars", "Planets"],
            },
        )
        self.assertEqual(self.call(self.viewer, "GET", "/blogs/meadow/names/category?sort=x").status_code, 422)

    def test_rules_that_say_the_old_name_mean_the_one_of_today(self) -> None:
        rename(self.planets, NameKind.CATEGORY, "Worlds")
        self.assertEqual(categories_named(self.blog, ["planets"])["planets"].name, "Worlds")
        self.assertEqual(self.listed(), {"Moon": 0, "Worlds": 3})
        fill(self.source, range(10, 12))
        run(make_campaign(self.blog, "Later", place={"category": "Planets"}, match={"rules": []}))
        self.assertEqual(set(Post.objects.values_list("category__name", flat=True)), {"Worlds"})

    def test_a_proof_shows_the_name_of_today(self) -> None:
        rename(self.planets, NameKind.CATEGORY, "Worlds")
        campaign = make_campaign(self.blog, "Later", place={"category": "Planets"}, match={"rules": []})
        context = context_for(self.blog, [document_of(latest_revision(campaign))])
        self.assertEqual(dict(context.renamed.categories), {"planets": "Worlds"})
        add_name(self.blog, NameKind.CATEGORY, "Planets")
        self.assertEqual(context_for(self.blog, []).renamed.categories, ())

    def test_a_name_that_is_taken_again_is_no_old_one_any_more(self) -> None:
        rename(self.planets, NameKind.CATEGORY, "Worlds")
        again = add_name(self.blog, NameKind.CATEGORY, "Planets")
        self.assertEqual(categories_named(self.blog, ["Planets"])["planets"].pk, again.pk)

    def test_posts_follow_when_two_are_made_one(self) -> None:
        self.posts[0].categories.add(self.moon)
        rename(self.planets, NameKind.CATEGORY, "Worlds")
        merge(self.planets, NameKind.CATEGORY, self.moon.pk)
        self.assertEqual(self.listed(), {"Moon": 3})
        self.assertEqual(set(Post.objects.values_list("category__name", flat=True)), {"Moon"})
        for name in ("Worlds", "Planets"):
            self.assertEqual(categories_named(self.blog, [name]).popitem()[1].pk, self.moon.pk)

    def test_tags_and_bylines_are_made_one_as_well(self) -> None:
        dew, mist = (add_name(self.blog, NameKind.TAG, name) for name in ("Dew", "Mist"))
        self.posts[0].tags.set([dew, mist])
        self.posts[1].tags.set([dew])
        merge(dew, NameKind.TAG, mist.pk)
        self.assertEqual(self.listed("tag"), {"Mist": 2})
        self.assertEqual(tags_named(self.blog, ["dew"])["dew"].pk, mist.pk)
        ida, idda = (add_name(self.blog, NameKind.BYLINE, name) for name in ("Ida", "Idda"))
        Post.objects.update(byline=idda)
        merge(idda, NameKind.BYLINE, ida.pk)
        self.assertEqual(self.listed("byline"), {"Ida": 3})

    def test_a_taken_name_is_refused_and_nothing_is_lost(self) -> None:
        path = f"/blogs/meadow/names/category/{self.moon.pk}"
        self.assertEqual(self.call(self.editor, "PATCH", path, {"name": "PLANETS"}).status_code, 409)
        self.assertEqual(self.listed(), {"Moon": 0, "Planets": 3})

    def test_what_posts_bear_is_not_removed(self) -> None:
        path = "/blogs/meadow/names/category"
        self.assertEqual(self.call(self.editor, "DELETE", f"{path}/{self.planets.pk}").status_code, 409)
        self.assertEqual(self.call(self.editor, "DELETE", f"{path}/{self.moon.pk}").status_code, 204)
        self.assertEqual(Category.objects.count(), 1)

    def test_a_category_stands_under_another_and_never_under_itself(self) -> None:
        sky = add_name(self.blog, NameKind.CATEGORY, "Night sky")

        def put(number: int, parent: int | None) -> int:
            path = f"/blogs/meadow/category-parents/{number}"
            return int(self.call(self.editor, "PUT", path, {"parent": parent}).status_code)

        self.assertEqual(put(self.planets.pk, sky.pk), 200)
        self.assertEqual(put(sky.pk, self.planets.pk), 422)
        self.assertEqual(put(sky.pk, sky.pk), 422)
        page = self.client.get(f"/blog/meadow/section/{sky.slug}/").content.decode()
        self.assertIn(self.posts[0].title, page)
        self.assertEqual(put(self.planets.pk, None), 200)
        self.assertEqual(self.client.get(f"/blog/meadow/section/{sky.slug}/").status_code, 404)

    def test_the_middle_of_three_is_made_one_with_its_child_and_no_ring_is_left(self) -> None:
        sky = add_name(self.blog, NameKind.CATEGORY, "Night sky")
        Category.objects.filter(pk=self.planets.pk).update(parent=sky)
        Category.objects.filter(pk=self.moon.pk).update(parent=self.planets)
        merge(Category.objects.get(pk=self.planets.pk), NameKind.CATEGORY, self.moon.pk)
        self.assertEqual(Category.objects.get(pk=self.moon.pk).parent_id, sky.pk)

    def test_names_of_another_blog_are_not_found(self) -> None:
        tag = add_name(self.blog, NameKind.TAG, "Dew")
        self.assertEqual(self.call(self.stranger, "DELETE", f"/blogs/meadow/names/tag/{tag.pk}").status_code, 404)
        self.assertEqual((Tag.objects.count(), FormerName.objects.count()), (1, 0))
