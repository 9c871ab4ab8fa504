"""The notices that people have chosen, and those that were sent."""

from django.conf import settings
from django.db import models

__all__ = ["CampaignAddress", "Choice", "Digest", "Problem", "Told"]


class Digest(models.TextChoices):
    """The interval of a digest."""

    NEVER = "never"
    RUNS = "runs"
    DAILY = "daily"


class Choice(models.Model):
    """The notices that one person wants about one blog."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    user = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.CASCADE, related_name="+")
    problems = models.BooleanField(default=False)
    posts = models.BooleanField(default=False)
    digest = models.CharField(max_length=10, choices=Digest.choices, default=Digest.NEVER)
    # Problems up to these times were told: all of them, and those that cannot wait.
    problems_until = models.DateTimeField(null=True)
    urgent_until = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["user", "blog"], name="one_choice_on_a_blog")]


class CampaignAddress(models.Model):
    """An address notified of each run of one campaign that made posts or failed."""

    campaign = models.OneToOneField("campaigns.Campaign", on_delete=models.CASCADE, related_name="notice_address")
    email = models.EmailField()


class Problem(models.Model):
    """A problem of a blog.

    People are told once that it is there and once that it has passed, in at most one message a day. They are told at
    once only of what has stopped a whole campaign.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    # The subject: source:failing:unreachable:club.example, campaign:5, stopped:5.
    key = models.CharField(max_length=80)
    text = models.CharField(max_length=600)
    since = models.DateTimeField()
    passed_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["blog", "key"], condition=models.Q(passed_at=None), name="problem_open_once"
            )
        ]

    @property
    def is_urgent(self) -> bool:
        """Whether it has stopped a whole campaign."""
        return self.key.startswith(("campaign:", "stopped:"))


class Told(models.Model):
    """The time up to which the people of a blog have been notified."""

    blog = models.OneToOneField("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    # Runs and posts up to this time have been reported.
    until = models.DateTimeField()
    # The day of the last daily digest, in the blog's time zone.
    digest_day = models.DateField()
