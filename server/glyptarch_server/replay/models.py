"""Replays and their results."""

from django.conf import settings
from django.contrib.postgres.fields import ArrayField
from django.contrib.postgres.indexes import GinIndex
from django.db import models

from glyptarch_server.replay.lifecycle import UNDER_WAY, Outcome, ReplayState

__all__ = ["NewStory", "Replay", "ReplayResult"]


class Replay(models.Model):
    """A pass of a revision over all past decisions of a campaign.

    A campaign has at most one under way. ``last`` is the number of the last decision reached, ``counts`` the number of
    items by outcome.
    """

    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.CASCADE, related_name="replays")
    revision = models.ForeignKey("campaigns.Revision", on_delete=models.CASCADE, related_name="+")
    state = models.CharField(max_length=10, choices=[(state.value, state.value) for state in ReplayState])
    last = models.BigIntegerField(default=0)
    total = models.PositiveIntegerField(default=0)
    done = models.PositiveIntegerField(default=0)
    counts = models.JSONField(default=dict)
    # The task that compares, then the one that applies.
    task = models.ForeignKey("tasks.Task", on_delete=models.SET_NULL, null=True, related_name="+")
    # Why it failed, in words.
    failure = models.CharField(max_length=500, blank=True)
    # The change that applies it, with the chosen outcomes or results.
    change = models.ForeignKey("posts.Change", on_delete=models.SET_NULL, null=True, related_name="+")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    asked_at = models.DateTimeField()
    ended_at = models.DateTimeField(null=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["campaign"],
                condition=models.Q(state__in=sorted(state.value for state in UNDER_WAY)),
                name="one_replay_under_way",
            ),
            models.CheckConstraint(
                condition=models.Q(state__in=[state.value for state in ReplayState]), name="replay_state_is_known"
            ),
        ]
        indexes = [models.Index(fields=["campaign", "-asked_at"], name="replay_by_campaign")]


class ReplayResult(models.Model):
    """The result for one item: new values of its post, and those that people edited.

    ``reason`` is the reason of a refusal, as in a trace.
    """

    replay = models.ForeignKey(Replay, on_delete=models.CASCADE, related_name="results")
    item = models.ForeignKey("items.Item", on_delete=models.CASCADE, related_name="+")
    post = models.ForeignKey("posts.Post", on_delete=models.CASCADE, null=True, related_name="+")
    outcome = models.CharField(max_length=10)
    title = models.CharField(max_length=300)
    reason = models.JSONField(null=True)
    values = models.JSONField(default=dict)
    kept = ArrayField(models.CharField(max_length=20), default=list)
    # Whether it was chosen, and whether it was applied.
    chosen = models.BooleanField(default=False)
    applied = models.BooleanField(default=False)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["replay", "item"], name="result_once_in_a_replay"),
            models.CheckConstraint(
                condition=models.Q(outcome__in=[outcome.value for outcome in Outcome]), name="outcome_is_known"
            ),
        ]
        indexes = [
            models.Index(fields=["replay", "outcome", "id"], name="result_by_outcome"),
            models.Index(fields=["replay", "post"], name="result_by_post"),
            models.Index(fields=["replay", "outcome"], condition=models.Q(applied=True), name="result_applied"),
        ]


class NewStory(models.Model):
    """An item that would be a new post, with the keys for later items of the replay.

    ``keys`` are kinds and hashes as in ``PostKey``, the others those of ``NearKeys``.
    """

    replay = models.ForeignKey(Replay, on_delete=models.CASCADE, related_name="+")
    item = models.ForeignKey("items.Item", on_delete=models.CASCADE, related_name="+")
    title = models.CharField(max_length=300)
    at = models.DateTimeField()
    keys = ArrayField(models.CharField(max_length=80), default=list)
    text_keys = ArrayField(models.BigIntegerField(), default=list)
    title_keys = ArrayField(models.BigIntegerField(), default=list)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["replay", "item"], name="new_story_once_in_a_replay")]
        indexes = [
            GinIndex(fields=["keys"], name="new_story_by_key", fastupdate=False),
            GinIndex(fields=["text_keys"], name="new_story_by_text", fastupdate=False),
            GinIndex(fields=["title_keys"], name="new_story_by_title", fastupdate=False),
        ]
