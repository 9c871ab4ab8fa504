"""Reading one page by its address, without reading its site."""

from dataclasses import dataclass
from datetime import datetime
from typing import TYPE_CHECKING
from urllib.parse import urlsplit

from glyptarch_core.errors import ParseError
from glyptarch_core.pages.desk import ArticleItem, RawPage, article_item, article_of
from glyptarch_core.pages.document import ReaderDocument
from glyptarch_core.pages.kinds import PageKind
from glyptarch_core.pages.reading import ArticleRead

from glyptarch_server import wiring
from glyptarch_server.common.problems import Invalid
from glyptarch_server.pages.fetching import fetch_pages
from glyptarch_server.pages.memory import compare
from glyptarch_server.pages.queries import document_of, reader_for_host
from glyptarch_server.sources.checking import normal_address
from glyptarch_server.wiring import FetchError, FetchPortal, FetchRequest

if TYPE_CHECKING:
    from glyptarch_server.blogs.models import Blog

__all__ = ["ReadPage", "read_page"]

_INSTEAD = {
    PageKind.CONSENT: "It only asks for consent before it shows anything.",
    PageKind.LOGIN: "It asks for a sign-in.",
    PageKind.PAYWALL: "It is behind a pay-wall.",
    PageKind.ERROR: "It is an error page.",
    PageKind.SCRIPTED: "It is drawn by scripts: without them it is empty.",
}


@dataclass(frozen=True, slots=True, kw_only=True)
class ReadPage:
    """One page as an item, and the name of its page reader.

    Empty for unknown sites.
    """

    made: ArticleItem
    reader: str


def read_page(blog: "Blog", url: str, *, source: str, fetcher: FetchPortal, now: datetime) -> ReadPage:
    """Read one page, by the page reader of its host where there is one.

    Raises Invalid for no article.
    """
    address = normal_address(url)
    (answer,) = fetch_pages([address], request_for=lambda url: FetchRequest(url=url), fetcher=fetcher, now=now)
    if isinstance(answer, FetchError):
        raise Invalid(str(answer))
    reader = reader_for_host(blog, urlsplit(answer.url).netloc)
    document = document_of(reader) if reader else ReaderDocument()
    raw = RawPage(body=answer.body, url=answer.url, content_type=answer.content_type)
    try:
        (repeated,) = compare(blog.pk, [raw])
        read = wiring.apart().ask(article_of, raw, document.article, now, repeated)
        if not isinstance(read, ArticleRead):
            raise Invalid(read[1])
        if read.kind is not PageKind.ARTICLE:
            raise Invalid(f"{answer.url} is no article. {_INSTEAD[read.kind]}")
        if not read.words or not read.fields.get("title"):
            raise Invalid(f"No article was found at {answer.url}.")
        item = wiring.apart().ask(article_item, read, source, None, "", ())
    except ParseError as error:
        raise Invalid(str(error)) from error
    return ReadPage(made=item, reader=reader.name if reader else "")
