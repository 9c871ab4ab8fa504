"""Django's command line."""

import os
import sys

import django
from django.core.management import execute_from_command_line
from glyptarch_server.common.process import importing

if __name__ == "__main__":
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "glyptarch_server.config.settings")
    with importing():
        django.setup()
    execute_from_command_line(sys.argv)
