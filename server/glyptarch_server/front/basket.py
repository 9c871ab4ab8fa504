"""A reader's list of products, shown with fresh prices and handed over to shops.

It is kept in a cookie that the reader's own act sets.

It works without scripts. The cookie is sent to this page alone, so all other pages stay the same for everybody.
"""

from dataclasses import dataclass, field
from typing import TYPE_CHECKING
from urllib.parse import urlsplit

from django.conf import settings
from django.core.signing import BadSignature, Signer
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_http_methods
from glyptarch_core.offers import (
    MOST_LINES,
    MOST_PIECES,
    OfferDocument,
    hand_over,
    offers_of,
    read_lines,
    tagged,
    with_line,
    written_lines,
)

from glyptarch_server import wiring
from glyptarch_server.front.around import blog_context, of_a_blog
from glyptarch_server.front.offering import OfferView, Shelf
from glyptarch_server.front.tokens import product_for_basket, sign_for_basket
from glyptarch_server.offers.queries import products_by_row

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["basket_page"]

_COOKIE = "basket"
_DAYS = 30
_SIGNER = Signer(salt="offers.list")
_LONGEST_NUMBER = 3


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """A line of the list: an offer, its pieces, and what the form sends to change it."""

    offer: OfferView
    number: str
    pieces: int
    signed: str


@dataclass(slots=True, kw_only=True)
class ShopList:
    """The lines of one shop.

    ``address`` leads to its own basket. Empty where it takes none over.
    """

    shop: str
    lines: list[Line] = field(default_factory=list)
    gone: list[Line] = field(default_factory=list)
    address: str = ""


@csrf_exempt  # Nobody is signed in here; forms have a signature, and other sites are refused.
@require_http_methods(["GET", "HEAD", "POST"])
@of_a_blog
def basket_page(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Show the list of a reader, or change it."""
    document = offers_of(row.offers)
    if not document.has_basket:
        raise Http404(gettext("The blog has no such page."))
    lines = _lines_of(request, row)
    fault = ""
    if request.method == "POST":
        try:
            lines = _changed(request, row, lines)
        except ValueError as error:
            fault = str(error)
        else:
            answer = HttpResponse(status=303, headers={"Location": f"/blog/{row.slug}/basket/"})
            _keep(answer, row, lines)
            return answer
    context = blog_context(request, row) | {
        "heading": gettext("My list"),
        "shops": _shops(row, document, lines),
        "fault": fault,
        "here": None,
        "most_pieces": MOST_PIECES,
    }
    answer = render(request, "front/basket.html", context, status=400 if fault else 200)
    answer["Cache-Control"] = "private, no-store"
    return answer


def _lines_of(request: HttpRequest, blog: "Blog") -> dict[int, int]:
    try:
        number, _, written = _SIGNER.unsign(request.COOKIES.get(_COOKIE, "")).partition("_")
    except BadSignature:
        return {}
    return read_lines(written) if number == str(blog.pk) else {}


def _keep(answer: HttpResponse, blog: "Blog", lines: dict[int, int]) -> None:
    path = f"/blog/{blog.slug}/basket/"
    if not lines:
        answer.delete_cookie(_COOKIE, path=path, samesite="Lax")
        return
    answer.set_cookie(
        _COOKIE,
        _SIGNER.sign(f"{blog.pk}_{written_lines(lines)}"),
        max_age=_DAYS * 24 * 3600,
        path=path,
        secure=settings.SESSION_COOKIE_SECURE,
        httponly=True,
        samesite="Lax",
    )


def _changed(request: HttpRequest, blog: "Blog", lines: dict[int, int]) -> dict[int, int]:
    """Return the list as a form changes it. Raises ValueError, in words for the reader."""
    product = product_for_basket(blog, request.POST.get("product", "")[:500])
    if product is None or not _from_here(request) or product not in products_by_row(blog, [product]):
        raise ValueError(gettext("The form did not come from this blog. Go back and try again."))
    asked = request.POST.get("pieces", "")[: _LONGEST_NUMBER + 1].strip()
    # The button on a page of the blog adds one more.
    pieces = lines.get(product, 0) + 1 if not asked else int(asked) if asked.isascii() and asked.isdigit() else -1
    try:
        return with_line(lines, product, pieces)
    except ValueError as error:
        if error.args[0] == "lines":
            raise ValueError(gettext("The list has {number} lines already.").format(number=MOST_LINES)) from error
        raise ValueError(gettext("Write a number of pieces from 0 to {most}.").format(most=MOST_PIECES)) from error


def _from_here(request: HttpRequest) -> bool:
    """Whether a form was sent by a page of this host (Fetch Metadata.

    Else the Origin header, RFC 6454).
    """
    site = request.headers.get("Sec-Fetch-Site", "")
    if site:
        return site in {"same-origin", "none"}
    origin = request.headers.get("Origin", "")
    return not origin or urlsplit(origin).netloc == request.get_host()


def _shops(blog: "Blog", document: OfferDocument, lines: dict[int, int]) -> list[ShopList]:
    """Return the lines by shop, with what each shop no longer has apart."""
    products = products_by_row(blog, lines)
    shelf = Shelf(blog, (), now=wiring.clock()())
    shops: dict[str, ShopList] = {}
    for number, pieces in lines.items():
        product = products.get(number)
        if product is None:
            continue
        offer = shelf.view(product)
        shop = shops.setdefault(product.shop, ShopList(shop=offer.shop))
        line = Line(offer=offer, number=product.number, pieces=pieces, signed=sign_for_basket(blog, number))
        (shop.gone if offer.is_gone else shop.lines).append(line)
    for key, shop in shops.items():
        address = document.of_shop(key).basket
        if address and shop.lines:
            whole = hand_over(address, [(line.number, line.pieces) for line in shop.lines])
            shop.address = tagged(whole, document.partners)
    return list(shops.values())
