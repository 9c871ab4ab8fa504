"""Tasks."""

from django.conf import settings
from django.db import models

from glyptarch_server.blogs.roles import Role
from glyptarch_server.tasks.lifecycle import TaskState

__all__ = ["Task"]


class Task(models.Model):
    """Long work of one kind for a blog, carried out batch by batch by whichever worker is free.

    ``ref`` is the number of the row that it works on, in the app of its kind. A row has at most one task of a kind
    under way.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="tasks")
    kind = models.CharField(max_length=20)
    ref = models.BigIntegerField()
    # What people know it by: the name of a campaign or a source, the title of a post.
    subject = models.CharField(max_length=300)
    # The screen of the desk that shows it, below that of the blog: "runs/12".
    path = models.CharField(max_length=200, blank=True)
    # Tasks with the same lock are carried out one after another, in the order of their numbers.
    lock = models.CharField(max_length=80)
    state = models.CharField(max_length=10, choices=[(state.value, state.value) for state in TaskState])
    stop_asked = models.BooleanField(default=False)
    # What it is doing, where it does several things one after another; ``done`` and ``total`` count that.
    phase = models.CharField(max_length=20, blank=True)
    done = models.BigIntegerField(default=0)
    total = models.BigIntegerField(default=0)
    # The place of its blog's next batch among those of others: the lowest comes first.
    turn = models.PositiveIntegerField(default=0)
    # Starts without progress; a task that always fails must end.
    tries = models.PositiveSmallIntegerField(default=0)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.SET_NULL, null=True, related_name="+")
    # What the person must still be on the blog for the task to go on.
    role = models.CharField(max_length=10, choices=Role.choices, default=Role.EDITOR)
    asked_at = models.DateTimeField()
    begun_at = models.DateTimeField(null=True)
    phase_at = models.DateTimeField(null=True)
    beat_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)
    failure = models.CharField(max_length=500, blank=True)

    class Meta:
        constraints = [
            models.UniqueConstraint(
                fields=["kind", "ref"], condition=models.Q(ended_at=None), name="one_task_of_a_kind_under_way"
            ),
            models.CheckConstraint(
                condition=models.Q(state__in=[state.value for state in TaskState]), name="task_state_is_known"
            ),
        ]
        indexes = [
            models.Index(fields=["blog", "-id"], name="task_by_blog"),
            models.Index(fields=["asked_at"], condition=models.Q(ended_at=None), name="task_under_way"),
            models.Index(fields=["lock", "id"], condition=models.Q(ended_at=None), name="task_by_lock"),
            models.Index(fields=["ended_at"], name="task_by_end"),
        ]
