"""Pages of the web as trees: any bytes give a tree or nothing."""

from lxml import etree
from lxml import html as lxml_html
from lxml.html import HtmlElement

from glyptarch_core.readers.model import resolve

__all__ = ["base_of", "page_root"]


def page_root(page: bytes) -> HtmlElement | None:
    """Parse a page without access to anything outside it.

    None where there is nothing to parse.
    """
    parser = lxml_html.HTMLParser(huge_tree=False, no_network=True)
    try:
        return lxml_html.document_fromstring(page, parser=parser)
    except (etree.ParserError, etree.XMLSyntaxError, ValueError):
        return None


def base_of(root: HtmlElement, url: str) -> str:
    """Return the base address of a page (HTML 2.4.3): its base element's, else its own."""
    return next((resolve(url, element.get("href", "")) for element in root.iter("base")), "") or url
