"""The contents of guides on the blog."""

import re

from django.test import TestCase
from glyptarch_server.front.contents import with_contents
from glyptarch_server.posts.models import Post

from tests.server.fixtures import make_blog, make_campaign, make_source, run

_BODY = "<p>Begin.</p><h2>What to <b>look</b> for</h2><p>a</p><h2>Mounts &amp; tubes</h2><p>b</p><h2> </h2><h2>“Eyepieces” &lt;new&gt;</h2><p>c</p>"


class Contents(TestCase):
    def page(self, kind: str, body: str = _BODY) -> str:
        Post.objects.update(kind=kind, body=body)
        post = Post.objects.get()
        return str(self.client.get(f"/blog/meadow/{post.slug}/").content.decode())

    def setUp(self) -> None:
        blog = make_blog()
        make_source(blog, stories=1)
        run(make_campaign(blog, release={"mode": "publish"}))

    def test_a_guide_leads_to_each_of_its_headings(self) -> None:
        page = self.page("guide")
        ways = re.findall(r'<li><a href="#(part-\d)">(.*?)</a></li>', page)
        self.assertEqual(
            ways,
            [("part-1", "What to look for"), ("part-2", "Mounts &amp; tubes"), ("part-3", "“Eyepieces” &lt;new&gt;")],
        )
        for name, _ in ways:
            self.assertEqual(page.count(f'<h2 id="{name}">'), 1)

    def test_other_kinds_and_short_guides_have_none(self) -> None:
        self.assertNotIn('class="contents"', self.page("article"))
        self.assertNotIn('class="contents"', self.page("guide", "<h2>One</h2><p>a</p><h2>Two</h2><p>b</p>"))
        self.assertNotIn('class="contents"', self.page("guide", "<p>No heading at all.</p>"))

    def test_very_many_headings_are_cut_off(self) -> None:
        body, headings = with_contents("guide", "<h2>Part</h2><p>x</p>" * 200)
        self.assertEqual((len(headings), body.count("<h2 id=")), (60, 60))
