"""Counted links, from an offer to its shop.

Their addresses are the blog's own, and signed.

No address stands in the link, so it cannot lead anywhere else. Nothing of the reader is kept, and no cookie is set.
"""

from http import HTTPStatus
from typing import TYPE_CHECKING

from django.http import Http404, HttpRequest, HttpResponse
from django.utils import timezone
from django.utils.translation import gettext
from django.views.decorators.http import require_safe
from glyptarch_core.offers import offers_of, region_of, tagged

from glyptarch_server import wiring
from glyptarch_server.common.client import client_of
from glyptarch_server.common.from_readers import is_from_reader
from glyptarch_server.front.around import of_a_blog
from glyptarch_server.front.tokens import leaving_of
from glyptarch_server.offers.actions import count_link
from glyptarch_server.offers.queries import product_shown_by
from glyptarch_server.throttle.actions import limit_of, take

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["counted_link"]

_LINKS = limit_of("60 per hour", "counted-links")


@require_safe
@of_a_blog
def counted_link(request: HttpRequest, row: "Blog", token: str) -> HttpResponse:
    """Lead to the shop of an offer, and count it.

    What programs ask, or browsers ahead of their readers, is not counted.
    """
    leaving = leaving_of(row, token)
    product = product_shown_by(row, leaving.post, leaving.product) if leaving else None
    if leaving is None or product is None:
        raise Http404(gettext("The blog has no such link."))
    if is_from_reader(request.method or "", lambda name: request.headers.get(name, "")) and take(
        _LINKS, client_of(request)
    ):
        day = timezone.localtime(wiring.clock()()).date()
        count_link(row, post=leaving.post, product=product.pk, block=leaving.block, day=day)
    answer = HttpResponse(status=HTTPStatus.FOUND)
    # Tags may have changed since the page was made.
    answer["Location"] = tagged(product.link, offers_of(row.offers).partners, region_of(product.shop))
    answer["Cache-Control"] = "no-store"
    answer["X-Robots-Tag"] = "noindex, nofollow"
    return answer
