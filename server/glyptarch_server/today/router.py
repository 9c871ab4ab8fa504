"""The API of today."""

from django.http import HttpRequest
from ninja import Router

from glyptarch_server import wiring
from glyptarch_server.blogs.queries import blog_for
from glyptarch_server.today.answers import today_out
from glyptarch_server.today.schemas import TodayOut

__all__ = ["router"]

router = Router(tags=["today"])


@router.get("/blogs/{blog}/today", response=TodayOut, operation_id="getToday")
def get_today(request: HttpRequest, blog: str) -> TodayOut:
    """Return recent events of a blog, upcoming ones, and tasks for people."""
    return today_out(blog_for(request.user, blog), now=wiring.clock()())
