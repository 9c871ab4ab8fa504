"""Pictures, and copies of what posts show."""

from django.contrib.postgres.fields import ArrayField
from django.db import models

from glyptarch_server.media.lifecycle import CopyState

__all__ = ["MOST_LABELS", "Picture", "PictureCopy", "Recording", "Store"]

MOST_LABELS = 20
_STATES = [(state.value, state.value) for state in CopyState]
_KNOWN_STATE = models.Q(state__in=[state.value for state in CopyState])


class Store(models.Model):
    """The identity of the media folder.

    A mark in the folder repeats it, and is missing in any other folder.
    """

    mark = models.CharField(max_length=32)
    made_at = models.DateTimeField(auto_now_add=True)

    class Meta:
        constraints = [models.CheckConstraint(condition=models.Q(pk=1), name="one_store")]


class Picture(models.Model):
    """A stored picture in several sizes. The same bytes are stored once per blog.

    ``hash`` is the SHA-256 of the original bytes, which are not stored. ``widths`` are those of its WebP files; the
    file ``fallback`` (``1280.jpg``) serves browsers without WebP. The focus is a point in fractions of width and
    height.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="pictures")
    hash = models.CharField(max_length=64)
    width = models.PositiveIntegerField()
    height = models.PositiveIntegerField()
    widths = ArrayField(models.PositiveIntegerField())
    fallback = models.CharField(max_length=20)
    size = models.PositiveIntegerField()
    name = models.CharField(max_length=200)
    alt = models.CharField(max_length=300, blank=True)
    credit = models.CharField(max_length=300, blank=True)
    labels = ArrayField(models.CharField(max_length=60), default=list, blank=True)
    focus_x = models.FloatField(default=0.5)
    focus_y = models.FloatField(default=0.5)
    # Uploaded by a person, so it stays although no post shows it.
    uploaded = models.BooleanField(default=False)
    made_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["blog", "hash"], name="picture_once_in_a_blog"),
            models.CheckConstraint(
                condition=models.Q(focus_x__range=(0, 1)) & models.Q(focus_y__range=(0, 1)), name="focus_is_inside"
            ),
        ]
        indexes = [models.Index(fields=["blog", "-made_at", "-id"], name="picture_by_blog")]


class PictureCopy(models.Model):
    """The copy of a remote picture in posts: its address, and the stored picture once it exists."""

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    url = models.CharField(max_length=4000)
    url_hash = models.CharField(max_length=64)
    picture = models.ForeignKey(Picture, on_delete=models.CASCADE, null=True, related_name="copies")
    posts = models.ManyToManyField("posts.Post", related_name="picture_copies")
    state = models.CharField(max_length=10, choices=_STATES)
    tries = models.PositiveSmallIntegerField(default=0)
    next_at = models.DateTimeField(null=True)
    # The code of the error, and its text where the fetch failed.
    fault = models.CharField(max_length=40, blank=True)
    why = models.CharField(max_length=500, blank=True)
    asked_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["blog", "url_hash"], name="picture_copy_once"),
            models.CheckConstraint(condition=_KNOWN_STATE, name="picture_copy_state_is_known"),
            models.CheckConstraint(
                condition=~models.Q(state=CopyState.KEPT.value) | models.Q(picture__isnull=False),
                name="a_kept_copy_has_its_picture",
            ),
        ]
        indexes = [
            models.Index(fields=["next_at"], condition=models.Q(next_at__isnull=False), name="picture_copy_due"),
            models.Index(fields=["blog", "state"], name="picture_copy_by_state"),
        ]


class Recording(models.Model):
    """The copy of a remote film or sound in posts.

    ``file`` is its name in the storage, ``mime`` the type found in its first bytes. ``done`` and ``size`` are bytes;
    ``size`` is 0 until the server has stated it.
    """

    blog = models.ForeignKey("blogs.Blog", on_delete=models.CASCADE, related_name="+")
    url = models.CharField(max_length=4000)
    url_hash = models.CharField(max_length=64)
    posts = models.ManyToManyField("posts.Post", related_name="recordings")
    state = models.CharField(max_length=10, choices=_STATES)
    most_bytes = models.BigIntegerField()
    file = models.CharField(max_length=200, blank=True)
    mime = models.CharField(max_length=40, blank=True)
    done = models.BigIntegerField(default=0)
    size = models.BigIntegerField(default=0)
    tries = models.PositiveSmallIntegerField(default=0)
    next_at = models.DateTimeField(null=True)
    fault = models.CharField(max_length=40, blank=True)
    why = models.CharField(max_length=500, blank=True)
    asked_at = models.DateTimeField()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["blog", "url_hash"], name="recording_once"),
            models.CheckConstraint(condition=_KNOWN_STATE, name="recording_state_is_known"),
        ]
        indexes = [
            models.Index(fields=["next_at"], condition=models.Q(next_at__isnull=False), name="recording_due"),
            models.Index(fields=["blog", "-asked_at", "-id"], name="recording_by_blog"),
        ]
