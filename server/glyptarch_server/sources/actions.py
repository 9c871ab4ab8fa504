"""Changing and removing sources, and patterns of addresses."""

from collections.abc import Callable, Mapping, Sequence
from datetime import datetime
from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import F
from glyptarch_core.errors import Fault
from glyptarch_core.item import Right
from glyptarch_core.pages.completing import text_at

from glyptarch_server.audit.actions import record
from glyptarch_server.blogs.models import Blog
from glyptarch_server.common.hosts import checked_hosts
from glyptarch_server.common.lookups import AnyOf
from glyptarch_server.common.problems import Conflict, Invalid
from glyptarch_server.common.versions import lock_version
from glyptarch_server.common.yaml_text import YamlFault, load_yaml, write_yaml
from glyptarch_server.pages.queries import reader_of
from glyptarch_server.platforms.actions import checked_parameters
from glyptarch_server.sources import queries
from glyptarch_server.sources.access import access_of, sealed
from glyptarch_server.sources.adding import asked_of
from glyptarch_server.sources.models import AddressPattern, FullText, PlatformAsk, Source, SourceAccess, SourceState

__all__ = [
    "asks_as_yaml",
    "asks_from_yaml",
    "change_access",
    "change_asks",
    "change_many",
    "change_source",
    "keep_pattern",
    "remove_pattern",
    "remove_source",
    "set_access_of_many",
    "set_rights_of_many",
]


def keep_pattern(blog: Blog, name: str, address: str) -> AddressPattern:
    """Store an address template.

    Raises Invalid without exactly one placeholder, Conflict for a used name.
    """
    if queries.place_of(address) == "":
        message = "Write the name of what is filled in once, in braces: https://film.example/feed?channel={channel}"
        raise Invalid(message, faults=[Fault(path="address", message=message)])
    try:
        with transaction.atomic():
            row = AddressPattern.objects.create(blog=blog, name=name, address=address)
            record("pattern.kept", name, blog=blog.pk, after=address)
            return row
    except IntegrityError as error:
        raise Conflict(f"There is a pattern “{name}” already.") from error


def remove_pattern(blog: Blog, number: int) -> None:
    """Remove an address template.

    Sources made with it stay.
    """
    row = queries.pattern_of(blog, number)
    with transaction.atomic():
        record("pattern.removed", row.name, blog=blog.pk)
        row.delete()


def _ask_of(source: Source) -> PlatformAsk:
    if source.ask is None:
        raise Conflict("This source is no platform.")
    return source.ask


def asks_as_yaml(source: Source) -> str:
    """Return a source's platform parameters as YAML. Raises Conflict for other sources."""
    ask = _ask_of(source)
    # Default values are not written.
    parameters = {name: value for name, value in ask.parameters.items() if value not in ("", None, [], {})}
    written = {
        "platform": ask.platform,
        "title": source.title,
        "parameters": parameters,
        "search_words": ask.search_words,
    }
    return write_yaml(written)


def asks_from_yaml(text: str) -> dict[str, Any]:
    """Parse the YAML of :func:`asks_as_yaml`. Raises Invalid with the reason."""
    try:
        data = load_yaml(text)
    except YamlFault as fault:
        raise Invalid(f"This YAML cannot be read: {fault}.") from fault
    if not isinstance(data, dict) or not isinstance(data.get("parameters", {}), dict):
        raise Invalid("This YAML names no platform. Begin it with “platform:”, then “parameters:”.")
    platform = str(data.get("platform", ""))
    lines = data.get("search_words") or []
    words = [line if isinstance(line, dict) else {"text": line} for line in lines] if isinstance(lines, list) else []
    return {
        "platform": platform,
        "title": str(data.get("title") or "")[:300],
        "parameters": checked_parameters(platform, data.get("parameters") or {}),
        "search_words": [{"text": str(line.get("text", ""))[:200], "on": _is_on(line)} for line in words[:100]],
    }


def _is_on(line: Mapping[Any, Any]) -> bool:
    # YAML 1.1 reads a bare “on” as true, as a key as well.
    return line.get("on", line.get("True", True)) is not False


def change_asks(
    source: Source,
    *,
    connection: str,
    parameters: Mapping[str, Any],
    search_words: Sequence[Mapping[str, Any]],
    begun: int | None = None,
) -> None:
    """Change a source's platform parameters.

    Raises Invalid, and Conflict where somebody has changed the source since.
    """
    ask = _ask_of(source)
    row, checked = asked_of(source.blog, ask.platform, connection, parameters)
    before = {"parameters": ask.parameters, "search_words": ask.search_words}
    ask.connection, ask.parameters, ask.search_words = row, checked, list(search_words)
    with transaction.atomic():
        lock_version(source, begun, source.title)
        source.save(update_fields=["version"])
        ask.save(update_fields=["connection", "parameters", "search_words"])
        # What the last answer to other parameters said of its state holds no more.
        SourceState.objects.filter(source=source).update(etag="", last_modified="")
        after = {"parameters": ask.parameters, "search_words": ask.search_words}
        record("source.changed", source.title, blog=source.blog_id, before=before, after=after)


_CHANGEABLE = ["title", "right", "right_words", "attribution", "keyword", "reads_pages", "rendered", "rendered_hosts"]
_TEXT_FIELDS = ["words", "reader_id", "selector"]


def _audited(source: Source) -> dict[str, Any]:
    text = {f"text_{name}": getattr(source.full_text, name) for name in _TEXT_FIELDS}
    return {name: getattr(source, name) for name in _CHANGEABLE} | text


def change_source(
    source: Source,
    title: str,
    *,
    right: Right,
    words: int,
    attribution: str,
    keyword: str = "",
    reads_pages: bool = False,
    full_text_words: int = 0,
    text_reader: str = "",
    text_selector: str = "",
    rendered: bool = False,
    rendered_hosts: Sequence[str] = (),
    said: bool = True,
    begun: int | None = None,
) -> None:
    """Change name, rights and settings of a source.

    ``said`` tells whether a person has said its rights. Raises Invalid for a bad selector or host, NotFound for an
    unknown page reader, Conflict where somebody has changed the source since.
    """
    hosts = checked_hosts(rendered_hosts, path="rendered_hosts")
    try:
        text_at(text_selector.strip() or "p")
    except ValueError as error:
        message = f"The selector of the text cannot be read: {text_selector.strip()}"
        raise Invalid(message, faults=[Fault(path="text_selector", message=message)]) from error
    reader = reader_of(source.blog, text_reader) if text_reader else None
    before, texts = _audited(source), source.full_text
    source.title, source.right, source.right_words, source.right_said = title, right.value, words, said
    source.attribution, source.keyword = attribution.strip(), keyword.strip()
    source.reads_pages = reads_pages
    source.rendered, source.rendered_hosts = rendered, hosts
    texts.words, texts.reader, texts.selector = full_text_words, reader, text_selector.strip()
    after = _audited(source)
    with transaction.atomic():
        lock_version(source, begun, before["title"])
        source.save(update_fields=[*_CHANGEABLE, "right_said", "version"])
        texts.save()
        if before["rendered"] != after["rendered"]:
            # What was read without its scripts says nothing about what it is with them.
            SourceState.objects.filter(source=source).update(etag="", last_modified="")
        record("source.changed", source.title, blog=source.blog_id, before=before, after=after)


def change_access(
    source: Source,
    *,
    headers: Sequence[Mapping[str, str]],
    user: str,
    password: str,
    any_certificate: bool,
    pause_ms: int,
    patience_s: int = 0,
    tries: int = 1,
) -> None:
    """Change the access of a source. Empty secrets keep their value.

    The audit gets only names. Raises Invalid for a bad header.
    """
    access = source.access
    access.sealed = sealed(access_of(source), headers=headers, user=user.strip(), password=password)
    access.any_certificate, access.pause_ms, access.patience_s = any_certificate, pause_ms, patience_s
    access.tries = tries
    audited = {
        "headers": [header["name"] for header in headers],
        "sign_in": bool(user.strip()),
        "any_certificate": any_certificate,
        "pause_ms": pause_ms,
        "patience_s": patience_s,
        "tries": tries,
    }
    with transaction.atomic():
        access.save()
        record("source.access", source.title, blog=source.blog_id, after=audited)


_MOST_LOGGED = 100


def change_many(blog: Blog, sources: Sequence[Source], change: str, label: str = "", *, now: datetime) -> int:
    """Pause, resume, label, unlabel or remove sources of a blog.

    Return how many changed. Raises Invalid. The log of changes names each, or their number where they are many.
    """
    name = label.strip()
    if change in {"label", "unlabel"} and not name:
        raise Invalid("Give the label a name.", faults=[Fault(path="label", message="Give the label a name.")])
    changed: list[Source] = []
    for source in sources:
        before = (source.paused, list(source.labels), source.removed_at)
        _CHANGES[change](source, name, now)
        if before != (source.paused, source.labels, source.removed_at):
            changed.append(source)
    subjects = [source.title for source in changed]
    if len(changed) > _MOST_LOGGED:
        subjects = [f"{len(changed)} sources"]
    with transaction.atomic():
        _save_changed(changed, _FIELD_OF.get(change, "labels"))
        for subject in subjects:
            record(f"source.{_DONE[change]}", subject, blog=blog.pk, after=name or None)
    return len(changed)


def set_rights_of_many(
    blog: Blog,
    sources: Sequence[Source],
    *,
    right: Right,
    words: int,
    attribution: str | None = None,
    full_text_words: int | None = None,
) -> int:
    """Set the same rights for several sources of a blog.

    None keeps the attribution line, or the full text, that each has. Return how many changed. The log of changes names
    each, or their number where they are many.
    """
    wanted: dict[str, Any] = {"right": right.value, "right_words": words}
    if attribution is not None:
        wanted["attribution"] = attribution.strip()
    changed = [
        source
        for source in sources
        if any(getattr(source, name) != value for name, value in wanted.items())
        or not source.right_said
        or full_text_words not in {None, source.full_text.words}
    ]
    subjects = [source.title for source in changed]
    if len(changed) > _MOST_LOGGED:
        subjects = [f"{len(changed)} sources"]
    after = wanted if full_text_words is None else wanted | {"full_text_words": full_text_words}
    with transaction.atomic():
        rows = Source.objects.filter(AnyOf("pk", [source.pk for source in changed]))
        rows.update(**wanted, right_said=True, version=F("version") + 1)
        if full_text_words is not None:
            texts = [FullText(source=source, words=full_text_words) for source in changed]
            FullText.objects.bulk_create(
                texts, update_conflicts=True, unique_fields=["source"], update_fields=["words"], batch_size=500
            )
        for subject in subjects:
            record("source.changed", subject, blog=blog.pk, after=after)
    return len(changed)


def set_access_of_many(blog: Blog, sources: Sequence[Source], wanted: Mapping[str, Any]) -> int:
    """Change how several sources of a blog are asked, and keep their secrets.

    ``wanted`` has the fields to set. Return how many changed. The log of changes names each, or their number where
    they are many.
    """
    changed = [
        source for source in sources if any(getattr(source.access, name) != value for name, value in wanted.items())
    ]
    rows = [source.access for source in changed]
    for row in rows:
        for name, value in wanted.items():
            setattr(row, name, value)
    subjects = [source.title for source in changed]
    if len(changed) > _MOST_LOGGED:
        subjects = [f"{len(changed)} sources"]
    with transaction.atomic():
        if changed:
            # Some have a row, and for others one is made; what is sealed in a row is not written.
            SourceAccess.objects.bulk_create(
                rows, update_conflicts=True, unique_fields=["source"], update_fields=list(wanted), batch_size=500
            )
        for subject in subjects:
            record("source.access", subject, blog=blog.pk, after=dict(wanted))
    return len(changed)


def _save_changed(changed: Sequence[Source], field: str) -> None:
    if field == "labels":
        Source.objects.bulk_update(changed, [field], batch_size=500)
    elif changed:
        # All get the same value.
        rows = Source.objects.filter(AnyOf("pk", [source.pk for source in changed]))
        rows.update(**{field: getattr(changed[0], field)})


def _pause(source: Source, _label: str, _now: datetime) -> None:
    source.paused = True


def _resume(source: Source, _label: str, _now: datetime) -> None:
    source.paused = False


def _label(source: Source, label: str, _now: datetime) -> None:
    source.labels = sorted({*source.labels, label[:60]})


def _unlabel(source: Source, label: str, _now: datetime) -> None:
    source.labels = [kept_label for kept_label in source.labels if kept_label != label]


def _remove(source: Source, _label: str, now: datetime) -> None:
    source.removed_at = now


_CHANGES: dict[str, Callable[[Source, str, datetime], None]] = {
    "pause": _pause,
    "resume": _resume,
    "label": _label,
    "unlabel": _unlabel,
    "remove": _remove,
}
_FIELD_OF = {"pause": "paused", "resume": "paused", "remove": "removed_at"}
_DONE = {"pause": "paused", "resume": "resumed", "label": "labelled", "unlabel": "unlabelled", "remove": "removed"}


def remove_source(source: Source, *, now: datetime) -> None:
    """Remove a source. Its items and posts stay."""
    source.removed_at = now
    with transaction.atomic():
        source.save(update_fields=["removed_at"])
        record("source.removed", source.title, blog=source.blog_id, before=source.url)
