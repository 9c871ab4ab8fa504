"""Pages of the web as trees: any bytes give a tree or nothing."""

from lxml import etree
from lxml import html as lxml_html
from lxml.html import HtmlElement

from glyptarch_core.readers.model import resolve

__all__ = ["base_of", "page_root"]


def page_root(page: bytes) -> HtmlElement | None:
    """Parse a page without reaching for anything outside it; None where there is nothing to parse."""
    parser = lxml_html.HTMLParser(huge_tree=False, no_network=True)
    try:
        return lxml_html.document_fromstring(page, parser=parser)
    except (etree.ParserError, etree.XMLSyntaxError, ValueError):
        return None


def base_of(root: HtmlElement, url: str) -> str:
    """Give the address that links of a page start from (HTML 2.4.3): that of its base element, else its own."""
    return next((resolve(url, element.get("href", "")) for element in root.iter("base")), "") or url
