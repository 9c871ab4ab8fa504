"""Archiving and deleting campaigns, and blogs whose month is over."""

from datetime import timedelta
from unittest import mock

from django.test import Client
from glyptarch_core.pages.document import ReaderDocument
from glyptarch_server.blogs.actions import remove_blog
from glyptarch_server.blogs.models import Blog
from glyptarch_server.campaigns.models import Campaign
from glyptarch_server.items.models import Item
from glyptarch_server.pages.actions import make_reader
from glyptarch_server.posts.models import Post
from glyptarch_server.runs import deletion
from glyptarch_server.runs.actions import begin_run
from glyptarch_server.runs.deletion import remove_old_blogs
from glyptarch_server.runs.models import Decision, Run
from glyptarch_server.sources.adding import add_page_source
from glyptarch_server.tasks.actions import begin_task
from glyptarch_server.tasks.models import Task

from tests.server.fixtures import NOW, carry_kind, carry_task, make_blog, make_campaign, make_source, run
from tests.server.test_api import ApiCase


class Deletion(ApiCase):
    def test_an_archived_campaign_is_off_the_list_and_its_posts_stay(self) -> None:
        path = "/blogs/meadow/campaigns/sky/archived"
        self.call(self.editor, "PUT", path, {"archived": True})
        self.assertEqual(self.call(self.editor, "GET", "/blogs/meadow/campaigns/sky").status_code, 404)
        self.assertEqual(self.call(self.editor, "GET", "/blogs/meadow/archived-campaigns").json()[0]["name"], "Sky")
        self.assertEqual(Client().get(f"/blog/meadow/{self.post.slug}/").status_code, 200)
        self.call(self.editor, "PUT", path, {"archived": False})
        self.assertEqual(self.call(self.editor, "GET", "/blogs/meadow/campaigns/sky").status_code, 200)

    def test_what_goes_with_it_is_counted_before(self) -> None:
        counts = self.call(self.viewer, "GET", "/blogs/meadow/campaigns/sky/goes-with-it").json()
        self.assertEqual(
            counts, {"posts": 3, "on_the_blog": 3, "comments": 1, "decisions": 3, "runs": 1, "revisions": 1}
        )

    def test_a_deleted_campaign_is_gone_at_once_and_the_job_takes_all_that_came_of_it(self) -> None:
        other = run(make_campaign(self.blog, "Other", match={"rules": []}))
        self.assertEqual(self.call(self.editor, "POST", "/blogs/meadow/campaigns/sky/deletion").status_code, 204)
        self.assertEqual(self.call(self.editor, "GET", "/blogs/meadow/archived-campaigns").json(), [])
        self.assertEqual(Client().get(f"/blog/meadow/{self.post.slug}/").status_code, 410)
        task = Task.objects.get(kind="deletion")
        carry_task(task.pk)
        carry_task(task.pk)
        task.refresh_from_db()
        self.assertEqual((task.state, task.subject), ("done", "Sky"))
        self.assertEqual(list(Campaign.objects.values_list("name", flat=True)), ["Other"])
        self.assertEqual(set(Decision.objects.values_list("run", flat=True)), {other.pk})
        self.assertEqual(set(Post.objects.values_list("campaign__name", flat=True)), {"Other"})
        self.assertEqual(Item.objects.count(), 3)

    def test_its_editions_go_with_it_and_their_addresses_say_so(self) -> None:
        edition = Post.objects.create(
            blog=self.blog, edition_of=self.post, source=self.post.source, state="published", title="Auf Deutsch",
            slug="auf-deutsch", body="<p>Ein Komet.</p>", language="de", date=NOW, out_at=NOW, created_at=NOW,
            changed_at=NOW,
        )  # fmt: skip
        path = f"/blog/meadow/{edition.slug}/"
        counts = self.call(self.viewer, "GET", "/blogs/meadow/campaigns/sky/goes-with-it").json()
        self.assertEqual((counts["posts"], counts["on_the_blog"]), (4, 4))
        self.call(self.editor, "POST", "/blogs/meadow/campaigns/sky/deletion")
        self.assertEqual(Client().get(path).status_code, 410)
        with mock.patch.object(deletion, "_AT_ONCE", 1):
            carry_task(Task.objects.get(kind="deletion").pk)
        self.assertFalse(Post.objects.exists())
        for address in (path, f"/blog/meadow/{self.post.slug}/"):
            self.assertEqual(Client().get(address).status_code, 410, address)

    def test_it_is_not_deleted_while_a_run_is_under_way(self) -> None:
        begin_run(self.campaign, by=None, now=NOW)
        self.assertEqual(self.call(self.editor, "POST", "/blogs/meadow/campaigns/sky/deletion").status_code, 409)
        self.assertFalse(Campaign.objects.filter(delete_asked_at__isnull=False).exists())

    def test_a_campaign_that_nobody_asked_to_delete_is_not_deleted(self) -> None:
        begin_task("deletion", self.campaign.pk, blog_id=self.blog.pk, subject="Sky", now=NOW)
        carry_kind("deletion")
        self.assertTrue(Campaign.objects.filter(pk=self.campaign.pk).exists())

    def test_a_removed_blog_goes_after_a_month_and_no_other_does(self) -> None:
        other = make_blog("other", self.owner)
        make_source(other, stories=2)
        run(make_campaign(other))
        reader = make_reader(self.blog, "Ridge", ReaderDocument(url="https://ridge.example/"), now=NOW)
        add_page_source(self.blog, reader, "", "Ridge", now=NOW)
        remove_blog(self.blog, now=NOW)
        self.assertEqual(remove_old_blogs(now=NOW + timedelta(days=29)), 0)
        self.assertEqual(remove_old_blogs(now=NOW + timedelta(days=31)), 1)
        self.assertEqual(list(Blog.objects.values_list("slug", flat=True)), ["other"])
        self.assertEqual((Post.objects.count(), Item.objects.count(), Run.objects.count()), (2, 2, 1))
