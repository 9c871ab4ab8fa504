"""What a blog says of shops: limits of prices, partner links, disclosure."""

from collections.abc import Mapping
from datetime import timedelta
from typing import Annotated, Any, Self

from pydantic import Field, StringConstraints, ValidationError, field_validator, model_validator

from glyptarch_core.offers.partners import PartnerLink
from glyptarch_core.offers.showing import OfferRules
from glyptarch_core.settings import OptionalAddress, Settings

__all__ = ["OfferDocument", "ShopSettings", "offers_of"]

_MOST_HOURS = 24 * 31


class ShopSettings(Settings):
    """The rules of one shop.

    A price that differs from the one before by more than ``jump_percent`` is held for a person; 0 holds none.
    ``basket`` is the address of its own basket, with ``{items}`` for ``number:pieces`` joined by commas.
    """

    shop: Annotated[str, StringConstraints(pattern=r"^[a-z0-9-]{1,60}(@[a-z]{2})?$")]
    hours: int = Field(default=24, ge=1, le=_MOST_HOURS)
    tells_prices: bool = True
    jump_percent: int = Field(default=50, ge=0, le=1000)
    basket: OptionalAddress = ""

    @field_validator("basket")
    @classmethod
    def _takes_items(cls, address: str) -> str:
        if address and address.count("{items}") != 1:
            raise ValueError("the address has {items} once, such as https://shop.example/basket?add={items}")
        return address

    @property
    def rules(self) -> OfferRules:
        """Return how its prices may be shown."""
        return OfferRules(limit=timedelta(hours=self.hours), tells=self.tells_prices)


class OfferDocument(Settings):
    """What a blog says of the shops whose products it shows.

    ``disclosure`` stands under each post with a partner link, unless its template puts it elsewhere. With
    ``counts_links`` the blog counts how often the links of its offers are followed, with ``has_basket`` readers can put
    products on a list.
    """

    shops: tuple[ShopSettings, ...] = Field(default=(), max_length=200)
    partners: tuple[PartnerLink, ...] = Field(default=(), max_length=200)
    disclosure: Annotated[str, StringConstraints(strip_whitespace=True, max_length=500)] = ""
    counts_links: bool = False
    has_basket: bool = False

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        for names, of in (
            ([shop.shop for shop in self.shops], "shop"),
            ([f"{one.host} {one.region}".strip() for one in self.partners], "host"),
        ):
            twice = next((name for name in names if names.count(name) > 1), None)
            if twice is not None:
                raise ValueError(f"the {of} “{twice}” stands there twice")
        return self

    def of_shop(self, shop: str) -> ShopSettings:
        """Return the rules of a shop, or the usual ones."""
        return next((settings for settings in self.shops if settings.shop == shop), ShopSettings(shop=shop))


def offers_of(stored: Mapping[str, Any]) -> OfferDocument:
    """Return a stored document. The usual one where it cannot be read any more."""
    try:
        return OfferDocument.model_validate(stored) if stored else OfferDocument()
    except ValidationError:
        return OfferDocument()
