"""Partner links: a blog's tag in every link to a shop, put there when a page is made."""

from collections.abc import Sequence
from typing import Annotated
from urllib.parse import parse_qsl, quote, urlencode, urlsplit, urlunsplit

from lxml import etree
from pydantic import Field, StringConstraints, field_validator

from glyptarch_core.settings import Settings
from glyptarch_core.text.markup import fragment, serialise

__all__ = ["PartnerLink", "has_tag", "is_partner", "tagged", "with_partner_links"]

_REL = "sponsored nofollow noopener"
_HOST = r"^[a-z0-9][a-z0-9-]{0,62}(\.[a-z0-9-]{1,63})*(:\d{1,5})?$"


class PartnerLink(Settings):
    """How links to a shop carry the blog's tag.

    With a ``region`` (ISO 3166-1, two letters) only links of products of that region. ``parameters`` are added to the
    query. For shops that want the tag in the path, ``path`` is a pattern such as ``/to/mine{path}``. Links to
    subdomains of the host count as well.
    """

    host: Annotated[str, StringConstraints(strip_whitespace=True, to_lower=True, max_length=200, pattern=_HOST)]
    region: Annotated[str, StringConstraints(strip_whitespace=True, to_lower=True, pattern=r"^$|^[a-z]{2}$")] = ""
    parameters: dict[
        Annotated[str, StringConstraints(pattern=r"^[A-Za-z0-9_.~-]{1,40}$")], Annotated[str, Field(max_length=200)]
    ] = Field(default_factory=dict, max_length=10)
    path: Annotated[str, StringConstraints(strip_whitespace=True, max_length=200)] = ""

    @field_validator("path")
    @classmethod
    def _holds_the_path(cls, path: str) -> str:
        if path and (not path.startswith("/") or path.count("{path}") != 1 or "?" in path or "#" in path):
            raise ValueError("the pattern begins with / and has {path} once, such as /to/mine{path}")
        return path


def is_partner(address: str, links: Sequence[PartnerLink], region: str = "") -> PartnerLink | None:
    """Return the partner whose shop an address belongs to.

    The longest host decides, then the region.
    """
    try:
        parts = urlsplit(address)
        host = parts.netloc.rpartition("@")[2].lower()
    except ValueError:
        return None
    if parts.scheme not in {"http", "https"}:
        return None
    fitting = [link for link in links if host == link.host or host.endswith(f".{link.host}")]
    of_region = [link for link in fitting if link.region in {"", region}]
    return max(of_region, key=lambda link: (len(link.host), len(link.region)), default=None)


def tagged(address: str, links: Sequence[PartnerLink], region: str = "") -> str:
    """Return an address with the blog's tag, where it belongs to a partner.

    Tags of others in the same parameters are replaced. Twice tagged is the same as once.
    """
    link = is_partner(address, links, region)
    if link is None:
        return address
    parts = urlsplit(address)
    path = parts.path or "/"
    if link.path:
        before, _, after = link.path.partition("{path}")
        if not (path.startswith(before) and path.endswith(after) and len(path) >= len(before) + len(after)):
            path = f"{before}{path}{after}"
    query = parts.query
    if link.parameters:
        kept = [pair for pair in parse_qsl(query, keep_blank_values=True) if pair[0] not in link.parameters]
        query = urlencode([*kept, *link.parameters.items()], quote_via=quote)
    return urlunsplit((parts.scheme, parts.netloc, path, query, parts.fragment))


def has_tag(address: str, links: Sequence[PartnerLink]) -> bool:
    """Whether an address belongs to no partner, or has the blog's tag already."""
    return tagged(address, links) == address


def with_partner_links(markup: str, links: Sequence[PartnerLink]) -> tuple[str, int]:
    """Return HTML in which every link to a partner has the blog's tag, and how many there are."""
    if not links or not any(link.host in markup.lower() for link in links):
        return markup, 0
    root, number = fragment(markup), 0
    for element in root.iter(etree.Element):
        address = element.get("href", "") if element.tag == "a" else ""
        if address and is_partner(address, links):
            element.set("href", tagged(address, links))
            element.set("rel", _REL)
            number += 1
    return (serialise(root), number) if number else (markup, 0)
