"""Polite fetching of pages: robots.txt (RFC 9309) is read first, and its pause is kept."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime, timedelta
from urllib.parse import urljoin

from glyptarch_server import wiring
from glyptarch_server.wiring import USER_AGENT, FetchCode, Fetched, FetchError, FetchPortal, FetchRequest, Robots

__all__ = ["fetch_pages", "within"]

_robots: dict[str, tuple[datetime, Robots]] = {}
_MOST_SITES = 1000
_ROBOTS_HOLD = timedelta(hours=1)
_CLOSED_HOLD = timedelta(minutes=10)
_CLOSES = frozenset(
    {FetchCode.SERVER_ERROR, FetchCode.UNREACHABLE, FetchCode.TOO_SLOW, FetchCode.CUT_OFF, FetchCode.TLS}
)


def _is_fresh(address: str, now: datetime) -> bool:
    cached = _robots.get(address)
    if cached is None:
        return False
    hold = _CLOSED_HOLD if cached[1].is_closed else _ROBOTS_HOLD
    return timedelta() <= now - cached[0] < hold


def _read_robots(addresses: Sequence[str], fetcher: FetchPortal, now: datetime) -> None:
    """Fetch the robots.txt of sites and cache it for an hour.

    RFC 9309, 2.4 allows a day. The oldest are dropped.
    """
    answers = fetcher.fetch_all([FetchRequest(url=address) for address in addresses])
    for address, answer in zip(addresses, answers, strict=True):
        _robots.pop(address, None)
        _robots[address] = now, _rules_of(answer)
    while len(_robots) > max(_MOST_SITES, len(addresses)):
        _robots.pop(next(iter(_robots)))


def _rules_of(answer: Fetched | FetchError) -> Robots:
    """Return the rules of an answer (RFC 9309, 2.3.1).

    Without a robots.txt there are none; where server or network fail, the site is closed.
    """
    if isinstance(answer, Fetched):
        return Robots.read(answer.body, USER_AGENT)
    return Robots(is_closed=answer.code in _CLOSES)


def _may_follow(url: str) -> bool:
    """Whether a redirect may be followed, as far as the robots.txt of its site is known."""
    known = _robots.get(_robots_address(url))
    return known is None or known[1].allows(url)


def _refusal(url: str) -> FetchError:
    known = _robots.get(_robots_address(url))
    if known is not None and known[1].is_closed:
        minutes = round(_CLOSED_HOLD.total_seconds() / 60)
        message = f"The robots.txt of {url} cannot be read now, so its site is left alone for {minutes} minutes."
        return FetchError(FetchCode.ROBOTS, message)
    return FetchError(FetchCode.ROBOTS, f"The site's robots.txt does not let us read {url}.")


def _robots_address(url: str) -> str:
    """Return the address of a site's robots.txt.

    Empty for an invalid address, which the fetcher refuses.
    """
    try:
        return urljoin(url, "/robots.txt")
    except ValueError:
        return ""


def _allowed_requests(
    requests: Sequence[FetchRequest], fetcher: FetchPortal, now: datetime
) -> list[FetchRequest | None]:
    """Return requests with the pause of their site.

    None where robots.txt forbids one.
    """
    sites = [_robots_address(request.url) for request in requests]
    wanted = dict.fromkeys(address for address in sites if address and not _is_fresh(address, now))
    _read_robots(list(wanted), fetcher, now)
    allowed: list[FetchRequest | None] = []
    for request, address in zip(requests, sites, strict=True):
        robots = _robots[address][1] if address else Robots()
        pause = max(request.pause_ms, robots.pause_ms())
        may = robots.allows(request.url)
        allowed.append(replace(request, pause_ms=pause, may_follow=_may_follow) if may else None)
    return allowed


def within(
    urls: Sequence[str],
    milliseconds: int,
    request_for: Callable[[str], FetchRequest],
    fetcher: FetchPortal,
    now: datetime,
) -> list[str]:
    """Return as many addresses of one site as fit into some milliseconds.

    They are asked at the pause of the site.
    """
    if not urls:
        return []
    (first,) = _allowed_requests([request_for(urls[0])], fetcher, now)
    pause = first.pause_ms if first else 0
    return list(urls[: max(1, milliseconds // pause)] if pause else urls)


def fetch_pages(
    urls: Sequence[str], *, request_for: Callable[[str], FetchRequest], fetcher: FetchPortal, now: datetime
) -> list[Fetched | FetchError]:
    """Fetch pages in order.

    One forbidden by robots.txt becomes an error that says so.
    """
    requests = [request_for(url) for url in urls]
    allowed = _allowed_requests(requests, fetcher, now)
    plain = iter(fetcher.fetch_all([request for request in allowed if request is not None and not request.rendered]))
    answers = (
        wiring.renderer().render(request, fetcher) if request.rendered else next(plain)
        for request in allowed
        if request is not None
    )
    return [
        _refusal(request.url) if kept is None else next(answers)
        for request, kept in zip(requests, allowed, strict=True)
    ]
