"""Units and currencies that a translation has put in the place of others.

Names of units and currencies are those of CLDR (through babel).
"""

import re
from functools import cache
from typing import Final

from babel import Locale, UnknownLocaleError
from babel.numbers import get_currency_name
from babel.units import get_unit_name

from glyptarch_core.text.words import fold

__all__ = ["strange_units"]

_CURRENCIES: Final = {"€": "EUR", "$": "USD", "£": "GBP", "¥": "JPY", "₽": "RUB", "₹": "INR", "₩": "KRW", "₺": "TRY"}
_UNITS: Final = {
    "km": "length-kilometer",
    "cm": "length-centimeter",
    "mm": "length-millimeter",
    "mi": "length-mile",
    "ft": "length-foot",
    "kg": "mass-kilogram",
    "mg": "mass-milligram",
    "lb": "mass-pound",
    "oz": "mass-ounce",
    "ml": "volume-milliliter",
    "°C": "temperature-celsius",
    "°F": "temperature-fahrenheit",
    "km/h": "speed-kilometer-per-hour",
    "mph": "speed-mile-per-hour",
    "kW": "power-kilowatt",
    "MB": "digital-megabyte",
    "GB": "digital-gigabyte",
    "TB": "digital-terabyte",
}
_SIGN = re.compile(f"[{''.join(map(re.escape, _CURRENCIES))}]")
_CODE = re.compile(rf"\b(?:{'|'.join(_CURRENCIES.values())}|CHF|SEK|NOK|DKK|PLN|CZK|HUF|CNY|AUD|CAD)\b")
_AFTER_NUMBER = re.compile(rf"\d\s?({'|'.join(sorted(map(re.escape, _UNITS), key=len, reverse=True))})(?![\w/])")
_STEM = 4


@cache
def _locale(language: str) -> Locale:
    try:
        return Locale.parse(language.replace("-", "_"))
    except (UnknownLocaleError, ValueError):
        return Locale("en")


def _currencies(text: str) -> set[str]:
    return {_CURRENCIES[sign] for sign in _SIGN.findall(text)} | set(_CODE.findall(text))


def _says(text: str, names: list[str | None]) -> bool:
    """Whether a word of one of these names stands in a text, by its beginning."""
    folded = fold(text)
    return any(fold(word)[:_STEM] in folded for name in names if name for word in name.split() if len(word) > 1)


def _names_currency(text: str, code: str, language: str) -> bool:
    locale = _locale(language)
    return _says(text, [get_currency_name(code, locale=locale), get_currency_name(code, count=2, locale=locale)])


def _names_unit(text: str, symbol: str, language: str) -> bool:
    locale = _locale(language)
    return _says(text, [get_unit_name(_UNITS[symbol], length, locale=locale) for length in ("long", "short")])


def strange_units(before: str, after: str, source: str, target: str) -> bool:
    """Whether a translation measures in other units or currencies than its text.

    A sign may become a word of the language, and a word a sign: ``12 €`` and “12 Euro”. A unit counts right after a
    number. What stands in neither list is not compared.
    """
    mine, theirs = _currencies(before), _currencies(after)
    if any(not _names_currency(before, code, source) for code in theirs - mine):
        return True
    if any(not _names_currency(after, code, target) for code in mine - theirs):
        return True
    units = set(_AFTER_NUMBER.findall(before))
    return any(not _names_unit(before, unit, source) for unit in set(_AFTER_NUMBER.findall(after)) - units)
