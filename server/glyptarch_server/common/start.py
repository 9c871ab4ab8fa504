"""Checks before a process begins its work, so that a wrong setting is named immediately."""

import logging
import sys

import psycopg
from django.conf import settings
from django.db import connection

__all__ = ["check_database", "end_for"]

_log = logging.getLogger("glyptarch.start")
_SECONDS = 5
# PostgreSQL's messages for wrong settings, where waiting is useless (libpq gives no code here).
_WRONG = ("password authentication failed", "no pg_hba.conf entry", "does not exist", "no password supplied")
_REMEDY = "Look at GLYPTARCH_DB_HOST, _PORT, _NAME, _USER and _PASSWORD."


def check_database(*, must_answer: bool) -> None:
    """Exit with one line when the database refuses the login.

    With ``must_answer`` also when it is unreachable. A web server or worker that starts before its database waits for
    it instead.
    """
    database = connection.settings_dict
    try:
        psycopg.connect(
            host=database["HOST"],
            port=database["PORT"],
            user=database["USER"],
            password=database["PASSWORD"],
            dbname=database["NAME"],
            connect_timeout=_SECONDS,
        ).close()
    except psycopg.OperationalError as error:
        why = str(error).strip().splitlines()[0]
        if must_answer or any(words in why for words in _WRONG):
            sys.exit(f"The database cannot be used: {why}\n{_REMEDY}")
        _log.warning("the database cannot be reached yet; the start goes on: %s", why)


def end_for(fault: str) -> None:
    """Exit for a fault of the settings in production.

    Otherwise log it.
    """
    if fault and settings.PRODUCTION:
        sys.exit(fault)
    if fault:
        _log.error("%s", fault)
