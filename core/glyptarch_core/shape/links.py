"""Links of the body: which stay, where they lead, and their ``rel``."""

from collections.abc import Mapping
from enum import StrEnum
from typing import Annotated, Literal
from urllib.parse import parse_qsl, urlencode, urlsplit, urlunsplit

from lxml.html import HtmlElement
from pydantic import Field, StringConstraints

from glyptarch_core.item import Captured
from glyptarch_core.ports import BlogContext
from glyptarch_core.settings import OptionalAddress, Settings
from glyptarch_core.shape.base import Draftable, ShapeStepBase, Step
from glyptarch_core.text import host_of
from glyptarch_core.trace import Json

__all__ = ["AddedParameter", "LinkRel", "Links", "LinksGone", "compile_links"]

Host = Annotated[str, StringConstraints(strip_whitespace=True, to_lower=True, pattern=r"^[a-z0-9.-]{1,200}$")]


class LinksGone(StrEnum):
    """The links to remove.

    Their words stay.
    """

    NONE = "none"
    ALL = "all"
    OUTSIDE = "outside"
    INSIDE = "inside"


class LinkRel(StrEnum):
    """Values of ``rel`` for a link that leads outside (HTML, link types)."""

    NOFOLLOW = "nofollow"
    SPONSORED = "sponsored"
    UGC = "ugc"


class AddedParameter(Settings):
    """A query parameter added to every link to a host, such as a partner's tag.

    Subdomains are included.
    """

    host: Host
    name: Annotated[str, StringConstraints(pattern=r"^[\w.-]{1,60}$")]
    value: str = Field(max_length=200)


class Links(ShapeStepBase):
    """``inside`` are links to the host of the item itself. Links to ``kept_hosts`` always stay.

    ``rel`` and ``new_tab`` are for the links that lead outside.
    """

    kind: Literal["links"] = "links"
    gone: LinksGone = LinksGone.NONE
    kept_hosts: tuple[Host, ...] = Field(default=(), max_length=100)
    rel: tuple[LinkRel, ...] = Field(default=(), max_length=3)
    new_tab: bool = False
    parameters: tuple[AddedParameter, ...] = Field(default=(), max_length=50)
    replaced_by: OptionalAddress = ""


def _belongs(host: str, to: str) -> bool:
    return host == to or host.endswith(f".{to}")


def _with_parameters(url: str, parameters: tuple[AddedParameter, ...]) -> str:
    if not parameters:
        return url
    added = [parameter for parameter in parameters if _belongs(host_of(url), parameter.host)]
    if not added:
        return url
    parts = urlsplit(url)
    names = {parameter.name for parameter in added}
    kept = [pair for pair in parse_qsl(parts.query, keep_blank_values=True) if pair[0] not in names]
    query = urlencode([*kept, *((parameter.name, parameter.value) for parameter in added)])
    return urlunsplit(parts._replace(query=query))


def _is_inside(host: str, own: str) -> bool:
    return bool(own) and _belongs(host, own)


def _goes(step: Links, host: str, *, inside: bool) -> bool:
    if any(_belongs(host, kept) for kept in step.kept_hosts):
        return False
    return {
        LinksGone.NONE: False,
        LinksGone.ALL: True,
        LinksGone.OUTSIDE: not inside,
        LinksGone.INSIDE: inside,
    }[step.gone]


def _dress(step: Links, link: HtmlElement, host: str, own: str) -> bool:
    before = dict(link.attrib)
    url = step.replaced_by or _with_parameters(link.get("href", ""), step.parameters)
    link.set("href", url)
    outside = not _is_inside(host_of(url) if step.replaced_by else host, own)
    if step.rel and outside:
        link.set("rel", " ".join(dict.fromkeys([*(link.get("rel") or "").split(), *step.rel])))
    if step.new_tab and outside:
        link.set("target", "_blank")
    return dict(link.attrib) != before


def compile_links(step: Links, _context: BlogContext) -> Step:
    """Return the function over the links of a body."""

    def apply(parts: Draftable, captured: Captured) -> Mapping[str, Json]:
        # Mail addresses and fragments have no host and stay unchanged.
        links = [(link, host) for link in parts.root.iter("a") if (host := host_of(link.get("href", "")))]
        own = host_of(captured.item.link) if links else ""
        removed = changed = 0
        for link, host in links:
            if _goes(step, host, inside=_is_inside(host, own)):
                link.drop_tag()
                removed += 1
            else:
                changed += _dress(step, link, host, own)
        if not removed and not changed:
            return {}
        parts.changed(text=False)
        return {"removed": removed, "changed": changed}

    return apply
