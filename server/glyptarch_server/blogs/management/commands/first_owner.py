"""``manage.py first_owner``: make the first person and the first blog of a new installation."""

import getpass
import sys
from typing import Any

from django.core.management.base import BaseCommand, CommandError, CommandParser
from django.db import transaction

from glyptarch_server import wiring
from glyptarch_server.accounts.actions import make_user
from glyptarch_server.blogs.actions import make_blog
from glyptarch_server.common.problems import ProblemError

__all__ = ["Command"]


class Command(BaseCommand):
    """Create the first person and blog.

    Everybody else is invited from the desk.
    """

    help = "Make the first person and the first blog. The password is asked for, or read from the standard input."

    def add_arguments(self, parser: CommandParser) -> None:
        """Add who and which blog."""
        parser.add_argument("name", help="the name to sign in with")
        parser.add_argument("--full-name", default="")
        parser.add_argument("--email", default="")
        parser.add_argument("--blog", required=True, help="the last part of the blog's address: night-sky")
        parser.add_argument("--title", required=True, help="the name of the blog")
        parser.add_argument("--language", default="en")
        parser.add_argument("--time-zone", default="UTC")

    def handle(self, *_args: Any, **options: Any) -> None:  # noqa: ANN401
        """Make both, or nothing."""
        password = getpass.getpass("Password: ") if sys.stdin.isatty() else sys.stdin.readline().rstrip("\n")
        try:
            with transaction.atomic():
                owner = make_user(options["name"], password, full_name=options["full_name"], email=options["email"])
                owner.is_superuser = True
                owner.save(update_fields=["is_superuser"])
                make_blog(
                    slug=options["blog"],
                    title=options["title"],
                    tagline="",
                    language=options["language"],
                    time_zone=options["time_zone"],
                    owner=owner,
                    now=wiring.clock()(),
                )
        except ProblemError as problem:
            raise CommandError(problem.detail) from problem
        self.stdout.write(f"{owner.username} owns the blog “{options['title']}”.")
