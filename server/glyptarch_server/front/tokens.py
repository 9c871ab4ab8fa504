"""What the blog signs for its readers: counted links, and forms of their lists."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

from django.core.signing import BadSignature, Signer
from glyptarch_core.offers import Block

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["Leaving", "leaving_of", "product_for_basket", "sign_for_basket", "sign_leaving"]

_LEAVING = Signer(salt="offers.leaving")
_FOR_BASKET = Signer(salt="offers.basket")


@dataclass(frozen=True, slots=True, kw_only=True)
class Leaving:
    """A counted link: its post, its block there, and the product that it leads to."""

    post: int
    product: int
    block: str


def sign_leaving(blog: "Blog", leaving: Leaving) -> str:
    """Return the token of a counted link."""
    return _LEAVING.sign(f"{blog.pk}.{leaving.post}.{leaving.product}.{leaving.block}")


def leaving_of(blog: "Blog", token: str) -> Leaving | None:
    """Return what a token of this blog names. None for any other text."""
    try:
        number, post, product, block = _LEAVING.unsign(token).split(".")
        leaving = Leaving(post=int(post), product=int(product), block=Block(block).value)
    except (BadSignature, ValueError):
        return None
    return leaving if number == str(blog.pk) else None


def sign_for_basket(blog: "Blog", product: int) -> str:
    """Return what the form of a product sends to put it on a reader's list."""
    return _FOR_BASKET.sign(f"{blog.pk}.{product}")


def product_for_basket(blog: "Blog", signed: str) -> int | None:
    """Return the row of the product that a form of this blog names. None for any other text."""
    try:
        number, product = _FOR_BASKET.unsign(signed).split(".")
        return int(product) if number == str(blog.pk) else None
    except (BadSignature, ValueError):
        return None
