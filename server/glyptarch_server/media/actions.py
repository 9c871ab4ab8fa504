"""Asking for copies, making them, and keeping the blog's own pictures."""

import hashlib
import logging
import tempfile
from collections.abc import Collection, Iterable, Sequence
from concurrent.futures import ThreadPoolExecutor, wait
from datetime import datetime, timedelta
from pathlib import Path, PurePosixPath
from urllib.parse import unquote, urlsplit

from django.db import transaction
from django.db.models import Q
from glyptarch_core.pictures import MOST_BYTES, MadePicture, make_picture, recording_kind
from glyptarch_core.text import clean_line

from glyptarch_server import wiring
from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.problems import Conflict, Invalid, Unavailable
from glyptarch_server.media import queries
from glyptarch_server.media.files import MIMES, StorageError, keep_file, keep_sizes, remove_files, remove_picture_files
from glyptarch_server.media.lifecycle import PAUSES, CopyState
from glyptarch_server.media.models import MOST_LABELS, Picture, PictureCopy, Recording
from glyptarch_server.tasks.actions import ask_to_stop, begin_task
from glyptarch_server.tasks.carrying import Carrier
from glyptarch_server.tasks.lifecycle import TaskError, TaskState
from glyptarch_server.tasks.models import Task
from glyptarch_server.tasks.queries import active_task
from glyptarch_server.wiring import Fetched, FetchError, FetchPortal, FetchRequest

__all__ = [
    "ask_for_pictures",
    "ask_for_recordings",
    "carry_out_pictures",
    "carry_out_recording",
    "change_picture",
    "end_pictures",
    "end_recording",
    "keep_upload",
    "remove_all",
    "remove_picture",
    "remove_unused",
    "retry_copies",
    "retry_recording",
    "stop_recording",
    "take_up_due",
]

_log = logging.getLogger("glyptarch.media")
_AT_ONCE = 12
_SECONDS_OF_RECORDING = 1800.0
_SECONDS_BETWEEN_LOOKS = 1.0
_STAYS_UNUSED = timedelta(days=7)


def ask_for_pictures(blog: Blog, shown: Iterable[tuple[int, Collection[str]]], *, now: datetime) -> None:
    """Ask for copies of the pictures that posts show: number and addresses of each.

    Must run inside the transaction that writes the posts: the job is put on the queue with them.
    """
    pairs = [(post, url) for post, urls in shown for url in urls]
    if not pairs:
        return
    hashes = {queries.url_hash(url): url for _, url in pairs}
    PictureCopy.objects.bulk_create(
        [
            PictureCopy(blog=blog, url=url, url_hash=digest, state=CopyState.WAITING.value, next_at=now, asked_at=now)
            for digest, url in sorted(hashes.items())
        ],
        ignore_conflicts=True,
    )
    rows = dict(PictureCopy.objects.filter(blog=blog, url_hash__in=hashes).values_list("url_hash", "pk"))
    through = PictureCopy.posts.through
    through.objects.bulk_create(
        [through(picturecopy_id=rows[queries.url_hash(url)], post_id=post) for post, url in pairs],
        ignore_conflicts=True,
    )
    _begin_copying(blog, now=now)


def _begin_copying(blog: Blog, *, now: datetime) -> None:
    """Begin to copy a blog's pictures, unless that is under way.

    Copying goes on while copies are due.
    """
    Blog.objects.select_for_update(no_key=True).get(pk=blog.pk)
    if active_task("pictures", blog.pk) is None:
        begin_task("pictures", blog.pk, blog_id=blog.pk, subject=blog.title, now=now, path="pictures")


def ask_for_recordings(
    blog: Blog, shown: Iterable[tuple[int, Collection[str]]], *, most_bytes: int, now: datetime
) -> None:
    """Queue copies of the films and sound of posts.

    Call it in the transaction that writes the posts.
    """
    pairs = [(post, url) for post, urls in shown for url in urls]
    if not pairs:
        return
    hashes = {queries.url_hash(url): url for _, url in pairs}
    Recording.objects.bulk_create(
        [
            Recording(
                blog=blog,
                url=url,
                url_hash=digest,
                state=CopyState.WAITING.value,
                most_bytes=most_bytes,
                next_at=now,
                asked_at=now,
            )
            for digest, url in sorted(hashes.items())
        ],
        ignore_conflicts=True,
    )
    rows = {row.url_hash: row for row in Recording.objects.filter(blog=blog, url_hash__in=hashes)}
    through = Recording.posts.through
    through.objects.bulk_create(
        [through(recording_id=rows[queries.url_hash(url)].pk, post_id=post) for post, url in pairs],
        ignore_conflicts=True,
    )
    for row in rows.values():
        if row.state == CopyState.WAITING.value:
            _begin_recording(row, now=now)


def _begin_recording(row: Recording, *, now: datetime) -> None:
    """Begin to copy a film or sound, unless that is under way.

    The row must be locked, or written in this transaction.
    """
    if active_task("recording", row.pk) is None:
        begin_task(
            "recording", row.pk, blog_id=row.blog_id, subject=row.url, now=now, path="recordings", total=row.size
        )


def take_up_due(*, now: datetime) -> None:
    """Begin the copies that are due for another try."""
    for number in queries.blogs_with_due_copies(now):
        with transaction.atomic():
            _begin_copying(Blog.objects.get(pk=number), now=now)
    for number in queries.due_recordings(now):
        with transaction.atomic():
            _begin_recording(Recording.objects.select_for_update().get(pk=number), now=now)


def carry_out_pictures(task: Task, carrier: Carrier) -> None:
    """Make the due copies of a blog, a dozen at a time."""
    done = task.done
    while due := queries.due_copies(task.ref, carrier.now(), _AT_ONCE):
        carrier.report(done, done + queries.number_due(task.ref, carrier.now()))
        carrier.check()
        _copy(due, fetcher=carrier.fetcher, now=carrier.now())
        done += len(due)


def end_pictures(task: Task, state: TaskState, at: datetime) -> None:
    """Abandon the copies that were due when a person stopped them.

    A person can have them tried again.
    """
    if state is TaskState.STOPPED:
        rows = PictureCopy.objects.filter(blog=task.ref, next_at__lte=at)
        rows.update(state=CopyState.GIVEN_UP.value, next_at=None, fault="stopped")


def _copy(due: Sequence[PictureCopy], *, fetcher: FetchPortal, now: datetime) -> int:
    answers = fetcher.fetch_all([FetchRequest(url=row.url, most_bytes=MOST_BYTES) for row in due])
    fetched = [answer for answer in answers if isinstance(answer, Fetched)]
    copies = iter(wiring.apart().call(make_picture, [(answer.body,) for answer in fetched]))
    kept = 0
    for row, answer in zip(due, answers, strict=True):
        if not isinstance(answer, Fetched):
            _failed(row, answer.code.value, str(answer), now)
            continue
        picture = next(copies)
        if isinstance(picture, MadePicture):
            try:
                _keep_copy(row, picture, now)
            except StorageError as error:
                _not_stored(row, error, now)
            else:
                kept += 1
        else:
            _failed(row, picture or "too_costly", "", now)
    return kept


def _keep_copy(row: PictureCopy, made_picture: MadePicture, now: datetime) -> None:
    name = clean_line(PurePosixPath(unquote(urlsplit(row.url).path)).name, 200)
    picture = _keep(row.blog_id, made_picture, name=name or "picture", now=now)
    PictureCopy.objects.filter(pk=row.pk).update(
        picture=picture, state=CopyState.KEPT.value, next_at=None, fault="", why="", tries=row.tries + 1
    )


def _keep(blog: int, made_picture: MadePicture, *, name: str, now: datetime, uploaded: bool = False) -> Picture:
    """Store a picture, reusing one of the same bytes. The files are written before the row."""
    keep_sizes(blog, made_picture)
    picture, _ = Picture.objects.get_or_create(
        blog_id=blog,
        hash=made_picture.hash,
        defaults={
            "width": made_picture.width,
            "height": made_picture.height,
            "widths": sorted(size.width for size in made_picture.sizes),
            "fallback": f"{made_picture.fallback.width}.{made_picture.fallback.ending}",
            "size": sum(len(size.data) for size in (*made_picture.sizes, made_picture.fallback)),
            "name": name,
            "focus_x": made_picture.focus.x,
            "focus_y": made_picture.focus.y,
            "uploaded": uploaded,
            "made_at": now,
        },
    )
    return picture


def _failed(row: PictureCopy | Recording, fault: str, why: str, now: datetime) -> None:
    row.tries += 1
    again = row.tries <= len(PAUSES)
    row.state = (CopyState.FAILED if again else CopyState.GIVEN_UP).value
    row.next_at = now + PAUSES[row.tries - 1] if again else None
    row.fault, row.why = fault[:40], why[:500]
    row.save(update_fields=["state", "next_at", "tries", "fault", "why"])


def _not_stored(row: PictureCopy | Recording, error: StorageError, now: datetime) -> None:
    _log.error("%s cannot be stored and is tried again later: %s", row.url, error)
    _failed(row, "storage", "", now)


def retry_copies(blog: Blog, *, now: datetime) -> int:
    """Retry every failed copy of a picture.

    Return how many.
    """
    with transaction.atomic():
        number = queries.listed_copies(blog).update(state=CopyState.WAITING.value, next_at=now, tries=0)
        _begin_copying(blog, now=now)
        record("pictures.retried", blog.title, blog=blog.pk, after=number)
    return number


def keep_upload(blog: Blog, name: str, data: bytes, *, now: datetime) -> Picture:
    """Store an uploaded picture. Raises Invalid with the reason."""
    (made_picture,) = wiring.apart().call(make_picture, [(data,)])
    if not isinstance(made_picture, MadePicture):
        raise Invalid(f"“{name}” {_FAULTS.get(made_picture or 'too_costly', 'cannot be shown')}.")
    with transaction.atomic():
        try:
            picture = _keep(blog.pk, made_picture, name=clean_line(name, 200) or "picture", now=now, uploaded=True)
        except StorageError as error:
            _log.error("an uploaded picture cannot be stored and was refused: %s", error)
            raise Unavailable(f"“{name}” cannot be kept now: {_NOT_STORED}") from error
        if not picture.uploaded:
            # A copy becomes an upload, which stays.
            picture.uploaded = True
            picture.save(update_fields=["uploaded"])
        record("picture.added", picture.name, blog=blog.pk)
    return picture


_NOT_STORED = "the storage of pictures does not answer, or is full. Try again later, or ask who runs the server."
_FAULTS = {
    "empty": "is empty",
    "too_large": f"is larger than {MOST_BYTES >> 20} MB",
    "too_many_pixels": "has more than 40 million pixels. Make it smaller first",
    "svg": "is a drawing (SVG), which can hold scripts. Save it as PNG or WebP first",
    "no_picture": "is no picture in a format that is taken: JPEG, PNG, GIF, WebP, AVIF, BMP or TIFF",
    "broken": "is a broken picture: it ends too early, or holds what cannot be read",
    "too_costly": "takes too much time to read",
}


def change_picture(
    picture: Picture, *, name: str, alt: str, credit: str, labels: Sequence[str], focus: tuple[float, float]
) -> Picture:
    """Change a picture's name, description, credit, labels and focus."""
    kept = list(dict.fromkeys(clean for label in labels if (clean := clean_line(label, 60))))[:MOST_LABELS]
    with transaction.atomic():
        row = Picture.objects.select_for_update().get(pk=picture.pk)
        before = {"name": row.name, "alt": row.alt, "credit": row.credit, "labels": row.labels}
        row.name, row.alt, row.credit = clean_line(name, 200) or row.name, clean_line(alt, 300), clean_line(credit, 300)
        row.labels, (row.focus_x, row.focus_y) = kept, focus
        row.save(update_fields=["name", "alt", "credit", "labels", "focus_x", "focus_y"])
        after = {"name": row.name, "alt": row.alt, "credit": row.credit, "labels": row.labels}
        record("picture.changed", row.name, blog=row.blog_id, before=before, after=after)
    return row


def remove_picture(picture: Picture) -> None:
    """Remove a picture that a person gave. Raises Conflict while posts or campaigns show it."""
    with transaction.atomic():
        row = Picture.objects.select_for_update().get(pk=picture.pk)
        number = PictureCopy.posts.through.objects.filter(picturecopy__picture=row).count()
        if number:
            raise Conflict(f"{number} posts show “{row.name}”. It is removed by itself once none does.")
        record("picture.removed", row.name, blog=row.blog_id)
        # The row stays while its files cannot be removed, or they would be forgotten.
        row.delete()
        try:
            remove_picture_files(picture)
        except StorageError as error:
            _log.error("picture %s cannot be removed from the storage and stays: %s", picture.hash, error)
            raise Unavailable(f"“{row.name}” cannot be removed now: {_NOT_STORED}") from error


def remove_all(blog: Blog) -> None:
    """Remove everything that a blog keeps, files and rows: before the blog itself goes."""
    for picture in Picture.objects.filter(blog=blog).iterator(chunk_size=500):
        remove_picture_files(picture)
    files = Recording.objects.filter(blog=blog).exclude(file="").values_list("file", flat=True)
    remove_files(files.iterator(chunk_size=500))
    for model in (PictureCopy, Picture, Recording):
        model.objects.filter(blog=blog).delete()


def remove_unused(*, now: datetime) -> int:
    """Remove copies that no post has shown for a week, with their files.

    Return how many.
    """
    old = Q(asked_at__lt=now - _STAYS_UNUSED, posts=None)
    for copies in iter(lambda: list(PictureCopy.objects.filter(old).values_list("pk", flat=True)[:500]), []):
        PictureCopy.objects.filter(pk__in=copies).delete()
    silent = Recording.objects.filter(old)
    remove_files(silent.exclude(file="").values_list("file", flat=True))
    silent.delete()
    unused = Picture.objects.filter(uploaded=False, copies=None, made_at__lt=now - _STAYS_UNUSED)
    gone = 0
    for picture in unused.iterator(chunk_size=500):
        with transaction.atomic():
            row = Picture.objects.select_for_update(of=("self",)).filter(pk=picture.pk, copies=None).first()
            if row is None:
                continue
            row.delete()
            # Where the storage fails the row stays, so that its files are removed later.
            remove_picture_files(picture)
        gone += 1
    if gone:
        _log.info("%s pictures that no post shows were removed", gone)
    return gone


class _Watch:
    """Receives the progress of a download and decides whether it goes on."""

    def __init__(self) -> None:
        self.come = self.expected = 0
        self.stopped = False

    def tell(self, received: int, expected: int) -> bool:
        self.come, self.expected = received, expected
        return not self.stopped


def carry_out_recording(task: Task, carrier: Carrier) -> None:
    """Copy a film or sound into the storage, with its progress in the row and the task."""
    row = Recording.objects.filter(pk=task.ref, next_at__lte=carrier.now()).first()
    if row is None:
        return
    carrier.check()
    with tempfile.TemporaryDirectory(prefix="glyptarch-") as folder:
        path = Path(folder) / "recording"
        answer = _download(row, path, carrier)
        if not isinstance(answer, Fetched):
            _failed(row, answer.code.value, str(answer), carrier.now())
            raise TaskError(str(answer))
        ending = recording_kind(answer.body)
        if ending is None:
            _failed(row, "no_recording", "", carrier.now())
            raise TaskError("This is no film or sound.")
        digest = _digest(path)
        row.size = row.done = path.stat().st_size
        try:
            row.file, row.mime = keep_file(row.blog_id, digest, ending, path), MIMES[ending]
        except StorageError as error:
            _not_stored(row, error, carrier.now())
            raise TaskError("The storage does not answer, or is full.") from error
    row.state, row.next_at, row.fault, row.why = CopyState.KEPT.value, None, "", ""
    row.save(update_fields=["size", "done", "file", "mime", "state", "next_at", "fault", "why"])


def _download(row: Recording, path: Path, carrier: Carrier) -> Fetched | FetchError:
    """Fetch a film or sound into a file, and report the progress each second."""
    watch = _Watch()
    request = FetchRequest(
        url=row.url, most_bytes=row.most_bytes, seconds=_SECONDS_OF_RECORDING, into=path, on_progress=watch.tell
    )
    with ThreadPoolExecutor(1) as waiting:
        asked = waiting.submit(carrier.fetcher.fetch_all, [request])
        try:
            while not wait([asked], timeout=_SECONDS_BETWEEN_LOOKS).done:
                Recording.objects.filter(pk=row.pk).update(done=watch.come, size=watch.expected)
                carrier.report(watch.come, watch.expected)
        finally:
            # The thread ends at the next piece of the answer.
            watch.stopped = True
        (answer,) = asked.result()
    return answer


def end_recording(task: Task, state: TaskState, at: datetime) -> None:
    """Abandon a recording whose copy a person stopped. A failed one is tried again at its time."""
    del at
    if state is TaskState.STOPPED:
        _stop(Recording.objects.get(pk=task.ref))


def _digest(path: Path) -> str:
    with path.open("rb") as file:
        return hashlib.file_digest(file, "sha256").hexdigest()


def _stop(row: Recording) -> None:
    row.state, row.next_at, row.fault = CopyState.GIVEN_UP.value, None, "stopped"
    row.save(update_fields=["state", "next_at", "fault"])


def stop_recording(row: Recording, *, now: datetime) -> None:
    """Stop copying a film or sound. Raises Conflict where it is stored already."""
    with transaction.atomic():
        recording = Recording.objects.select_for_update().get(pk=row.pk)
        if recording.state == CopyState.KEPT.value:
            raise Conflict("This recording is copied already.")
        task = active_task("recording", row.pk)
        if task is None:
            # It waits for its next try.
            _stop(recording)
            record("recording.stopped", recording.url, blog=recording.blog_id)
    if task is not None:
        ask_to_stop(task, now=now)


def retry_recording(row: Recording, *, now: datetime) -> None:
    """Retry copying a film or sound. Raises Conflict where it is stored already."""
    with transaction.atomic():
        recording = Recording.objects.select_for_update().get(pk=row.pk)
        if recording.state == CopyState.KEPT.value:
            raise Conflict("This recording is copied already.")
        recording.state, recording.next_at, recording.tries = CopyState.WAITING.value, now, 0
        recording.save(update_fields=["state", "next_at", "tries"])
        _begin_recording(recording, now=now)
        record("recording.retried", recording.url, blog=recording.blog_id)
