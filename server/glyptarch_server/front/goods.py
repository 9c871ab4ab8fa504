"""The goods of a blog: its posts about one product each, as a reader asks for them."""

from dataclasses import dataclass
from typing import TYPE_CHECKING
from urllib.parse import urlencode

from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import render
from django.utils.translation import gettext
from django.views.decorators.http import require_safe
from glyptarch_core.appearance.parts import TableOrder
from glyptarch_core.offers import offers_of
from glyptarch_core.text import clean_text

from glyptarch_server import wiring
from glyptarch_server.front.around import blog_context, cards, for_readers, is_member_asking, of_a_blog
from glyptarch_server.front.lists import page_number
from glyptarch_server.front.offering import show_any_goods
from glyptarch_server.front.views import post_page
from glyptarch_server.offers.queries import GoodsWanted, goods_in_order, newest_goods, sections_with_goods
from glyptarch_server.posts.credits import category_of
from glyptarch_server.posts.for_readers import listed_by_number, posts_in_lists, public_posts

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog, Category

__all__ = ["goods_page"]

_ADDRESS = "goods"
_ON_A_PAGE = 24
_MOST_PAGES = 50


@dataclass(frozen=True, slots=True, kw_only=True)
class _Asked:
    """What a reader asks for."""

    order: TableOrder
    section: "Category | None"
    in_stock: bool
    page: int

    def address(self, page: int) -> str:
        """Return the query of a page of the same list."""
        values = {
            "order": self.order.value if self.order is not TableOrder.NEWEST else "",
            "section": self.section.slug if self.section else "",
            "stock": "in" if self.in_stock else "",
            "page": str(page) if page > 1 else "",
        }
        return "?" + urlencode({name: value for name, value in values.items() if value})


def _asked(request: HttpRequest, blog: "Blog") -> _Asked:
    """Read a request. What is not known in it counts as not asked for."""
    order, slug = request.GET.get("order", ""), clean_text(request.GET.get("section", ""))[:200]
    return _Asked(
        order=TableOrder(order) if order in TableOrder._value2member_map_ else TableOrder.NEWEST,
        section=category_of(blog, slug) if slug else None,
        in_stock=request.GET.get("stock") == "in",
        page=page_number(request),
    )


@require_safe
@of_a_blog
def goods_page(request: HttpRequest, row: "Blog") -> HttpResponse:
    """Return the goods of a blog. Only those with a fresh price stand in an order by price."""
    if public_posts(row).filter(slug=_ADDRESS).exists():
        # A post that had this address before there was such a page keeps it.
        return post_page(request, blog=row.slug, slug=_ADDRESS)
    asked = _asked(request, row)
    show_any_goods()
    rows = posts_in_lists(row, category=asked.section, member=is_member_asking(request, row))
    window = slice((asked.page - 1) * _ON_A_PAGE, asked.page * _ON_A_PAGE + 1)
    if asked.order is TableOrder.NEWEST:
        numbers = newest_goods(rows, window, in_stock=asked.in_stock)
    else:
        wanted = GoodsWanted(
            document=offers_of(row.offers),
            now=wiring.clock()(),
            reduced=asked.order is TableOrder.REDUCED,
            in_stock=asked.in_stock,
        )
        numbers = goods_in_order(row, rows, wanted, window)
    if asked.page > _MOST_PAGES or (asked.page > 1 and not numbers):
        raise Http404(gettext("The blog does not go back that far."))
    found = listed_by_number(rows, numbers[:_ON_A_PAGE])
    shown = cards(row, [found[number] for number in numbers[:_ON_A_PAGE] if number in found])
    has_more = len(numbers) > _ON_A_PAGE and asked.page < _MOST_PAGES
    context = blog_context(request, row) | {
        "heading": gettext("Goods"),
        "about": f"{gettext('Goods')} · {row.title}",
        "canonical": request.build_absolute_uri(request.path),
        "posts": shown,
        "asked": asked,
        "orders": [
            (TableOrder.NEWEST.value, gettext("Newest first")),
            (TableOrder.REDUCED.value, gettext("Most reduced")),
            (TableOrder.CHEAPEST.value, gettext("Lowest price")),
        ],
        "shelves": sections_with_goods(row),
        "page": asked.page,
        "before": asked.address(asked.page - 1) if asked.page > 1 else "",
        "after": asked.address(asked.page + 1) if has_more else "",
    }
    return for_readers(request, row, render(request, "front/goods.html", context))
