"""The tag ``{% offer price %}``: a place for the item's offer.

The place is filled when a page is made.

``{% offer price, wording: "Look at it" %}`` gives the button its words. The place holds no price, so none can age in a
text. Where an item states no offer, nothing is written.
"""

from collections.abc import Iterable
from html import escape
from typing import TextIO

from liquid import RenderContext, Token, TokenStream
from liquid.ast import Node
from liquid.builtin.expressions import KeywordArgument
from liquid.exceptions import LiquidSyntaxError
from liquid.expression import Expression
from liquid.tag import Tag
from liquid.token import TOKEN_TAG, TOKEN_WORD

from glyptarch_core.item import Captured
from glyptarch_core.offers import Block, Place, number_of, place_markup, product_key, states_offer

__all__ = ["OFFER_KEY", "OfferTag", "offer_key_of"]

OFFER_KEY = "offer_key"
"""The variable with the key of the item's product, which templates cannot name."""

_OF_THE_BLOG = frozenset({Block.DISCLOSURE, Block.BEST})
_BLOCKS = ", ".join(block.value for block in Block if block is not Block.COMPARE)
_LONGEST_WORDING = 80


def offer_key_of(captured: Captured) -> str:
    """Return the key of an item's product. Empty where it states no offer."""
    item = captured.item
    if not states_offer(item.facts):
        return ""
    return product_key(captured.source.shop or captured.source.key, number_of(item.facts, item.link))


class _OfferNode(Node):
    __slots__ = ("_block", "_wording")

    def __init__(self, token: Token, block: Block, wording: Expression | None) -> None:
        super().__init__(token)
        self._block, self._wording = block, wording
        self.blank = False

    def render_to_output(self, context: RenderContext, buffer: TextIO) -> int:
        """Write the place. Its content, for where nothing fills it, is the link to the shop."""
        key = str(context.scope.get(OFFER_KEY, ""))
        if not key and self._block not in _OF_THE_BLOG:
            return 0
        wording = str(self._wording.evaluate(context)) if self._wording else ""
        place = Place(block=self._block, products=(key,) if key else (), wording=wording[:_LONGEST_WORDING])
        link, source = str(context.scope.get("link", "")), context.scope.get("source")
        name = source["title"] if isinstance(source, dict) else ""
        inside = f'<a href="{escape(link)}">{escape(str(name))}</a>' if self._block is Block.PRICE and link else ""
        return buffer.write(place_markup(place, inside))

    def expressions(self) -> Iterable[Expression]:
        """Yield the expressions of its options."""
        if self._wording is not None:
            yield self._wording


class OfferTag(Tag):
    """The tag, with the name of its block and its options."""

    name = "offer"
    block = False

    def parse(self, stream: TokenStream) -> Node:
        """Parse the tag. Raises LiquidSyntaxError for an unknown block or option."""
        token = stream.eat(TOKEN_TAG)
        tokens = stream.into_inner(tag=token, eat=False)
        named = tokens.eat(TOKEN_WORD)
        if named.value not in Block._value2member_map_ or named.value == Block.COMPARE.value:
            raise LiquidSyntaxError(f"an offer has no block '{named.value}': write one of {_BLOCKS}", token=named)
        options = {option.name: option for option in KeywordArgument.parse(self.env, tokens)}
        strange = next((option for name, option in options.items() if name != "wording"), None)
        if strange is not None:
            raise LiquidSyntaxError(f"an offer has no option '{strange.name}', only wording", token=strange.token)
        wording = options["wording"].value if "wording" in options else None
        return _OfferNode(token, Block(named.value), wording)
