"""Reads about pictures and copies."""

import hashlib
from collections.abc import Collection, Mapping
from datetime import datetime

from django.db.models import Count, Q, QuerySet
from glyptarch_core.pictures import Shown, ShownPicture

from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import NotFound
from glyptarch_server.media.files import address_of, fallback_of, file_address, hash_in
from glyptarch_server.media.lifecycle import CopyState
from glyptarch_server.media.models import Picture, PictureCopy, Recording

__all__ = [
    "blogs_with_due_copies",
    "copies_of",
    "copy_counts",
    "due_copies",
    "due_recordings",
    "listed_copies",
    "listed_pictures",
    "listed_recordings",
    "number_due",
    "picture_labels",
    "picture_of",
    "pools_of",
    "posts_showing",
    "recording_of",
    "shown_as",
    "url_hash",
]


def url_hash(url: str) -> str:
    """Return the stored form of an address for lookups."""
    return hashlib.sha256(url.encode("utf-8", "surrogatepass")).hexdigest()


def shown_as(picture: Picture) -> ShownPicture:
    """Return a picture in the form for pages."""
    return ShownPicture(
        url=fallback_of(picture),
        webp=tuple((address_of(picture, f"{width}.webp"), width) for width in sorted(picture.widths)),
        width=picture.width,
        height=picture.height,
        x=picture.focus_x,
        y=picture.focus_y,
        credit=picture.credit,
        alt=picture.alt,
    )


def copies_of(blog: int, urls: Collection[str], *, recordings: bool = False) -> dict[str, Shown]:
    """Return the stored pictures and recordings of addresses.

    Addresses without a copy are left out. An address of the blog's own picture means that picture. ``recordings``
    includes films and sound. Each of the three kinds takes one query, for any number of addresses.
    """
    if not urls:
        return {}
    hashes = {url_hash(url): url for url in urls}
    kept = {"blog": blog, "state": CopyState.KEPT.value}
    pictures = PictureCopy.objects.filter(AnyOf("url_hash", hashes), **kept).select_related("picture")
    shown: dict[str, Shown] = {
        hashes[row.url_hash]: shown_as(row.picture) for row in pictures if row.picture is not None
    }
    own = {digest: url for url in urls if (digest := hash_in(url))}
    if own:
        for picture in Picture.objects.filter(AnyOf("hash", own), blog=blog):
            shown[own[picture.hash]] = shown_as(picture)
    if recordings:
        played = Recording.objects.filter(AnyOf("url_hash", hashes), **kept).values_list("url_hash", "file")
        shown |= {hashes[digest]: file_address(file) for digest, file in played}
    return shown


def blogs_with_due_copies(now: datetime) -> list[int]:
    """Return the blogs with copies due now."""
    return list(PictureCopy.objects.filter(next_at__lte=now).values_list("blog", flat=True).distinct())


def due_copies(blog: int, now: datetime, most: int) -> list[PictureCopy]:
    """Return copies due now, oldest request first."""
    return list(PictureCopy.objects.filter(blog=blog, next_at__lte=now).order_by("next_at", "pk")[:most])


def number_due(blog: int, now: datetime) -> int:
    """Count the copies that are due now."""
    return PictureCopy.objects.filter(blog=blog, next_at__lte=now).count()


def due_recordings(now: datetime) -> list[int]:
    """Return the numbers of recordings due now."""
    return list(Recording.objects.filter(next_at__lte=now).order_by("next_at").values_list("pk", flat=True)[:50])


def listed_pictures(blog: Blog, *, search: str = "", label: str = "", uploaded: bool = False) -> QuerySet[Picture]:
    """Return the pictures of a blog, newest first, with the number of posts in ``shown_by``."""
    rows = Picture.objects.filter(blog=blog)
    if search:
        rows = rows.filter(Q(name__icontains=search) | Q(alt__icontains=search) | Q(credit__icontains=search))
    if label:
        rows = rows.filter(labels__contains=[label])
    if uploaded:
        rows = rows.filter(uploaded=True)
    return rows.annotate(shown_by=Count("copies__posts", distinct=True)).order_by("-made_at", "-pk")


def picture_labels(blog: Blog) -> list[str]:
    """Return the labels of a blog's pictures."""
    rows = Picture.objects.filter(blog=blog).exclude(labels=[]).values_list("labels", flat=True)
    return sorted({label for labels in rows[:5000] for label in labels})


_MOST_IN_POOL = 500


def pools_of(blog: int, labels: Collection[str]) -> dict[str, tuple[tuple[str, str], ...]]:
    """Return address and text of the pictures with each of these labels, in order of upload."""
    rows = Picture.objects.filter(blog=blog, labels__overlap=list(labels)).order_by("pk") if labels else ()
    pools: dict[str, list[tuple[str, str]]] = {label: [] for label in labels}
    for row in rows:
        for label in set(row.labels) & set(labels):
            if len(pools[label]) < _MOST_IN_POOL:
                pools[label].append((fallback_of(row), row.alt))
    return {label: tuple(pictures) for label, pictures in pools.items()}


def picture_of(blog: Blog, number: int) -> Picture:
    """Return one picture. Raises NotFound."""
    row = listed_pictures(blog).filter(pk=number).first()
    if row is None:
        raise NotFound("This blog has no such picture. It may have been removed.")
    return row


def posts_showing(picture: Picture) -> list[tuple[int, str]]:
    """Return number and title of the newest fifty posts that show a picture."""
    posts = PictureCopy.posts.through.objects.filter(picturecopy__picture=picture)
    rows = posts.order_by("-post__date").values_list("post", "post__title").distinct()
    return list(dict.fromkeys(rows[:50]))


def copy_counts(blog: Blog) -> Mapping[str, int]:
    """Return the number of picture copies in each state."""
    counted = dict(PictureCopy.objects.filter(blog=blog).values_list("state").annotate(number=Count("*")))
    return {state.value: counted.get(state.value, 0) for state in CopyState}


def listed_copies(blog: Blog) -> QuerySet[PictureCopy]:
    """Return the failed copies of pictures, latest first."""
    states = [CopyState.FAILED.value, CopyState.GIVEN_UP.value]
    return PictureCopy.objects.filter(blog=blog, state__in=states).order_by("-asked_at", "-pk")


def listed_recordings(blog: Blog) -> QuerySet[Recording]:
    """Return the films and sound that a blog copies, latest first."""
    rows = Recording.objects.filter(blog=blog).annotate(shown_by=Count("posts", distinct=True))
    return rows.order_by("-asked_at", "-pk")


def recording_of(blog: Blog, number: int) -> Recording:
    """Return one recording. Raises NotFound."""
    row = listed_recordings(blog).filter(pk=number).first()
    if row is None:
        raise NotFound("This blog has no such film or sound. It may have been removed.")
    return row
