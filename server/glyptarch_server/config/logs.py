"""Logging: one line per event, as text or JSON, with request and run, and without secrets."""

import re
from collections.abc import MutableMapping
from typing import Any

import structlog

__all__ = ["logging_settings", "without_secrets"]

_SECRET_NAME = re.compile(r"pass(word|phrase)|secret|token|authorization|cookie|api_?key", re.IGNORECASE)
_SECRET_TEXT = re.compile(
    r"""(?P<before>glyptarch_(?=[\w-]{40})|[Bb]earer\s+|[Bb]asic\s+|://[^/\s:@]{1,100}:|
        (?:pass(?:word|phrase)|secret|token|api_?key)["']?\s*[=:]\s*["']?)(?P<secret>[^\s"'&@]{3,})""",
    re.VERBOSE,
)
_HIDDEN = "***"


def _masked(value: Any) -> Any:  # noqa: ANN401 - whatever is logged
    if isinstance(value, str):
        return _SECRET_TEXT.sub(lambda match: match["before"] + _HIDDEN, value)
    if isinstance(value, dict):
        return {key: _HIDDEN if _SECRET_NAME.search(str(key)) else _masked(inner) for key, inner in value.items()}
    if isinstance(value, list | tuple):
        return [_masked(inner) for inner in value]
    return value


def without_secrets(_logger: object, _name: str, event: MutableMapping[str, Any]) -> MutableMapping[str, Any]:
    """Mask passwords, tokens and keys, recognised by name or by pattern."""
    for key, value in event.items():
        if not key.startswith("_"):
            event[key] = _HIDDEN if _SECRET_NAME.search(key) and value else _masked(value)
    return event


def logging_settings(*, as_json: bool) -> dict[str, Any]:
    """Return Django's LOGGING, which applies the same steps to the logs of all libraries."""
    common = [
        structlog.contextvars.merge_contextvars,
        structlog.stdlib.add_log_level,
        structlog.stdlib.add_logger_name,
        structlog.processors.TimeStamper(fmt="iso", utc=True),
    ]
    last = (
        structlog.processors.JSONRenderer() if as_json else structlog.dev.ConsoleRenderer(colors=False, pad_event_to=0)
    )
    return {
        "version": 1,
        "disable_existing_loggers": False,
        "formatters": {
            "line": {
                "()": structlog.stdlib.ProcessorFormatter,
                "foreign_pre_chain": common,
                "processors": [
                    structlog.stdlib.ProcessorFormatter.remove_processors_meta,
                    # structlog's console renderer would show local variables, passwords among them, after the masking.
                    structlog.processors.format_exc_info,
                    without_secrets,
                    last,
                ],
            }
        },
        "handlers": {"console": {"class": "logging.StreamHandler", "formatter": "line"}},
        "root": {"handlers": ["console"], "level": "WARNING"},
        "loggers": {"glyptarch": {"level": "INFO"}, "django.request": {"level": "ERROR"}},
    }
