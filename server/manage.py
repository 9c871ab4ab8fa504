"""Django's command line."""

import os
import sys

import django
from django.core.management import execute_from_command_line
from glyptarch_server.common.process import importing
from glyptarch_server.common.start import check_database

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "glyptarch_server.config.settings")
    with importing():
        django.setup()
    if sys.argv[1:2] in (["migrate"], ["backup"], ["restore"], ["first_owner"]):
        check_database(must_answer=True)
    execute_from_command_line(sys.argv)
