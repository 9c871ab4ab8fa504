"""The public pages of a blog, and its feeds."""

from typing import Any

from django.core.paginator import Paginator
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.feedgenerator import Atom1Feed, Rss201rev2Feed, SyndicationFeed
from django.views.decorators.http import require_safe

from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import categories_of, public_blog
from glyptarch_server.front.assets import stylesheet
from glyptarch_server.front.pages import view_of_post
from glyptarch_server.posts.queries import public_posts

__all__ = ["blog_context", "category_page", "feed", "front_page", "post_page", "tag_page"]

_PAGE = 13
_IN_FEED = 30
_FEED_TYPES = {"rss": "application/rss+xml", "atom": "application/atom+xml"}


def _blog(slug: str) -> Blog:
    blog = public_blog(slug)
    if blog is None:
        raise Http404("There is no blog at this address.")
    return blog


def blog_context(request: HttpRequest | None, blog: Blog) -> dict[str, Any]:
    """Give what every page of a blog shows."""
    home = f"/blog/{blog.slug}/"
    return {
        "blog": blog,
        "home": home,
        "sections": categories_of(blog),
        "stylesheet": stylesheet(),
        "absolute_home": request.build_absolute_uri(home) if request else home,
    }


def _list(request: HttpRequest, blog: Blog, heading: str, *, category: str = "", tag: str = "") -> HttpResponse:
    pages = Paginator(public_posts(blog, category=category, tag=tag), _PAGE)
    page = pages.get_page(request.GET.get("page"))
    posts = [view_of_post(post) for post in page]
    first_page = page.number == 1 and not heading
    return render(
        request,
        "front/list.html",
        {
            **blog_context(request, blog),
            "heading": heading,
            "here": category,
            "lead_post": posts[0] if posts and first_page else None,
            "posts": posts[1:] if first_page else posts,
            "page": page,
            "canonical": request.build_absolute_uri(request.path + (f"?page={page.number}" if page.number > 1 else "")),
        },
    )


@require_safe
def front_page(request: HttpRequest, blog: str) -> HttpResponse:
    """Give the newest posts of a blog."""
    return _list(request, _blog(blog), "")


@require_safe
def category_page(request: HttpRequest, blog: str, slug: str) -> HttpResponse:
    """Give the posts of a category."""
    row = _blog(blog)
    category = next((category for category in categories_of(row) if category.slug == slug), None)
    if category is None:
        raise Http404("The blog has no such section.")
    return _list(request, row, category.name, category=slug)


@require_safe
def tag_page(request: HttpRequest, blog: str, slug: str) -> HttpResponse:
    """Give the posts that carry a tag."""
    row = _blog(blog)
    if not public_posts(row, tag=slug).exists():
        raise Http404("Nothing on the blog carries this tag.")
    name = next(tag.name for tag in public_posts(row, tag=slug)[0].tags.all() if tag.slug == slug)
    return _list(request, row, f"#{name}", tag=slug)


@require_safe
def post_page(request: HttpRequest, blog: str, slug: str) -> HttpResponse:
    """Give one post."""
    row = _blog(blog)
    post = public_posts(row).filter(slug=slug).first()
    if post is None:
        raise Http404("The blog has no such post.")
    more = public_posts(row).filter(category=post.category).exclude(pk=post.pk)[:3]
    here = request.build_absolute_uri(request.path)
    context = blog_context(request, row) | {
        "post": view_of_post(post),
        "more": [view_of_post(other) for other in more],
        "here": post.category.slug if post.category else "",
        "address": here,
        "canonical": post.link or here,
    }
    return render(request, "front/post.html", context)


@require_safe
def feed(request: HttpRequest, blog: str, kind: str) -> HttpResponse:
    """Give the newest posts as RSS 2.0 or Atom 1.0."""
    row = _blog(blog)
    home = request.build_absolute_uri(f"/blog/{row.slug}/")
    maker = {"rss": Rss201rev2Feed, "atom": Atom1Feed}[kind]
    made: SyndicationFeed = maker(
        title=row.title,
        link=home,
        description=row.tagline or row.title,
        language=row.language,
        feed_url=request.build_absolute_uri(request.path),
    )
    for post in public_posts(row)[:_IN_FEED]:
        address = f"{home}{post.slug}/"
        made.add_item(
            title=post.title,
            link=address,
            unique_id=address,
            description=post.excerpt or post.title,
            pubdate=post.date,
            updateddate=post.changed_at,
            author_name=post.byline.name if post.byline else None,
            categories=[tag.name for tag in post.tags.all()],
        )
    return HttpResponse(made.writeString("utf-8"), content_type=f"{_FEED_TYPES[kind]}; charset=utf-8")
