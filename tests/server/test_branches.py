"""Branches of categories grow on a blog, and never move what people have put elsewhere."""

from django.test import Client, TestCase
from glyptarch_server.blogs.models import Category, NameKind
from glyptarch_server.names.actions import add_name, rename
from glyptarch_server.posts.models import Post

from tests.server.fixtures import NOW, fill, make_blog, make_campaign, make_source, run

PLACE = {"category_rules": [{"id": "t", "kind": "table", "unmapped": "create", "separator": ">"}]}


class Branches(TestCase):
    def setUp(self) -> None:
        self.blog = make_blog()
        self.source = make_source(self.blog)

    def tree(self) -> dict[str, str]:
        """Return the name of the parent by name."""
        rows = Category.objects.filter(blog=self.blog).select_related("parent")
        return {row.name: row.parent.name if row.parent else "" for row in rows}

    def run_with(self, *words: str) -> None:
        fill(self.source, range(len(words) * 10, len(words) * 10 + 1), categories=words, published=NOW)
        run(make_campaign(self.blog, place=PLACE))

    def test_categories_are_made_each_under_the_one_above(self) -> None:
        self.run_with("Garden > Vegetables > Tomatoes", "Garden > Flowers")
        self.assertEqual(
            self.tree(), {"Garden": "", "Vegetables": "Garden", "Tomatoes": "Vegetables", "Flowers": "Garden"}
        )
        post = Post.objects.get()
        self.assertEqual({row.name for row in post.categories.all()}, {"Tomatoes", "Flowers"})
        self.assertIn(post.title, Client().get("/blog/meadow/section/garden/").content.decode())

    def test_what_exists_stays_where_people_have_put_it(self) -> None:
        add_name(self.blog, NameKind.CATEGORY, "Tomatoes")
        self.run_with("Garden > Tomatoes")
        self.assertEqual(self.tree(), {"Tomatoes": "", "Garden": ""})
        self.assertEqual(Post.objects.get().category.name, "Tomatoes")

    def test_a_renamed_one_is_known_by_its_former_name(self) -> None:
        row = add_name(self.blog, NameKind.CATEGORY, "Garden")
        rename(row, NameKind.CATEGORY, "Outdoors")
        self.run_with("Garden > Tomatoes")
        self.assertEqual(self.tree(), {"Outdoors": "", "Tomatoes": "Outdoors"})

    def test_names_in_a_circle_do_not_hang(self) -> None:
        self.run_with("A > B", "B > A", "A > A")
        self.assertEqual(self.tree(), {"A": "", "B": "A"})
        self.assertEqual(Client().get("/blog/meadow/section/a/").status_code, 200)
