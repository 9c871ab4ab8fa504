"""HTML fragments: their visible text, their addresses, and their safe form."""

import html as html_entities
import re
import sys
import threading
from functools import partial
from itertools import islice
from urllib.parse import urljoin

import nh3
from lxml import etree
from lxml import html as lxml_html

from glyptarch_core.text.clean import clean_text
from glyptarch_core.text.srcset import map_srcset

__all__ = [
    "BLOCKS",
    "UNSEEN",
    "absolute",
    "append",
    "fragment",
    "gather_text",
    "is_hidden",
    "is_seen",
    "limited",
    "paragraphs",
    "plain_text",
    "sanitise",
    "serialise",
    "text_of",
    "text_to_html",
    "well_formed_references",
]

BLOCKS = frozenset(
    "address article aside blockquote br dd details div dl dt fieldset figcaption figure footer form h1 h2 h3 h4 h5 h6 "
    "header hr li main nav ol p pre section summary table tbody td tfoot th thead tr ul".split()
)
"""Elements that part lines (HTML, 15.3: display ``block`` and the like), and the break."""

UNSEEN = frozenset("head iframe noscript object script style template title".split())
"""Elements whose text no reader sees."""

_ADDRESSES = ("href", "src", "poster", "cite")
_HAS_ADDRESS = re.compile(r"(?:href|src|srcset|poster|cite)[ \t\r\n\f]?[ \t\r\n\f]*=", re.IGNORECASE)
_TAG = re.compile(r"<[a-zA-Z/!?]|&[#a-zA-Z]")
_NOT_SHOWN = re.compile(r"(?:^|[;\s])(?:display\s*:\s*none|visibility\s*:\s*hidden)", re.IGNORECASE)
_MAY_HIDE = re.compile(r"<[^<>]+(?:\shidden\b|display\s*:\s*none|visibility\s*:\s*hidden)", re.IGNORECASE)
# In characters, more than any author writes in one entry.
_LONGEST = 4 << 20

_REFERENCE = re.compile(r"&#(?:x([0-9a-f]+)|([0-9]+));?", re.IGNORECASE)
_LONGEST_REFERENCE = 7
_MOST_TAGS = 10_000
_MOST_AMPERSANDS = 20_000
_DEEPEST = 200
_ANY_TAG = re.compile(r"<(/?)([a-zA-Z][^\s/<>]{0,60})[^<>]*>")
# Void elements, and elements that end where the next of their kind begins.
_CLOSED_BY_THE_NEXT = frozenset(
    "area base br col embed hr img input link meta param source track wbr "
    "p li dt dd td th tr thead tbody tfoot option".split()
)
_DOCUMENT_TAG = re.compile(r"</?(?:html|head|body)\b[^<>]{0,2000}>", re.IGNORECASE)
_LONGEST_TAG = 20_000
_LONG_TAG = re.compile(rf"(<[a-zA-Z][^\s<>]{{0,60}})\s[^<>]{{{_LONGEST_TAG},}}(?=>)")
# Half of a surrogate pair as a reference, in hexadecimal or decimal digits.
_HALF = r"&#(?:[xX](?=[dD]))?([dD][89a-fA-F][0-9a-fA-F]{2}|5[5-7][0-9]{3});"
_PAIR = re.compile(_HALF + _HALF)
_HIGH, _LOW, _END = 0xD800, 0xDC00, 0xE000

_TAGS = {
    *"a abbr b blockquote br caption cite code dd del details dfn div dl dt em figcaption figure".split(),
    *"h1 h2 h3 h4 h5 h6 hr i img ins kbd li mark ol p pre q s samp small span strong sub summary sup".split(),
    *"table tbody td tfoot th thead time tr u ul var video audio source".split(),
}
_ATTRIBUTES = {
    "*": {"lang", "dir", "title"},
    # Places for offers (``offers/places.py``).
    "div": {"data-offer", "data-products", "data-wording"},
    "a": {"href", "hreflang", "rel"},
    "img": {"src", "srcset", "alt", "width", "height", "loading"},
    "ol": {"start"},
    "td": {"colspan", "rowspan"},
    "th": {"colspan", "rowspan", "scope"},
    "time": {"datetime"},
    "video": {"src", "poster", "width", "height", "controls"},
    "audio": {"src", "controls"},
    "source": {"src", "type", "srcset"},
}
_SCHEMES = {"http", "https", "mailto"}
_READINGS = 5


_local = threading.local()


def _parser() -> lxml_html.HTMLParser:
    """Return this thread's parser.

    Making one costs as much as parsing a short text.
    """
    if not hasattr(_local, "parser"):
        parser = lxml_html.HTMLParser(
            encoding="utf-8", huge_tree=False, no_network=True, remove_comments=True, remove_pis=True
        )
        # lxml.html's lookup calls Python for each element, to distinguish forms and labels.
        parser.set_element_class_lookup(etree.ElementDefaultClassLookup(element=lxml_html.HtmlElement))
        _local.parser = parser
    known_parser: lxml_html.HTMLParser = _local.parser
    return known_parser


def _parseable(markup: str) -> str:
    """Return markup without parts that lxml parses and then cannot change.

    References to characters that XML forbids (``&#1;``) are removed. Braces are escaped, since an attribute name
    beginning with one (``{...props}``) would be read as a namespace.
    """
    text = well_formed_references(limited(clean_text(markup[:_LONGEST])))
    # A stray end of the body would leave the rest outside of it.
    text = _DOCUMENT_TAG.sub("", text)
    return text.replace("{", "&#123;") if "{" in text else text


def limited(markup: str) -> str:
    """Return markup within limits of elements and attributes, so that no parser takes too long.

    It ends before the ten-thousandth tag and the twenty-thousandth ampersand; a tag of very many attributes loses them.
    Parsers compare each attribute with all before it, walk up through all open elements, and copy a text at each
    reference in it.
    """
    if markup.count("<") > _MOST_TAGS:
        markup = _up_to("<", _MOST_TAGS, markup)
    if markup.count("&") > _MOST_AMPERSANDS:
        markup = _up_to("&", _MOST_AMPERSANDS, markup)
    if len(markup) > _LONGEST_TAG:
        markup = _LONG_TAG.sub(r"\1", markup)
    return _flattened(markup) if markup.count("<") > 2 * _DEEPEST else markup


def _up_to(sign: str, most: int, markup: str) -> str:
    return markup[: next(islice(re.finditer(sign, markup), most, None)).start()]


def _flattened(markup: str) -> str:
    """Return markup without tags deeper than two hundred levels.

    Their text stays. Parsers differ there: one drops the text, another takes quadratic time.
    """
    pieces: list[str] = []
    depth = at = 0
    for tag in _ANY_TAG.finditer(markup):
        end, name = tag.group(1), tag.group(2).lower()
        if name in _CLOSED_BY_THE_NEXT or tag.group().endswith("/>"):
            continue
        too_deep = depth > _DEEPEST if end else depth >= _DEEPEST
        depth = max(0, depth - 1) if end else depth + 1
        if too_deep:
            pieces.append(markup[at : tag.start()])
            at = tag.end()
    return "".join((*pieces, markup[at:]))


def well_formed_references(text: str) -> str:
    """Return a text without references that XML forbids.

    Halves of a surrogate pair are joined.
    """
    if "&#" not in text:
        return text
    return _REFERENCE.sub(_if_allowed, _PAIR.sub(_joined, text))


def _joined(pair: re.Match[str]) -> str:
    high, low = (int(digits, 16) if digits[0] in "dD" else int(digits) for digits in pair.groups())
    if not (_HIGH <= high < _LOW <= low < _END):
        return pair.group()
    return chr(0x10000 + ((high - _HIGH) << 10) + (low - _LOW))


def _if_allowed(reference: re.Match[str]) -> str:
    hexadecimal, decimal = reference.groups()
    digits = (hexadecimal or decimal).lstrip("0") or "0"
    if len(digits) > _LONGEST_REFERENCE:
        return ""
    number = int(digits, 16 if hexadecimal else 10)
    return reference.group() if number <= sys.maxunicode and clean_text(chr(number)) else ""


def fragment(markup: str) -> lxml_html.HtmlElement:
    """Parse an HTML fragment into one ``div``.

    Any text gives a tree that can be changed and serialised.
    """
    clean = _parseable(markup).encode()
    try:
        document = lxml_html.document_fromstring(b"<div>" + clean + b"</div>", parser=_parser())
    except (etree.ParserError, etree.XMLSyntaxError):
        return lxml_html.Element("div")
    body = document.find("body")
    if body is None:
        return lxml_html.Element("div")
    body.attrib.clear()
    if len(body) == 1 and body[0].tag == "div" and not (body.text or "").strip() and not (body[0].tail or "").strip():
        return body[0]
    body.tag = "div"
    return body


def serialise(root: lxml_html.HtmlElement) -> str:
    """Return the inside of a fragment's ``div`` as HTML."""
    whole: str = etree.tostring(root, encoding="unicode", method="html", with_tail=False)
    return whole[len("<div>") : -len("</div>")]


def append(root: lxml_html.HtmlElement, other: lxml_html.HtmlElement) -> None:
    """Put the inside of another fragment's ``div`` at the end of this one's."""
    if other.text and len(root):
        root[-1].tail = (root[-1].tail or "") + other.text
    elif other.text:
        root.text = (root.text or "") + other.text
    root.extend(list(other))


def is_seen(element: etree._Element) -> bool:
    """Whether a reader sees the text of an element.

    What a source hid is not in its sanitised text.
    """
    return isinstance(element.tag, str) and element.tag not in UNSEEN


def drop_hidden(root: lxml_html.HtmlElement) -> None:
    """Remove the elements that a page hides from everybody (HTML, 6.1), with their text.

    What is hidden from screen readers only (``aria-hidden``) is seen, and stays.
    """
    for element in list(root.iter(etree.Element)):
        if element is not root and is_hidden(element):
            element.drop_tree()


def is_hidden(element: lxml_html.HtmlElement) -> bool:
    """Whether an element is hidden by its attribute or its own style."""
    return element.get("hidden", "until-found") != "until-found" or bool(_NOT_SHOWN.search(element.get("style") or ""))


def gather_text(element: lxml_html.HtmlElement, pieces: list[str], *, verbatim: bool) -> None:
    """Add the texts inside an element, with a line break at the ends of blocks.

    Line breaks of the source count only inside ``pre``.
    """
    if element.text:
        pieces.append(element.text if verbatim else element.text.replace("\n", " "))
    for child in element:
        tag = child.tag
        # The tag of a comment is a function, and its text is not visible either.
        if is_seen(child):
            block = tag in BLOCKS
            if block:
                pieces.append("\n")
            gather_text(child, pieces, verbatim=verbatim or tag == "pre")
            if block:
                pieces.append("\n")
        tail = child.tail
        if tail:
            pieces.append(tail if verbatim else tail.replace("\n", " "))


def _collapsed(text: str) -> str:
    lines = [_single_spaced(line) for line in text.split("\n")]
    return "\n".join([line for line in lines if line])


def _single_spaced(line: str) -> str:
    # The plain space is the only printable one, and most lines have no other.
    return line.strip(" ") if "  " not in line and line.isprintable() else " ".join(line.split())


def text_of(root: lxml_html.HtmlElement) -> str:
    """Return the visible text of a tree: one line per block, spaces collapsed."""
    pieces: list[str] = []
    gather_text(root, pieces, verbatim=False)
    return _collapsed("".join(pieces))


def plain_text(markup: str) -> str:
    """Return the visible text of a fragment, with entities resolved."""
    return text_of(fragment(markup)) if _TAG.search(markup) else _collapsed(html_entities.unescape(markup))


def paragraphs(markup: str) -> list[str]:
    """Return the text of a fragment block by block, without empty ones."""
    return [line for line in plain_text(markup).split("\n") if line]


def text_to_html(text: str) -> str:
    """Set plain text as HTML: a paragraph for each run of lines between empty ones."""
    blocks = (block.strip() for block in re.split(r"\n\s*\n", text))
    return "".join(f"<p>{html_entities.escape(block, quote=False)}</p>" for block in blocks if block)


def _resolve(base: str, address: str) -> str:
    try:
        return clean_text(urljoin(base, address.strip()))
    except ValueError:
        return ""


def absolute(markup: str, base: str) -> str:
    """Resolve the relative addresses in a fragment against ``base`` (RFC 3986, 5)."""
    if not base or "=" not in markup or not _HAS_ADDRESS.search(markup):
        return markup
    root = fragment(markup)
    for element in root.iter(etree.Element):
        for name in _ADDRESSES:
            if name in element.attrib:
                element.set(name, _resolve(base, element.get(name, "")))
        if "srcset" in element.attrib:
            element.set("srcset", map_srcset(element.get("srcset", ""), partial(_resolve, base)))
    return serialise(root)


# The text before the first colon as a browser reads it, without ignored characters (URL, 4.4).
_SCHEME = re.compile(r"[\x00-\x20]*([^/?#:]*):")
_RELS = frozenset({"nofollow", "sponsored", "ugc", "noopener", "noreferrer", "external"})


def _safe_attribute(_tag: str, name: str, value: str) -> str | None:
    if name == "rel":
        return " ".join(word for word in value.split() if word in _RELS)
    if name == "srcset":
        # nh3 checks only attributes with a single address.
        return map_srcset(value, _if_shown) or None
    return value


def _if_shown(address: str) -> str:
    """Return an address if a picture may be shown from it: http(s), or without a scheme."""
    scheme = _SCHEME.match(address)
    return address if scheme is None or scheme.group(1).lower() in {"http", "https"} else ""


_CLEANER = nh3.Cleaner(
    tags=_TAGS,
    clean_content_tags=set(UNSEEN) - {"head"},
    attributes=_ATTRIBUTES,
    url_schemes=_SCHEMES,
    link_rel=None,
    tag_attribute_values={"a": {"target": {"_blank"}}},
    attribute_filter=_safe_attribute,
    strip_comments=True,
    # Positions of figures in our layouts; class names of sources have no meaning here.
    allowed_classes={"figure": {"top", "left", "right", "film"}, "blockquote": {"card"}},
)


def sanitise(markup: str) -> str:
    """Return HTML that is safe on a page: an allow-list of elements, attributes and schemes."""
    markup = limited(markup)
    if _MAY_HIDE.search(markup):
        root = fragment(markup)
        drop_hidden(root)
        markup = serialise(root)
    # Removing an element, or moving it out of a table, can nest a heading in a heading or a link in a link. Browsers
    # parse that differently, so it is parsed until it is stable.
    for _ in range(_READINGS):
        cleaned = _CLEANER.clean(markup)
        if cleaned == markup:
            break
        markup = cleaned
    return markup
