"""One request and answer of a platform in plain values, so that another process can read it."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from pydantic import ValidationError

from glyptarch_core.errors import CostlyEntryError, ParseError
from glyptarch_core.item import features_of
from glyptarch_core.platforms import platform_of
from glyptarch_core.platforms.model import Answer, Ask, Parameters, PlatformPage
from glyptarch_core.readers import ReadWarning
from glyptarch_core.readers.fitting import fit_item

__all__ = ["Source", "ask_for", "read_answer"]


@dataclass(frozen=True, slots=True, kw_only=True)
class Source:
    """A platform source: the key of its platform, its parameters as JSON, and its own key."""

    platform: str
    parameters: Mapping[str, Any]
    key: str = ""


def _platform_and_parameters(source: Source) -> tuple[Any, Parameters]:
    platform = platform_of(source.platform)
    if platform is None:
        raise ParseError("no_platform", f"There is no platform “{source.platform}”.")
    try:
        return platform, platform.parameters.model_validate(source.parameters)
    except ValidationError as error:
        raise ParseError("bad_parameters", f"The parameters are no longer valid: {error.errors()[0]['msg']}") from error


def ask_for(source: Source, words: str, cursor: str) -> Ask:
    """Return the request for a page. Raises ParseError for invalid parameters."""
    platform, parameters = _platform_and_parameters(source)
    ask: Ask = platform.ask(parameters, words, cursor)
    return ask


def read_answer(source: Source, answer: Answer, words: str, cursor: str) -> PlatformPage:
    """Read an answer: its items are bounded, name the words that found them, and have features.

    Raises ParseError.
    """
    platform, parameters = _platform_and_parameters(source)
    page: PlatformPage = platform.read(answer, parameters, source=source.key, cursor=cursor)
    items, features, warnings = [], [], list(page.warnings)
    for number, item in enumerate(page.items, start=1):
        facts = {**item.facts, "keyword": words} if words else item.facts
        fitted, left_out = fit_item(replace(item, facts=facts), number)
        warnings.extend(left_out)
        try:
            read = features_of(fitted)
        except CostlyEntryError:
            warnings.append(ReadWarning(code="entry_too_costly", entry=number))
            continue
        items.append(fitted)
        features.append(read)
    return replace(page, items=tuple(items), features=tuple(features), warnings=tuple(warnings))
