"""What is known of the sites whose articles a blog reads."""

from collections.abc import Sequence
from urllib.parse import urlsplit

from django.db import transaction
from glyptarch_core.pages.desk import RawPage, print_of_page
from glyptarch_core.pages.site import PagePrint, SiteMemory

from glyptarch_server import wiring
from glyptarch_server.pages.models import Site

__all__ = ["compare"]

_MOST_SITES = 500


def compare(blog: int, raws: Sequence[RawPage], *, keep: bool = True) -> list[frozenset[str]]:
    """Return for each page the keys of the texts that other articles of its site have as well.

    The pages are compared with each other and with the last ones of their sites, and kept for the next reading unless
    ``keep`` is false. ``blog`` is the number of a blog.
    """
    if not raws:
        return []
    prints = wiring.apart().call(print_of_page, [(raw,) for raw in raws])
    hosts = [urlsplit(raw.url).netloc[:255].lower() for raw in raws]
    memories = {site.host: _memory(site) for site in Site.objects.filter(blog_id=blog, host__in=set(hosts))}
    for host in dict.fromkeys(hosts):
        fresh = [made for made, of in zip(prints, hosts, strict=True) if made is not None and of == host]
        memories[host] = memories.get(host, SiteMemory()).with_pages(fresh)
    if keep:
        _keep(blog, memories)
    return [
        memories[host].repeated(made) if made is not None else frozenset()
        for made, host in zip(prints, hosts, strict=True)
    ]


def _memory(site: Site) -> SiteMemory:
    return SiteMemory(pages=tuple(PagePrint(url=page["url"], blocks=tuple(page["blocks"])) for page in site.pages))


def _keep(blog: int, memories: dict[str, SiteMemory]) -> None:
    """Keep what is known of sites. Of two readings at once the later wins."""
    now = wiring.clock()()
    rows = [
        Site(
            blog_id=blog,
            host=host,
            pages=[{"url": page.url, "blocks": list(page.blocks)} for page in memory.pages],
            changed_at=now,
        )
        for host, memory in sorted(memories.items())
        if host and memory.pages
    ]
    with transaction.atomic():
        Site.objects.bulk_create(
            rows, update_conflicts=True, unique_fields=["blog", "host"], update_fields=["pages", "changed_at"]
        )
        newest = Site.objects.filter(blog_id=blog).order_by("-changed_at", "-pk")
        Site.objects.filter(pk__in=list(newest.values_list("pk", flat=True)[_MOST_SITES:])).delete()
