"""The public pages of a blog, and its feeds."""

from collections.abc import Mapping, Sequence
from dataclasses import replace
from datetime import datetime
from http import HTTPStatus
from typing import Any

from django.conf import settings
from django.core.cache import cache
from django.core.signing import BadSignature, Signer
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseNotAllowed, HttpResponsePermanentRedirect
from django.shortcuts import render
from django.utils.crypto import constant_time_compare, salted_hmac
from django.utils.feedgenerator import Atom1Feed, Rss201rev2Feed, SyndicationFeed
from django.utils.http import http_date
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import conditional_page, require_http_methods, require_POST, require_safe
from glyptarch_core.draft import Visibility
from glyptarch_core.pictures import media_of
from glyptarch_core.text import clean_text, sanitise, slugify

from glyptarch_server import wiring
from glyptarch_server.blogs.models import Blog, Category, Tag
from glyptarch_server.blogs.queries import is_member, public_blog
from glyptarch_server.comments.actions import leave_comment
from glyptarch_server.comments.queries import comments_under
from glyptarch_server.common.blog_changes import changes
from glyptarch_server.common.client import client_of
from glyptarch_server.common.headers import policy_with_frames
from glyptarch_server.common.page_cache import BLOG_HEADER
from glyptarch_server.common.problems import Forbidden, ProblemError, TooMany
from glyptarch_server.front.assets import stylesheet
from glyptarch_server.front.pages import (
    FieldView,
    Named,
    PostView,
    addresses_of,
    card_of_post,
    empty_view,
    lead_addresses,
    player_of,
    sound_of,
    view_of_post,
)
from glyptarch_server.media.queries import copies_of
from glyptarch_server.posts.for_readers import (
    ListedPost,
    Section,
    category_of,
    former_address,
    listed,
    posts_in_lists,
    readable_post,
    sections_of,
    tag_of,
    was_out_at,
)
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post
from glyptarch_server.throttle.actions import limit_of, take

__all__ = [
    "blog_context",
    "category_page",
    "comment_page",
    "feed",
    "front_page",
    "missing_page",
    "post_page",
    "tag_page",
    "view_of_values",
]

_PAGE = 13
_IN_FEED = 30
_COMMENTS_ON_POST = limit_of("5 per 10 minutes", "comments-on-post")
_COMMENTS = limit_of("20 per hour", "comments")
_PHRASES_BY_CLIENT = limit_of("10 per 10 minutes", "phrases-by-client")
_PHRASES_BY_POST = limit_of("300 per hour", "phrases-by-post")
_INSTEAD = 3
_MORE = 3
_LONGEST_NUMBER = 6
_SECTIONS_KEPT = 600
_NOT_OUR_FORM = "The form did not come from this page. Send it once more."
_FORMS = Signer(salt="comments")
_FEED_TYPES = {"rss": "application/rss+xml", "atom": "application/atom+xml"}


def _blog(slug: str) -> Blog:
    blog = public_blog(slug)
    if blog is None:
        raise Http404("There is no blog at this address.")
    return blog


def _is_member(request: HttpRequest, blog: Blog) -> bool:
    """Whether a request comes from a person of the blog.

    Without a session nobody is looked up.
    """
    return settings.SESSION_COOKIE_NAME in request.COOKIES and is_member(request.user, blog)


def _for_readers(request: HttpRequest, blog: Blog, response: HttpResponse) -> HttpResponse:
    """Let caches keep a page that is the same for everybody.

    They ask each time whether it still holds.
    """
    if settings.SESSION_COOKIE_NAME in request.COOKIES:
        response["Cache-Control"] = "private, no-cache"
    else:
        response["Cache-Control"] = "public, no-cache"
        response[BLOG_HEADER] = str(blog.pk)
    return response


def blog_context(request: HttpRequest | None, blog: Blog) -> dict[str, Any]:
    """Return the template context of every page of a blog."""
    home = f"/blog/{blog.slug}/"
    return {
        "blog": blog,
        "home": home,
        "sections": _sections(blog, member=_is_member(request, blog)) if request else (),
        "stylesheet": stylesheet(),
        "absolute_home": request.build_absolute_uri(home) if request else home,
        "origin": request.build_absolute_uri("/").rstrip("/") if request else "",
    }


def _sections(blog: Blog, *, member: bool) -> list[Section]:
    """Return the sections of a blog, which each process keeps until the blog changes.

    Finding them costs a fifth of a page.
    """
    version = changes.version_of(blog.pk)
    if version is None:
        return sections_of(blog, member=member)
    key = f"sections-{blog.pk}-{version}-{member}"
    return cache.get_or_set(key, lambda: sections_of(blog, member=member), _SECTIONS_KEPT) or []


def _list(
    request: HttpRequest, blog: Blog, heading: str, *, category: Category | None = None, tag: Tag | None = None
) -> HttpResponse:
    rows = posts_in_lists(blog, category=category, tag=tag, member=_is_member(request, blog))
    number = _page_number(request)
    # One more than a page shows whether an older page exists; counting all would take longer than the page.
    listed_posts = listed(rows, slice((number - 1) * _PAGE, number * _PAGE + 1))
    if not listed_posts and number > 1:
        raise Http404("The blog does not go back that far.")
    if not listed_posts and category:
        raise Http404("The blog has no such section.")
    if not listed_posts and tag:
        raise Http404("Nothing on the blog carries this tag.")
    posts = _cards(blog, listed_posts[:_PAGE])
    first_page = number == 1 and not heading
    page = render(
        request,
        "front/list.html",
        {
            **blog_context(request, blog),
            "heading": heading,
            "here": category.slug if category else "",
            "lead_post": posts[0] if posts and first_page else None,
            "posts": posts[1:] if first_page else posts,
            "page": number,
            "older": number + 1 if len(listed_posts) > _PAGE else None,
            "canonical": request.build_absolute_uri(request.path + (f"?page={number}" if number > 1 else "")),
        },
    )
    return _for_readers(request, blog, page)


def _cards(blog: Blog, posts: Sequence[ListedPost]) -> list[PostView]:
    """Return posts as lists show them, with the copies of their pictures."""
    copies = copies_of(blog.pk, lead_addresses(posts))
    return [card_of_post(post, copies) for post in posts]


def view_of_values(values: Mapping[str, Any], post: Post | None, *, blog: Blog, now: datetime) -> PostView:
    """Return a post's view with unsaved values over its saved ones.

    None without a post and values. The values come from an editor of the blog; their HTML is sanitised as on saving.
    """
    named = [Named(name=name, slug=slugify(name)) for name in values.get("categories", ())]
    changed: dict[str, Any] = {
        name: values[name] for name in ("title", "excerpt", "lead_url", "lead_alt", "byline", "date") if name in values
    }
    if "body" in values:
        changed["body"] = sanitise(values["body"])
    if "categories" in values:
        changed["category"] = named[0] if named else None
    if "tags" in values:
        changed["tags"] = [Named(name=name, slug=slugify(name)) for name in values["tags"]]
    if "fields" in values:
        changed["fields"] = [
            FieldView(**{name: value[name] for name in ("label", "type", "value")}) for value in values["fields"]
        ]
    shows = media_of(changed.get("body", post.body if post else ""))
    addresses = {changed.get("lead_url", post.lead_url if post else ""), *shows[0], *shows[1]} - {""}
    copies = copies_of(blog.pk, addresses, recordings=True)
    base = view_of_post(post, copies) if post else empty_view(now)
    # A picture added just now is shown although it has no copy yet.
    return replace(base, **changed, copies=copies, copies_pictures=False)


def _page_number(request: HttpRequest) -> int:
    """Return the requested page number.

    The first for an invalid one.
    """
    text = request.GET.get("page", "")
    return max(1, int(text)) if text.isascii() and text.isdigit() and len(text) <= _LONGEST_NUMBER else 1


@require_safe
def front_page(request: HttpRequest, blog: str) -> HttpResponse:
    """Return the newest posts of a blog."""
    return _list(request, _blog(blog), "")


@require_safe
def category_page(request: HttpRequest, blog: str, slug: str) -> HttpResponse:
    """Return the posts of a category."""
    row = _blog(blog)
    category = category_of(row, slug)
    if category is None:
        raise Http404("The blog has no such section.")
    return _list(request, row, category.name, category=category)


@require_safe
def tag_page(request: HttpRequest, blog: str, slug: str) -> HttpResponse:
    """Return the posts with a tag."""
    row = _blog(blog)
    tag = tag_of(row, slug)
    if tag is None:
        raise Http404("Nothing on the blog carries this tag.")
    return _list(request, row, f"#{tag.name}", tag=tag)


def _post_and_context(request: HttpRequest, row: Blog, slug: str) -> tuple[Post, dict[str, Any]]:
    member = _is_member(request, row)
    post = readable_post(row, slug, member=member)
    if post is None:
        raise Http404("The blog has no such post.")
    here = request.build_absolute_uri(f"/blog/{row.slug}/{post.slug}/")
    near = posts_in_lists(row, member=member).filter(category=post.category).exclude(pk=post.pk)
    more = listed(near.order_by("-date", "-pk"), slice(_MORE))
    copies = copies_of(row.pk, addresses_of(post), recordings=post.copies_recordings_mb > 0)
    return post, blog_context(request, row) | {
        "post": view_of_post(post, copies),
        "sound": sound_of(post, copies),
        "here": post.category.slug if post.category else "",
        "address": here,
        "canonical": post.canonical or here,
        "more": _cards(row, more),
        "comments": comments_under(post) if post.comments else (),
        "form": _FORMS.sign(str(post.pk)),
        "said": "said" in request.GET,
    }


def _moved_or_gone(request: HttpRequest, row: Blog, slug: str) -> HttpResponse | None:
    """Redirect a former address (RFC 9110, 15.4.2), or return 410 for a removed post (15.5.11)."""
    former = former_address(row, slug)
    if former is not None and former.post is not None and former.post.slug != slug:
        if former.post.state == PostState.PUBLISHED.value:
            return HttpResponsePermanentRedirect(f"/blog/{row.slug}/{former.post.slug}/")
        return missing_page(request, Gone(), status=HTTPStatus.GONE)
    if former is not None or was_out_at(row, slug):
        return missing_page(request, Gone(), status=HTTPStatus.GONE)
    return None


class Gone(Exception):
    """The resource at an address was removed."""

    def __init__(self) -> None:
        super().__init__("This post was taken off the blog.")


def _closed(request: HttpRequest, post: Post) -> bool:
    return post.visibility == Visibility.PHRASE.value and not request.session.get(_opened_key(post))


@require_http_methods(["GET", "HEAD", "POST"])
def post_page(request: HttpRequest, blog: str, slug: str) -> HttpResponse:
    """Return one post.

    One with a pass phrase asks for it first and remembers the right answer.
    """
    row = _blog(blog)
    try:
        post, context = _post_and_context(request, row, slug)
    except Http404:
        elsewhere = _moved_or_gone(request, row, slug)
        if elsewhere is None:
            raise
        return elsewhere
    fault, status = "", 200
    if request.method == "POST":
        if post.visibility != Visibility.PHRASE.value:
            return HttpResponseNotAllowed(["GET", "HEAD"])
        fault, status = _try_phrase(request, post)
    if _closed(request, post):
        return render(request, "front/locked.html", context | {"fault": fault}, status=status)
    player = player_of(post, row.player_hosts)
    response = render(request, "front/post.html", context | {"player": player})
    if player is not None:
        response.headers["Content-Security-Policy"] = policy_with_frames(player.origin)
    return response if post.visibility == Visibility.PHRASE.value else _for_readers(request, row, response)


def _is_own_form(request: HttpRequest, post: Post) -> bool:
    """Whether a form was made for this post, by the blog itself."""
    try:
        return _FORMS.unsign(request.POST.get("form", "")) == str(post.pk)
    except BadSignature:
        return False


@csrf_exempt  # A comment is nobody's in particular, so no session is used; the form has a signature instead.
@require_POST
def comment_page(request: HttpRequest, blog: str, slug: str) -> HttpResponse:
    """Store a reader's comment.

    An invalid one is shown again with the reason.
    """
    post, context = _post_and_context(request, _blog(blog), slug)
    if _closed(request, post):
        return render(request, "front/locked.html", context, status=403)
    form = {name: request.POST.get(name, "") for name in ("name", "comment")}
    # Only programs fill in the hidden field; they get no reason.
    if not request.POST.get("website"):
        try:
            if not _is_own_form(request, post):
                raise Forbidden(_NOT_OUR_FORM)
            _count_comment(request, post)
            leave_comment(post, name=form["name"], text=form["comment"], now=wiring.clock()())
        except ProblemError as problem:
            said = {"fault": problem.detail, "given": form}
            return render(request, "front/post.html", context | said, status=problem.status)
    return HttpResponse(status=303, headers={"Location": f"{context['home']}{post.slug}/?said#comments"})


def _count_comment(request: HttpRequest, post: Post) -> None:
    client = client_of(request)
    if not all((take(_COMMENTS_ON_POST, client, str(post.pk)), take(_COMMENTS, client))):
        raise TooMany("Many comments have come from you in a short time. Wait a while, then send it again.")


def _opened_key(post: Post) -> str:
    # A changed phrase closes the post again for earlier readers.
    return f"opened:{post.pk}:{salted_hmac('opened', post.pass_phrase).hexdigest()[:16]}"


def _try_phrase(request: HttpRequest, post: Post) -> tuple[str, int]:
    """Check a pass phrase.

    Return the message and status where it is refused.
    """
    counts = (take(_PHRASES_BY_CLIENT, client_of(request), str(post.pk)), take(_PHRASES_BY_POST, str(post.pk)))
    if not all(counts):
        return "It was tried too often. Wait ten minutes, then try again.", HTTPStatus.TOO_MANY_REQUESTS
    if not constant_time_compare(request.POST.get("phrase", "").strip(), post.pass_phrase.strip()):
        return "That is not the phrase. Look at it once more: spaces inside count, case as well.", HTTPStatus.FORBIDDEN
    request.session[_opened_key(post)] = True
    return "", HTTPStatus.OK


def missing_page(request: HttpRequest, exception: Exception, status: int = HTTPStatus.NOT_FOUND) -> HttpResponse:
    """Return the page for unknown addresses.

    On a blog, with its head and newest posts.
    """
    place, _, rest = request.path.removeprefix("/").partition("/")
    blog = public_blog(rest.partition("/")[0]) if place == "blog" else None
    if blog is None:
        return render(request, "front/nowhere.html", {"stylesheet": stylesheet()}, status=404)
    newest = listed(posts_in_lists(blog, member=_is_member(request, blog)), slice(_INSTEAD))
    # The resolver's message lists URL patterns, which nobody should see.
    why = exception.args[0] if exception.args and isinstance(exception.args[0], str) else ""
    context = blog_context(request, blog) | {"here": None, "heading": why or "Nothing here"}
    posts = _cards(blog, newest)
    return render(request, "front/missing.html", context | {"why": why, "posts": posts}, status=status)


@require_safe
@conditional_page
def feed(request: HttpRequest, blog: str, kind: str) -> HttpResponse:
    """Return the newest posts as RSS 2.0 or Atom 1.0.

    304 where unchanged (RFC 9110, 13.1).
    """
    row = _blog(blog)
    home = request.build_absolute_uri(f"/blog/{row.slug}/")
    maker = {"rss": Rss201rev2Feed, "atom": Atom1Feed}[kind]
    feed: SyndicationFeed = maker(
        title=clean_text(row.title),
        link=home,
        description=clean_text(row.tagline or row.title),
        language=row.language,
        feed_url=request.build_absolute_uri(request.path),
    )
    in_feed = posts_in_lists(row).filter(visibility=Visibility.PUBLIC.value)
    joined = in_feed.select_related("byline").prefetch_related("tags").defer("body", "found_by")
    posts = list(joined.order_by("-date", "-pk")[:_IN_FEED])
    newest = max((post.changed_at for post in posts), default=None)
    for post in posts:
        address = f"{home}{post.slug}/"
        feed.add_item(
            title=clean_text(post.title),
            link=address,
            unique_id=address,
            description=clean_text(post.description or post.excerpt or post.title),
            pubdate=post.date,
            updateddate=post.changed_at,
            author_name=clean_text(post.byline.name) if post.byline else None,
            categories=[clean_text(tag.name) for tag in post.tags.all()],
        )
    answer = HttpResponse(feed.writeString("utf-8"), content_type=f"{_FEED_TYPES[kind]}; charset=utf-8")
    if newest is not None:
        answer["Last-Modified"] = http_date(newest.timestamp())
    return _for_readers(request, row, answer)
