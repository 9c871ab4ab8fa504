"""Conditions with many values."""

from django.test import TestCase
from glyptarch_server.blogs.models import Tag
from glyptarch_server.common.lookups import AnyOf, counts_of

from tests.server.fixtures import make_blog

ODD = ["plain", 'a "quoted" one', "back\\slash", "{braces}", "with, comma", "NULL", "", " spaced ", "ünï"]


class ManyValues(TestCase):
    def setUp(self) -> None:
        blog = make_blog()
        self.tags = [
            Tag.objects.create(blog=blog, name=name, key=name, slug=f"t-{place}") for place, name in enumerate(ODD)
        ]

    def test_any_text_is_found_as_it_stands(self) -> None:
        for tag in self.tags:
            with self.subTest(tag.name):
                self.assertEqual(list(Tag.objects.filter(AnyOf("name", [tag.name, "nowhere"]))), [tag])

    def test_numbers_are_found_and_none_finds_none(self) -> None:
        wanted = {self.tags[0].pk, self.tags[3].pk}
        self.assertEqual(set(Tag.objects.filter(AnyOf("pk", wanted)).values_list("pk", flat=True)), wanted)
        self.assertEqual(list(Tag.objects.filter(AnyOf("pk", []))), [])


class CountsTogether(TestCase):
    def test_each_query_is_counted_under_its_name_with_one_query(self) -> None:
        blog = make_blog()
        for place in range(3):
            Tag.objects.create(blog=blog, name=f"t{place}", key=f"t{place}", slug=f"t-{place}")
        tags = Tag.objects.order_by("name")
        with self.assertNumQueries(1):
            counted = counts_of(all=tags, one=tags.filter(key="t1"), none=tags.filter(key="nowhere"))
        self.assertEqual(counted, {"all": 3, "one": 1, "none": 0})

    def test_one_query_alone(self) -> None:
        self.assertEqual(counts_of(tags=Tag.objects.all()), {"tags": 0})
