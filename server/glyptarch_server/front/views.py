"""The public page of a post, and the page for unknown addresses."""

from collections.abc import Mapping
from contextlib import suppress
from dataclasses import replace
from datetime import datetime
from http import HTTPStatus
from typing import Any

from django.core.signing import BadSignature, Signer
from django.http import Http404, HttpRequest, HttpResponse, HttpResponseNotAllowed, HttpResponsePermanentRedirect
from django.shortcuts import render
from django.utils.crypto import constant_time_compare, salted_hmac
from django.utils.translation import gettext
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_http_methods, require_POST
from glyptarch_core.draft import Visibility
from glyptarch_core.editions import languages_of
from glyptarch_core.pictures import media_of
from glyptarch_core.text import sanitise, slugify

from glyptarch_server import wiring
from glyptarch_server.blogs.models import Blog
from glyptarch_server.blogs.queries import public_blog
from glyptarch_server.comments.actions import leave_comment
from glyptarch_server.comments.queries import comments_under
from glyptarch_server.common.client import client_of
from glyptarch_server.common.headers import policy_with_frames
from glyptarch_server.common.page_cache import POST_HEADER
from glyptarch_server.common.problems import Forbidden, ProblemError, TooMany
from glyptarch_server.front.around import (
    blog_context,
    cards,
    for_readers,
    home_in,
    is_member_asking,
    of_a_blog,
    read_in,
    words_of,
)
from glyptarch_server.front.assets import stylesheet
from glyptarch_server.front.contents import with_contents
from glyptarch_server.front.described import article
from glyptarch_server.front.lists import front_page
from glyptarch_server.front.offering import Shelf, places_price
from glyptarch_server.front.pages import (
    FieldView,
    Named,
    PostView,
    addresses_of,
    empty_view,
    sound_of,
    sounds_in,
    view_of_post,
)
from glyptarch_server.front.players import player_of, with_players
from glyptarch_server.front.saying import said_language
from glyptarch_server.media.queries import copies_of
from glyptarch_server.posts.for_readers import (
    Edition,
    editions_of,
    former_address,
    further_posts,
    listed,
    neighbour,
    posts_in_lists,
    readable_post,
    usual_language,
    was_out_at,
)
from glyptarch_server.posts.lifecycle import PostState
from glyptarch_server.posts.models import Post
from glyptarch_server.throttle.actions import limit_of, take

__all__ = [
    "comment_page",
    "language_or_post",
    "missing_page",
    "post_page",
    "view_of_values",
]

_COMMENTS_ON_POST = limit_of("5 per 10 minutes", "comments-on-post")
_COMMENTS = limit_of("20 per hour", "comments")
_PHRASES_BY_CLIENT = limit_of("10 per 10 minutes", "phrases-by-client")
_PHRASES_BY_POST = limit_of("300 per hour", "phrases-by-post")
_INSTEAD = 3
_MORE = 3
_NOT_OUR_FORM = "The form did not come from this page. Send it once more."
_FORMS = Signer(salt="comments")


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


def _post_and_context(request: HttpRequest, row: Blog, slug: str) -> tuple[Post, dict[str, Any]]:
    member = is_member_asking(request, row)
    post = readable_post(row, slug, member=member)
    if post is None:
        raise Http404(gettext("The blog has no such post."))
    here = request.build_absolute_uri(f"{row.home}{post.slug}/")
    further = further_posts(row, post, _MORE, member=member)
    copies = copies_of(row.pk, addresses_of(post), recordings=post.copies_recordings_mb > 0)
    facts = post.item.facts if post.item else {}
    shown, context = view_of_post(post, copies), blog_context(request, row)
    sound, player = sound_of(sounds_in(post), facts, post.body, copies), player_of(facts, row.player_hosts)
    shelf = Shelf(row, post.products, now=wiring.clock()(), post=post.pk)
    # Filled first, so that pictures of goods are copies as well where only copies are shown.
    shown = replace(shown, body=shelf.fill(shown.body, quiet=post.quiet_goods))
    shown = replace(shown, offer=shelf.of_post(post))
    text, contents = with_contents(shown.kind, shown.shown_body)
    body, origins = with_players(text, row.player_hosts, shown.title)
    film = player.url if player else ""
    return post, context | {
        "post": shown,
        "body": body,
        "contents": contents,
        "disclosure": shelf.disclosure,
        "offer_on_top": shown.kind == "product" and not places_price(post.body),
        "origins": [*origins, *([player.origin] if player else [])],
        "sound": sound,
        "data": article(
            row, shown, home=context["absolute_home"], address=here, origin=context["origin"], sound=sound, film=film
        ),
        **_note_of(row, post),
        "editions": _editions(request, row, post, member=member),
        "newer": neighbour(row, post, newer=True, member=member),
        "older": neighbour(row, post, newer=False, member=member),
        "here": post.category.slug if post.category else "",
        "address": here,
        "canonical": post.canonical or here,
        "more": cards(row, further.posts),
        "is_similar": further.similar,
        "player": player,
        "comments": comments_under(post) if post.comments else (),
        "form": _FORMS.sign(str(post.pk)),
        "said": "said" in request.GET,
    }


def _note_of(row: Blog, post: Post) -> dict[str, str]:
    """Return what an edition says of itself, where it stands, if anything."""
    language = languages_of(row.languages).of_text(post.language) if post.edition_of_id else None
    return {f"note_at_{language.note_place.value}": language.note} if language and language.note else {}


def _editions(request: HttpRequest, row: Blog, post: Post, *, member: bool) -> list[dict[str, str]]:
    """Return a post and its editions, each with its address. Nothing where there are none."""
    others = editions_of(row, post, member=member)
    if not others:
        return []
    own = Edition(post.slug, post.title, post.language or usual_language(row))
    return [
        {
            "address": request.build_absolute_uri(f"{home_in(row, edition.language)}{edition.slug}/"),
            "title": edition.title,
            "language": edition.language,
            "name": said_language(edition.language),
            "here": "here" if edition is own else "",
            "usual": "usual" if edition.language == usual_language(row) else "",
        }
        for edition in sorted([own, *others], key=lambda edition: edition.language)
    ]


def _moved_or_gone(request: HttpRequest, row: Blog, slug: str) -> HttpResponse | None:
    """Redirect a former address (RFC 9110, 15.4.2), or return 410 for a removed post (15.5.11)."""
    former = former_address(row, slug)
    if former is not None and former.post is not None and former.post.slug != slug:
        if former.post.state == PostState.PUBLISHED.value:
            return HttpResponsePermanentRedirect(_address_of(row, former.post))
        return missing_page(request, Gone(), status=HTTPStatus.GONE)
    if former is not None or was_out_at(row, slug):
        return missing_page(request, Gone(), status=HTTPStatus.GONE)
    return None


def _address_of(row: Blog, post: Post) -> str:
    """Return the path of a post, among the pages in its own language."""
    return f"{home_in(row, post.language)}{post.slug}/"


class Gone(Exception):
    """The resource at an address was removed."""

    def __init__(self) -> None:
        super().__init__(gettext("This post was taken off the blog."))


def _closed(request: HttpRequest, post: Post) -> bool:
    return post.visibility == Visibility.PHRASE.value and not request.session.get(_opened_key(post))


@require_http_methods(["GET", "HEAD", "POST"])
@of_a_blog
def post_page(request: HttpRequest, row: Blog, slug: str) -> HttpResponse:
    """Return one post.

    One with a pass phrase asks for it first and remembers the right answer.
    """
    try:
        post, context = _post_and_context(request, row, slug)
    except Http404:
        elsewhere = _moved_or_gone(request, row, slug)
        if elsewhere is None:
            raise
        return elsewhere
    if home_in(row, post.language) != row.home:
        return HttpResponsePermanentRedirect(_address_of(row, post))
    fault, status = "", 200
    if request.method == "POST":
        if post.visibility != Visibility.PHRASE.value:
            return HttpResponseNotAllowed(["GET", "HEAD"])
        fault, status = _try_phrase(request, post)
    if _closed(request, post):
        return render(request, "front/locked.html", context | {"fault": fault}, status=status)
    response = _shown(request, context)
    if post.visibility == Visibility.PHRASE.value:
        return response
    response[POST_HEADER] = str(post.pk)
    return for_readers(request, row, response)


@require_http_methods(["GET", "HEAD", "POST"])
def language_or_post(request: HttpRequest, blog: str, language: str) -> HttpResponse:
    """Return the front of a blog in one of its languages.

    Else a post whose address looks like a language.
    """
    row = public_blog(blog)
    if row is not None and languages_of(row.languages).named(language) is not None:
        return front_page(request, blog=blog, language=language)
    return post_page(request, blog=blog, slug=language)


def _shown(request: HttpRequest, context: dict[str, Any], *, status: int = 200) -> HttpResponse:
    """Return the page of a post, which may hold frames of the hosts of its players."""
    response = render(request, "front/post.html", context, status=status)
    if context["origins"]:
        response.headers["Content-Security-Policy"] = policy_with_frames(context["origins"])
    return response


def _is_own_form(request: HttpRequest, post: Post) -> bool:
    """Whether a form was made for this post, by the blog itself."""
    try:
        return _FORMS.unsign(request.POST.get("form", "")) == str(post.pk)
    except BadSignature:
        return False


@csrf_exempt  # A comment is nobody's in particular, so no session is used; the form has a signature instead.
@require_POST
@of_a_blog
def comment_page(request: HttpRequest, row: Blog, slug: str) -> HttpResponse:
    """Store a reader's comment.

    An invalid one is shown again with the reason.
    """
    post, context = _post_and_context(request, row, slug)
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
            return _shown(request, context | said, status=problem.status)
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
        return gettext("It was tried too often. Wait ten minutes, then try again."), HTTPStatus.TOO_MANY_REQUESTS
    if not constant_time_compare(request.POST.get("phrase", "").strip(), post.pass_phrase.strip()):
        fault = gettext("That is not the phrase. Look at it once more: spaces inside count, case as well.")
        return fault, HTTPStatus.FORBIDDEN
    request.session[_opened_key(post)] = True
    return "", HTTPStatus.OK


def missing_page(request: HttpRequest, exception: Exception, status: int = HTTPStatus.NOT_FOUND) -> HttpResponse:
    """Return the page for unknown addresses.

    On a blog, with its head and newest posts.
    """
    place, _, rest = request.path.removeprefix("/").partition("/")
    slug, _, within = rest.partition("/")
    blog = public_blog(slug) if place == "blog" else None
    if blog is None:
        return render(request, "front/nowhere.html", {"stylesheet": stylesheet()}, status=404)
    with suppress(Http404):
        read_in(blog, within.partition("/")[0])
    with words_of(blog):
        newest = listed(posts_in_lists(blog, member=is_member_asking(request, blog)), slice(_INSTEAD))
        # The resolver's message lists URL patterns, which nobody should see.
        why = exception.args[0] if exception.args and isinstance(exception.args[0], str) else ""
        context = blog_context(request, blog) | {"here": None, "heading": why or gettext("Nothing here")}
        posts = cards(blog, newest)
        return render(request, "front/missing.html", context | {"why": why, "posts": posts}, status=status)
