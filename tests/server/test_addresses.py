"""Every address that the server writes, into a mail, a page or a feed, leads somewhere."""

import re
from collections.abc import Iterable
from datetime import timedelta
from html import unescape
from urllib.parse import urldefrag, urljoin

from django.contrib.auth import get_user_model
from django.test import Client, override_settings
from glyptarch_launcher.paths import REPOSITORY
from glyptarch_server.config import settings as config
from glyptarch_server.notices.actions import choose, set_campaign_address, tell_all
from glyptarch_server.notices.models import Digest
from glyptarch_server.posts.models import Post
from glyptarch_server.sources.models import SourceState

from tests.server.fixtures import NOW, fill, make_campaign, make_source, run, text_of
from tests.server.test_api import ApiCase
from tests.server.test_people import mails

HERE = "https://desk.example"
IN_TEXT = re.compile(r"https?://[^\s<>\"')]+")
IN_MARKUP = re.compile(r"""(?:href|src|action|url)=["']([^"']+)["']|<(?:link|guid[^>]*|id|url|comments)>([^<]+)</""")


@override_settings(EMAIL_HOST="127.0.0.1", GLYPTARCH_PUBLIC_ADDRESS=HERE, ALLOWED_HOSTS=["*"])
# Addresses of built files too, which the runner leaves out.
@override_settings(MIDDLEWARE=config.MIDDLEWARE)
class Addresses(ApiCase):
    def lead_somewhere(self, addresses: Iterable[str], what: str) -> None:
        own = {urldefrag(address).url for address in addresses if address.startswith((HERE, "http://testserver"))}
        for address in sorted(own):
            path = re.sub(r"^https?://[^/]+", "", address) or "/"
            with self.subTest(what, path=path):
                answer = Client().get(path)
                self.assertLess(answer.status_code, 400, f"{path} in {what}")

    def crawl(self, begin: Iterable[str]) -> set[str]:
        """Return every page of this host that can be reached from some, by links."""
        seen, waiting = set[str](), list(begin)
        while waiting and len(seen) < 200:
            path = waiting.pop()
            if path in seen:
                continue
            seen.add(path)
            answer = Client().get(path)
            self.assertLess(answer.status_code, 400, path)
            if not answer.headers["Content-Type"].startswith(("text/html", "application/")):
                continue
            for found in IN_MARKUP.findall(text_of(answer)):
                whole = urldefrag(urljoin(f"{HERE}{path}", unescape(next(filter(None, found))).strip())).url
                if whole.startswith(HERE) and "/comments/" not in whole:
                    waiting.append(whole.removeprefix(HERE))
        return seen

    def test_those_in_mails(self) -> None:
        for user in (self.owner, self.editor):
            get_user_model().objects.filter(pk=user.pk).update(email=f"{user.username}@club.example")
        choose(self.blog, self.owner, problems=True, posts=True, digest=Digest.DAILY)
        choose(self.blog, self.editor, problems=True, posts=True, digest=Digest.RUNS)
        set_campaign_address(self.campaign, "list@club.example")
        tell_all(now=NOW)
        self.call(self.owner, "POST", "/blogs/meadow/invitations", {"email": "ida@club.example", "role": "editor"})
        self.call(None, "POST", "/password-resets", {"email": "mira@club.example"})
        fill(make_source(self.blog, "wire"), [7])
        run(make_campaign(self.blog, "News", ("wire",)))
        Post.objects.filter(campaign=self.campaign).update(state="held")
        SourceState.objects.update(health="failing")
        tell_all(now=NOW + timedelta(days=1, minutes=5))
        texts = [mail["text"] for mail in mails()]
        self.assertGreater(len(texts), 4)
        for text in texts:
            self.lead_somewhere(IN_TEXT.findall(text), text[:60])

    def test_those_in_pages_and_feeds(self) -> None:
        fill(make_source(self.blog, "wire"), range(20, 40), categories=("Moon",))
        run(
            make_campaign(
                self.blog,
                "News",
                ("wire",),
                place={"category": "Sky", "tags": ["ring", "Café & más"], "comments": True},
            )
        )
        seen = self.crawl(["/blog/meadow/", "/blog/meadow/feed.xml", "/blog/meadow/atom.xml", "/desk/", "/robots.txt"])
        for part in ("/section/", "/tag/", "/blog/meadow/story-number"):
            self.assertTrue(any(part in path for path in seen), part)

    def test_the_icon_that_browsers_ask_for_is_a_file_of_the_front_end(self) -> None:
        answer = Client().get("/favicon.ico")
        self.assertEqual(answer.status_code, 301)
        self.assertTrue((REPOSITORY / "web" / "public" / answer["Location"].lstrip("/")).is_file())
