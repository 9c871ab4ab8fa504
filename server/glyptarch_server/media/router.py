"""The API of pictures, and of copies of films and sound."""

from typing import TYPE_CHECKING

from django.http import HttpRequest
from ninja import File, Router
from ninja.files import UploadedFile

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import Role, blog_for
from glyptarch_server.common.fields import RowNumber
from glyptarch_server.common.paging import PAGE, Limit, Offset, page_of
from glyptarch_server.media import actions, queries
from glyptarch_server.media.files import address_of, fallback_of, file_address
from glyptarch_server.media.lifecycle import CopyState
from glyptarch_server.media.schemas import (
    CopiesOut,
    CopyOut,
    PictureIn,
    PictureOut,
    PicturePageOut,
    PictureUseOut,
    RecordingOut,
    RecordingPageOut,
)

if TYPE_CHECKING:
    from glyptarch_server.media.models import Picture, Recording

__all__ = ["router"]

router = Router(tags=["pictures"])
_SMALL = 640


def _picture(row: "Picture") -> PictureOut:
    small = max((width for width in row.widths if width <= _SMALL), default=min(row.widths))
    return PictureOut(
        id=row.pk,
        name=row.name,
        alt=row.alt,
        credit=row.credit,
        labels=row.labels,
        url=fallback_of(row),
        small=address_of(row, f"{small}.webp"),
        width=row.width,
        height=row.height,
        size=row.size,
        focus_x=row.focus_x,
        focus_y=row.focus_y,
        uploaded=row.uploaded,
        shown_by=getattr(row, "shown_by", 0),
        made_at=row.made_at,
    )


@router.get("/blogs/{blog}/pictures", response=PicturePageOut, operation_id="listPictures")
def list_pictures(
    request: HttpRequest,
    blog: str,
    search: str = "",
    label: str = "",
    uploaded: bool = False,  # noqa: FBT001 - a parameter of the address
    limit: Limit = PAGE,
    offset: Offset = 0,
) -> PicturePageOut:
    """Return the pictures of a blog.

    ``uploaded`` limits them to uploads.
    """
    owned = blog_for(request.user, blog)
    page, total = page_of(
        queries.listed_pictures(owned, search=search, label=label, uploaded=uploaded), limit=limit, offset=offset
    )
    return PicturePageOut(rows=[_picture(row) for row in page], total=total, labels=queries.picture_labels(owned))


@router.post("/blogs/{blog}/pictures", response=PictureOut, operation_id="addPicture")
def add_picture(request: HttpRequest, blog: str, file: File[UploadedFile]) -> PictureOut:
    """Store an uploaded picture."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    return _picture(actions.keep_upload(owned, file.name or "picture", file.read(), now=wiring.clock()()))


@router.get("/blogs/{blog}/pictures/{number}/posts", response=list[PictureUseOut], operation_id="getPictureUses")
def get_picture_uses(request: HttpRequest, blog: str, number: RowNumber) -> list[PictureUseOut]:
    """Return the newest posts that show a picture."""
    picture = queries.picture_of(blog_for(request.user, blog), number)
    return [PictureUseOut(id=post, title=title) for post, title in queries.posts_showing(picture)]


@router.put("/blogs/{blog}/pictures/{number}", response=PictureOut, operation_id="changePicture")
def change_picture(request: HttpRequest, blog: str, number: RowNumber, payload: PictureIn) -> PictureOut:
    """Change a picture's description, credit, labels and focus."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    actions.change_picture(
        queries.picture_of(owned, number),
        name=payload.name,
        alt=payload.alt,
        credit=payload.credit,
        labels=payload.labels,
        focus=(payload.focus_x, payload.focus_y),
    )
    return _picture(queries.picture_of(owned, number))


@router.delete("/blogs/{blog}/pictures/{number}", response={204: None}, operation_id="removePicture")
def remove_picture(request: HttpRequest, blog: str, number: RowNumber) -> tuple[int, None]:
    """Remove a picture that nothing shows."""
    actions.remove_picture(queries.picture_of(blog_for(request.user, blog, Role.EDITOR), number))
    return 204, None


@router.get("/blogs/{blog}/picture-copies", response=CopiesOut, operation_id="listCopies")
def list_copies(request: HttpRequest, blog: str, limit: Limit = PAGE, offset: Offset = 0) -> CopiesOut:
    """Return the failed copies of pictures, and their total number."""
    owned = blog_for(request.user, blog)
    page, total = page_of(queries.listed_copies(owned), limit=limit, offset=offset)
    rows = [CopyOut.model_validate(row, from_attributes=True) for row in page]
    return CopiesOut(states=dict(queries.copy_counts(owned)), rows=rows, total=total)


@router.post("/blogs/{blog}/picture-copies/retry", response=CopiesOut, operation_id="retryCopies")
def retry_copies(request: HttpRequest, blog: str) -> CopiesOut:
    """Try once more to copy what could not be copied."""
    actions.retry_copies(blog_for(request.user, blog, Role.EDITOR), now=wiring.clock()())
    return list_copies(request, blog)


def _recording(row: "Recording") -> RecordingOut:
    return RecordingOut(
        id=row.pk,
        url=row.url,
        address=file_address(row.file) if row.file else "",
        mime=row.mime,
        state=CopyState(row.state),
        done=row.done,
        size=row.size,
        fault=row.fault,
        why=row.why,
        next_at=row.next_at,
        shown_by=getattr(row, "shown_by", 0),
        asked_at=row.asked_at,
    )


@router.get("/blogs/{blog}/recordings", response=RecordingPageOut, operation_id="listRecordings")
def list_recordings(request: HttpRequest, blog: str, limit: Limit = PAGE, offset: Offset = 0) -> RecordingPageOut:
    """Return the films and sound that the blog copies."""
    page, total = page_of(queries.listed_recordings(blog_for(request.user, blog)), limit=limit, offset=offset)
    return RecordingPageOut(rows=[_recording(row) for row in page], total=total)


@router.post("/blogs/{blog}/recordings/{number}/retry", response=RecordingOut, operation_id="retryRecording")
def retry_recording(request: HttpRequest, blog: str, number: RowNumber) -> RecordingOut:
    """Copy a film or sound that could not be copied."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    actions.retry_recording(queries.recording_of(owned, number), now=wiring.clock()())
    return _recording(queries.recording_of(owned, number))


@router.post("/blogs/{blog}/recordings/{number}/stop", response=RecordingOut, operation_id="stopRecording")
def stop_recording(request: HttpRequest, blog: str, number: RowNumber) -> RecordingOut:
    """Stop copying a film or sound."""
    owned = blog_for(request.user, blog, Role.EDITOR)
    actions.stop_recording(queries.recording_of(owned, number), now=wiring.clock()())
    return _recording(queries.recording_of(owned, number))
