"""What a blog wears besides its pages: the style sheet of its own, and its icon."""

from typing import TYPE_CHECKING

from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.views.decorators.http import require_safe
from glyptarch_core.appearance import colours_of, look_of, mark_of, own_css

from glyptarch_server.front.around import for_readers, of_a_blog

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["icon", "own_style_sheet"]


@require_safe
@of_a_blog
def own_style_sheet(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Return the style sheet that the owner of a blog wrote, without what loads from elsewhere."""
    return for_readers(
        request, row, HttpResponse(own_css(look_of(row.appearance)), content_type="text/css; charset=utf-8")
    )


@require_safe
@of_a_blog
def icon(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Return the icon of a blog: the first letters of its name in the colours of its masthead."""
    colours = colours_of(look_of(row.appearance))
    values = {"letters": mark_of(row.title, row.slug)[0], "ground": colours["--sky-low"], "ink": colours["--on-ground"]}
    return for_readers(request, row, render(request, "front/icon.svg", values, content_type="image/svg+xml"))
