"""Offers: prices that are shown only while they are fresh, and partner links."""

from glyptarch_core.offers.basket import MOST_LINES, MOST_PIECES, hand_over, read_lines, with_line, written_lines
from glyptarch_core.offers.details import ProductDetails, details_of, read_details
from glyptarch_core.offers.document import OfferDocument, ShopSettings, offers_of
from glyptarch_core.offers.offer import Availability, Condition, Offer, OfferFault
from glyptarch_core.offers.partners import PartnerLink, has_tag, is_partner, tagged, with_partner_links
from glyptarch_core.offers.places import (
    Block,
    Place,
    filled,
    has_places,
    place_markup,
    places_in,
    without_places,
)
from glyptarch_core.offers.planning import ToRead, chosen_to_read, keeps_fresh, next_reading
from glyptarch_core.offers.reading import (
    OfferReading,
    is_jump,
    number_of,
    product_key,
    read_offer,
    region_of,
    states_offer,
)
from glyptarch_core.offers.showing import DAY, OfferRules, ShownOffer, Why, shown_offer

__all__ = [
    "DAY",
    "MOST_LINES",
    "MOST_PIECES",
    "Availability",
    "Block",
    "Condition",
    "Offer",
    "OfferDocument",
    "OfferFault",
    "OfferReading",
    "OfferRules",
    "PartnerLink",
    "Place",
    "ProductDetails",
    "ShopSettings",
    "ShownOffer",
    "ToRead",
    "Why",
    "chosen_to_read",
    "details_of",
    "filled",
    "hand_over",
    "has_places",
    "has_tag",
    "is_jump",
    "is_partner",
    "keeps_fresh",
    "next_reading",
    "number_of",
    "offers_of",
    "place_markup",
    "places_in",
    "product_key",
    "read_details",
    "read_lines",
    "read_offer",
    "region_of",
    "shown_offer",
    "states_offer",
    "tagged",
    "with_line",
    "with_partner_links",
    "without_places",
    "written_lines",
]
