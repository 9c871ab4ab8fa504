"""Conditions with many values."""

from django.test import TestCase
from glyptarch_server.blogs.models import Tag
from glyptarch_server.common.lookups import AnyOf

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
