"""Runs and the decisions they made."""

from django.conf import settings
from django.db import models

from glyptarch_server.runs.lifecycle import ACTIVE, RunState

__all__ = ["Decision", "RuleUse", "Run", "TextWait"]


class Run(models.Model):
    """One pass of a campaign that makes posts. A campaign has at most one under way."""

    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.CASCADE, related_name="runs")
    revision = models.ForeignKey("campaigns.Revision", on_delete=models.PROTECT, related_name="runs")
    state = models.CharField(max_length=10, choices=[(state.value, state.value) for state in RunState])
    started_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True)
    # Whether a schedule started it, and not a person.
    scheduled = models.BooleanField(default=False)
    task = models.ForeignKey("tasks.Task", on_delete=models.SET_NULL, null=True, related_name="+")
    asked_at = models.DateTimeField()
    begun_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    taken_back_at = models.DateTimeField(null=True)
    sources = models.PositiveIntegerField(default=0)
    sources_read = models.PositiveIntegerField(default=0)
    # Sources not read by a scheduled run: not due yet, or gone.
    sources_left = models.PositiveIntegerField(default=0)
    fresh = models.PositiveIntegerField(default=0)
    to_decide = models.PositiveIntegerField(default=0)
    # Items that wait for texts of language services. The run after those decides them.
    texts_waiting = models.PositiveIntegerField(default=0)
    failure = models.CharField(max_length=500, blank=True)
    # Decisions by verdict, so that lists need not count them.
    verdicts = models.JSONField(default=dict)
    readings = models.ManyToManyField("sources.Reading", related_name="runs")

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["campaign"],
                condition=models.Q(state__in=sorted(state.value for state in ACTIVE)),
                name="one_run_under_way",
            ),
            models.CheckConstraint(
                condition=models.Q(state__in=[state.value for state in RunState]), name="run_state_is_known"
            ),
        ]
        indexes = [
            models.Index(fields=["campaign", "-asked_at"], name="run_by_campaign"),
            models.Index(fields=["ended_at"], name="run_by_end"),
        ]


class TextWait(models.Model):
    """An item that a run has met, and that waits for texts of language services.

    Later runs meet it again.
    """

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="waits")
    item = models.ForeignKey("items.Item", on_delete=models.CASCADE, related_name="+")

    class Meta:
        constraints = [models.UniqueConstraint(fields=["run", "item"], name="text_wait_once")]


class Decision(models.Model):
    """The outcome of an item in a campaign, with reasons. Unique per item.

    Deleted with its post.
    """

    run = models.ForeignKey(Run, on_delete=models.CASCADE, related_name="decisions")
    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.CASCADE, related_name="decisions")
    item = models.ForeignKey("items.Item", on_delete=models.CASCADE, related_name="decisions")
    post = models.OneToOneField("posts.Post", on_delete=models.CASCADE, null=True, related_name="decision")
    verdict = models.CharField(max_length=10)
    left_at = models.CharField(max_length=10, blank=True)
    reason = models.JSONField(null=True)
    trace = models.JSONField()
    at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["campaign", "item"], name="item_decided_once"),
            models.CheckConstraint(
                condition=models.Q(left_at="", verdict__in=["publish", "hold", "draft", "private", "scheduled"])
                | (~models.Q(left_at="") & models.Q(verdict__in=["refused", "duplicate"])),
                name="what_is_not_kept_left_at_a_stage",
            ),
        ]
        indexes = [
            models.Index(fields=["run", "verdict", "id"], name="decision_by_run"),
            models.Index(fields=["campaign", "id"], name="decision_by_campaign"),
            models.Index(
                fields=["at"], condition=models.Q(post=None) & ~models.Q(trace=[]), name="decision_with_old_trace"
            ),
        ]


class RuleUse(models.Model):
    """The first evaluation of a campaign's rule, and the last time it was against an item."""

    campaign = models.ForeignKey("campaigns.Campaign", on_delete=models.CASCADE, related_name="rule_uses")
    rule = models.CharField(max_length=60)
    since = models.DateTimeField()
    last = models.DateTimeField(null=True)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["campaign", "rule"], name="rule_use_once")]
