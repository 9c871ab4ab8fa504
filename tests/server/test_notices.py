"""Mails to people: the chosen ones, once, and nothing else."""

from datetime import timedelta
from smtplib import SMTPException
from unittest.mock import patch

from django.contrib.auth import get_user_model
from django.core import mail
from django.test import override_settings
from glyptarch_server.accounts.models import User
from glyptarch_server.blogs.models import Membership
from glyptarch_server.mail.actions import deliver
from glyptarch_server.mail.tasks import send_mail
from glyptarch_server.notices.actions import choose, set_campaign_address, tell_all
from glyptarch_server.notices.models import Digest
from glyptarch_server.posts.models import Post
from glyptarch_server.runs.models import Run
from glyptarch_server.sources.models import SourceState

from tests.server.fixtures import NOW, make_source
from tests.server.test_api import ApiCase
from tests.server.test_people import mails

LATER = NOW + timedelta(minutes=5)


@override_settings(EMAIL_HOST="127.0.0.1", GLYPTARCH_PUBLIC_ADDRESS="https://desk.example")
class Notices(ApiCase):
    def setUp(self) -> None:
        super().setUp()
        for user in (self.owner, self.editor):
            get_user_model().objects.filter(pk=user.pk).update(email=f"{user.username}@club.example")

    def want(self, user: User, *, problems: bool = False, posts: bool = False, digest: Digest = Digest.NEVER) -> None:
        choose(self.blog, user, problems=problems, posts=posts, digest=digest)
        tell_all(now=NOW)

    def subjects(self) -> list[str]:
        return [f"{mail['to'].partition('@')[0]}: {mail['subject']}" for mail in mails()]

    def told(self, *, hours: float) -> list[str]:
        """Return the subjects of the messages that are sent then."""
        before = len(mails())
        tell_all(now=LATER + timedelta(hours=hours))
        return [mail["subject"] for mail in mails()[before:]]

    def failing(self, *keys: str) -> None:
        SourceState.objects.filter(source__key__in=keys).update(
            health="failing", error="unreachable", failing_since=NOW
        )

    def test_a_problem_is_told_once_and_once_more_when_it_has_passed(self) -> None:
        make_source(self.blog, "wire")
        self.want(self.owner, problems=True)
        self.failing("wire")
        self.assertEqual([self.told(hours=hours) for hours in (0, 0.1)], [[], []])
        self.assertEqual(self.told(hours=0.2), ["Meadow: The source “Wire” does not answer since 12:00 of 24 November"])
        self.assertEqual([self.told(hours=hours) for hours in (1, 10, 30)], [[], [], []])
        SourceState.objects.update(health="ok")
        self.assertEqual(self.told(hours=31), [])
        self.assertEqual(self.told(hours=32), ["Meadow: A problem has passed"])
        self.assertIn("The source “Wire” does not answer", mails()[-1]["text"])

    def test_many_sources_of_a_host_are_one_problem(self) -> None:
        for number in range(12):
            source = make_source(self.blog, f"s{number}")
            source.url = f"https://club.example/{number}"
            source.save()
        self.want(self.owner, problems=True)
        self.failing(*(f"s{number}" for number in range(12)))
        tell_all(now=LATER)
        tell_all(now=LATER + timedelta(minutes=11))
        (message,) = mails()
        self.assertIn("12 sources at club.example do not answer since 12:00 of 24 November", message["text"])
        self.assertIn("(“S0”, “S1”, “S10” and 9 more). It is tried again", message["text"])

    def test_a_day_has_one_message_and_what_came_and_went_is_not_told(self) -> None:
        for key in ("wire", "shop", "owls"):
            make_source(self.blog, key)
        self.want(self.owner, problems=True)
        self.failing("wire")
        tell_all(now=LATER)
        self.assertEqual(len(self.told(hours=0.2)), 1)
        self.failing("shop", "owls")
        self.assertEqual([self.told(hours=hours) for hours in (1, 2)], [[], []])
        SourceState.objects.filter(source__key="owls").update(health="ok")
        self.assertEqual(self.told(hours=3), [])
        self.assertEqual(len(self.told(hours=24.3)), 1)
        self.assertIn("Shop", mails()[-1]["text"])
        self.assertNotIn("Owls", mails()[-1]["text"])

    def test_what_has_stopped_a_whole_campaign_is_told_at_once(self) -> None:
        make_source(self.blog, "wire")
        self.want(self.owner, problems=True)
        self.failing("wire")
        tell_all(now=LATER)
        self.assertEqual(len(self.told(hours=0.2)), 1)
        # The only source of the campaign “Sky”.
        self.failing("club")
        self.assertEqual(self.told(hours=1), ["Meadow: “Sky” gets nothing any more: none of its sources can be read"])
        self.assertEqual(self.told(hours=1.1), [])

    def test_who_reads_the_daily_digest_gets_no_other_message_of_problems(self) -> None:
        make_source(self.blog, "wire")
        self.want(self.owner, problems=True, digest=Digest.DAILY)
        self.failing("wire")
        self.assertEqual([self.told(hours=hours) for hours in (0, 1)], [[], []])
        tell_all(now=NOW + timedelta(hours=20))
        self.assertEqual([mail["subject"] for mail in mails()], ["Meadow: the last day"])
        self.assertIn("“Wire” does not answer", mails()[0]["text"])

    def test_a_failed_run_is_a_problem_until_one_goes_well(self) -> None:
        self.want(self.owner, problems=True)
        Run.objects.filter(pk=self.first_run.pk).update(state="failed", failure="The rules do not hold.")
        tell_all(now=LATER)
        self.assertIn("The last run of “Sky” failed. The rules do not hold.", mails()[0]["text"])
        Run.objects.filter(pk=self.first_run.pk).update(state="done", failure="")
        self.assertEqual(self.told(hours=1), [])

    def test_each_new_post_is_told_to_who_wants_it(self) -> None:
        self.want(self.owner, posts=True)
        Post.objects.filter(pk=self.post.pk).update(out_at=LATER, title="A ring")
        for minute in range(3):
            tell_all(now=LATER + timedelta(minutes=minute))
        self.assertEqual(self.subjects(), ["mira: Meadow: A ring"])
        self.assertIn(f"https://desk.example/blog/meadow/{self.post.slug}/", mails()[0]["text"])

    def test_what_happened_before_the_choice_is_not_told(self) -> None:
        self.want(self.owner, posts=True, digest=Digest.RUNS)
        self.assertEqual(mails(), [])

    def test_runs_are_told_together_and_to_the_address_of_their_campaign(self) -> None:
        set_campaign_address(self.campaign, "board@club.example")
        self.want(self.owner, digest=Digest.RUNS)
        Run.objects.filter(pk=self.first_run.pk).update(ended_at=LATER)
        for minute in range(2):
            tell_all(now=LATER + timedelta(minutes=minute))
        self.assertEqual([mail["to"] for mail in mails()], ["mira@club.example", "board@club.example"])
        self.assertIn("Sky: 3 posts, 0 of them held", mails()[0]["text"])

    def test_the_daily_digest_comes_once_a_day_at_seven_of_the_blog(self) -> None:
        self.blog.time_zone = "Asia/Tokyo"
        self.blog.save()
        self.want(self.editor, digest=Digest.DAILY)
        # Noon UTC is nine in the evening there, so seven in the morning is ten hours later.
        for hours in (9, 10, 11, 12):
            tell_all(now=NOW + timedelta(hours=hours))
        self.assertEqual(self.subjects(), ["edda: Meadow: the last day"])
        tell_all(now=NOW + timedelta(hours=34))
        self.assertEqual(len(mails()), 2)

    def test_who_has_left_or_has_no_address_is_told_nothing(self) -> None:
        self.want(self.owner, problems=True)
        self.want(self.editor, problems=True)
        Membership.objects.filter(user=self.owner).delete()
        get_user_model().objects.filter(pk=self.editor.pk).update(email="")
        SourceState.objects.update(health="gone")
        tell_all(now=LATER)
        self.assertEqual(mails(), [])

    def test_a_choice_is_read_back(self) -> None:
        path = "/blogs/meadow/notices"
        self.assertEqual(self.call(self.viewer, "GET", path).json()["digest"], "never")
        body = {"problems": True, "posts": False, "digest": "daily"}
        answer = self.call(self.viewer, "PUT", path, body).json()
        self.assertEqual({key: answer[key] for key in body}, body)
        self.assertTrue(answer["mail_is_set_up"])

    def test_an_address_that_is_none_is_refused(self) -> None:
        path = "/blogs/meadow/campaigns/sky/address"
        self.assertEqual(self.call(self.editor, "PUT", path, {"email": "board"}).status_code, 422)
        self.assertEqual(self.call(self.editor, "PUT", path, {"email": "b@c.example"}).json()["email"], "b@c.example")
        self.assertEqual(self.call(self.editor, "PUT", path, {"email": ""}).json()["email"], "")


class Sending(ApiCase):
    def test_a_message_is_handed_to_the_mail_server(self) -> None:
        send_mail(to="ida@club.example", subject="A ring", text="Seen last night.")
        self.assertEqual((mail.outbox[0].to, mail.outbox[0].subject), (["ida@club.example"], "A ring"))

    def test_a_server_that_is_away_is_asked_again(self) -> None:
        retry = send_mail.retry_strategy
        self.assertTrue({OSError, SMTPException} <= set(retry.retry_exceptions))
        with patch("django.core.mail.EmailMessage.send", side_effect=OSError), self.assertRaises(OSError):
            deliver("ida@club.example", "A", "B")

    def test_without_a_mail_server_nothing_is_put_on_the_queue(self) -> None:
        self.call(self.owner, "POST", "/blogs/meadow/invitations", {"email": "ida@club.example", "role": "viewer"})
        self.assertEqual(mails(), [])
