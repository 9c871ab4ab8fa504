"""Amounts and times as the language of the blog writes them (CLDR)."""

from datetime import datetime
from decimal import Decimal

from babel import Locale, UnknownLocaleError
from babel.dates import format_skeleton, format_time
from babel.numbers import format_currency
from django.utils import timezone
from django.utils.translation import get_language

__all__ = ["locale_in_force", "said_day", "said_language", "said_moment", "said_money"]


def locale_in_force() -> Locale:
    """Return the locale of the language in force, British English where CLDR has none."""
    try:
        return Locale.parse(get_language() or "en-gb", sep="-")
    except (UnknownLocaleError, ValueError):
        return Locale("en", "GB")


def said_language(tag: str) -> str:
    """Return what a language (BCP 47) calls itself, or its tag where CLDR does not know it."""
    try:
        locale = Locale.parse(tag, sep="-")
    except (UnknownLocaleError, ValueError):
        return tag
    return (locale.get_display_name(locale) or tag).capitalize()


def said_money(amount: Decimal, currency: str) -> str:
    """Return an amount of a currency (ISO 4217)."""
    return format_currency(amount, currency, locale=locale_in_force())


def said_day(moment: datetime) -> str:
    """Return a day in short, with its year."""
    return format_skeleton("yMMMd", timezone.localtime(moment), locale=locale_in_force())


def said_moment(moment: datetime, now: datetime) -> str:
    """Return a time of today, or a day with its time."""
    local, locale = timezone.localtime(moment), locale_in_force()
    said = format_time(local, "short", locale=locale)
    if local.date() == timezone.localtime(now).date():
        return said
    return f"{format_skeleton('MMMd', local, locale=locale)}, {said}"
