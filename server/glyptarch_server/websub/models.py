"""Subscriptions at hubs."""

from django.db import models

__all__ = ["HubNotice", "PushState", "Subscription"]


class PushState(models.TextChoices):
    """The state of a subscription."""

    # The hub was asked and has not verified yet.
    ASKED = "asked"
    VERIFIED = "verified"
    # The hub refused or could not be asked.
    REFUSED = "refused"
    # The hub was asked to end it.
    ENDING = "ending"


class Subscription(models.Model):
    """A subscription of a source at a hub. ``key`` is the last part of the callback address."""

    source = models.OneToOneField("sources.Source", on_delete=models.CASCADE, related_name="subscription")
    hub = models.CharField(max_length=2000)
    topic = models.CharField(max_length=2000)
    key = models.CharField(max_length=64, unique=True)
    # The encrypted secret of the hub's signatures.
    secret_sealed = models.TextField()
    state = models.CharField(max_length=10, choices=PushState.choices, default=PushState.ASKED)
    asked_at = models.DateTimeField()
    tries = models.PositiveSmallIntegerField(default=0)
    lease_ends_at = models.DateTimeField(null=True)
    pushed_at = models.DateTimeField(null=True)
    # The number of dropped pushes with a wrong signature.
    bad_pushes = models.PositiveIntegerField(default=0)
    failure = models.CharField(max_length=500, blank=True)

    class Meta:
        indexes = [models.Index(fields=["state", "lease_ends_at"], name="subscription_by_lease")]
        constraints = [
            models.CheckConstraint(condition=models.Q(state__in=PushState.values), name="subscription_state_is_known")
        ]


class HubNotice(models.Model):
    """The last time that the hub of a blog was told of its new posts.

    ``failure`` is empty where it took the notice.
    """

    blog = models.OneToOneField("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    # The hub that was told last; another one is asked at once.
    hub = models.CharField(max_length=2000, blank=True)
    # Posts that went out until then are told.
    told_until = models.DateTimeField()
    asked_at = models.DateTimeField()
    tries = models.PositiveSmallIntegerField(default=0)
    failure = models.CharField(max_length=500, blank=True)
