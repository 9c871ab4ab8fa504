"""Pages that are no article: consent, log-in, pay-wall, error, or drawn by scripts."""

import re
from enum import StrEnum

from glyptarch_core.languages import alternatives
from glyptarch_core.pages.page import Page, length_of, text_in
from glyptarch_core.text import count_words

__all__ = ["PageKind", "kind_of_page"]


class PageKind(StrEnum):
    """The kind of a page. Only the text of an ``article`` is used."""

    ARTICLE = "article"
    CONSENT = "consent"
    LOGIN = "login"
    PAYWALL = "paywall"
    ERROR = "error"
    SCRIPTED = "scripted"
    SITEMAP = "sitemap"


_ERROR_TITLE = re.compile(
    rf"\b(?:404|403|410|500|502|503)\b|page (?:is )?(?:missing|unavailable)|{alternatives('missing', fewest=2)}",
    re.IGNORECASE,
)
_CONSENT = re.compile(
    r"(?:we|our (?:partners|site)|this (?:site|website)|wir|nous|usamos)\b.{0,60}\bcookies?\b|before you continue"
    r"|your privacy"
    rf"|consent to|cookie (?:preferences|settings|consent)|your choices|{alternatives('consent')}",
    re.IGNORECASE | re.DOTALL,
)
_AGREE = re.compile(rf"^(?:{alternatives('agree')}|allow|ok)(?![^\W\d_])", re.IGNORECASE)
_PAYWALL = re.compile(
    r"subscri(?:be|ption|bers?)\b.{0,80}\b(?:to (?:continue|read|keep|unlock)|only|required|full (?:access"
    r"|article|story))"
    r"|(?:to|and) (?:continue|keep) reading|(?:for|to) (?:our )?(?:subscribers|members) only|this (?:article"
    r"|story|content) is (?:for|reserved|only)"
    r"|unlock (?:this|the|full)|already (?:a |have a )?(?:subscri\w+|member)|free articles? (?:left|remaining"
    r"|this month)"
    rf"|become a (?:member|subscriber)|{alternatives('paywall', fewest=2)}",
    re.IGNORECASE | re.DOTALL,
)
_WALLED = re.compile(
    r"(?:^|[-_ ])(?:pay-?wall|barrier|subscription-?(?:wall|prompt)|regwall|metered)(?:$|[-_ ])", re.IGNORECASE
)
_SHORT_PAGE = 120
_SHORT_TEXT = 170
_SCRIPTS = 3


def kind_of_page(page: Page, *, text: str, free: str = "") -> PageKind:
    """Return the kind of a page.

    ``text`` is its main text, ``free`` its stated access (schema.org ``isAccessibleForFree``).
    """
    taken = count_words(text)
    whole = text_in(page.body)
    signs = (
        (PageKind.ERROR, taken < _SHORT_PAGE and bool(_ERROR_TITLE.search(_titles(page)))),
        (PageKind.LOGIN, taken < _SHORT_TEXT and _asks_for_password(page)),
        (PageKind.CONSENT, taken < _SHORT_TEXT and bool(_CONSENT.search(whole[:_LOOKED_AT])) and _asks_to_agree(page)),
        (PageKind.PAYWALL, _is_behind_a_wall(page, whole, taken, free)),
        (PageKind.SCRIPTED, length_of(whole) < _NOTHING_TO_READ and _is_drawn_by_script(page)),
    )
    return next((kind for kind, holds in signs if holds), PageKind.ARTICLE)


_LOOKED_AT = 6000
_NOTHING_TO_READ = 40


def _titles(page: Page) -> str:
    title = page.root.find(".//title")
    heading = next((text_in(element) for element in page.body.iter("h1", "h2") if text_in(element)), "")
    return f"{(title.text or '') if title is not None else ''} {heading}"


def _asks_for_password(page: Page) -> bool:
    return any(element.get("type") == "password" for element in page.body.iter("input"))


def _is_behind_a_wall(page: Page, whole: str, taken: int, free: str) -> bool:
    """Whether a page shows the beginning of a text and asks for money.

    Some that are stated as not free show the whole text nevertheless.
    """
    if taken >= _SHORT_TEXT * 2:
        return False
    return _asks_to_subscribe(page, whole, taken, stated=free == "false") or (free == "false" and taken < _SHORT_PAGE)


def _asks_to_subscribe(page: Page, whole: str, taken: int, *, stated: bool) -> bool:
    walled = stated or any(
        _WALLED.search(f"{element.get('class') or ''} {element.get('id') or ''}")
        for element in page.body.iter("div", "section", "aside")
    )
    return (walled or taken < _SHORT_TEXT) and bool(_PAYWALL.search(whole[:_LOOKED_AT]))


def _asks_to_agree(page: Page) -> bool:
    return any(
        _AGREE.match(text_in(element) or element.get("value") or "")
        for element in page.body.iter("button", "a", "input")
    )


def _is_drawn_by_script(page: Page) -> bool:
    scripts = sum(1 for _ in page.root.iter("script"))
    mount = any(
        (element.get("id") or "") in {"root", "app", "__next", "__nuxt", "main"} and len(element) == 0
        for element in page.body.iter("div")
    )
    return mount or scripts >= _SCRIPTS or next(page.body.iter("noscript"), None) is not None
